import { useState, type ComponentType, type FormEvent } from 'react';
import { sentenceOf } from '@/api/client';
import type { SchemaKeyNameOut } from '@/api/types';
import { Button } from '@/design/Button';
import { TextField } from '@/design/Field';
import { FormError } from '@/design/FormError';
import { Notice } from '@/design/Notice';
import { may, useSession } from '@/features/people';
import { KINDS, type Kind } from './kinds';
import { OneName } from './OneName';
import { useNames, useNaming } from './queries';
import { VehicleFacts } from './VehicleFacts';

export const SkillsPage = () => <NamesPage kind={KINDS.skills} />;
export const CertificatesPage = () => <NamesPage kind={KINDS.certificates} />;
export const VehiclesPage = () => <NamesPage kind={KINDS.vehicles} Facts={VehicleFacts} />;
export const TagsPage = () => <NamesPage kind={KINDS.tags} />;

/** One kind of what the company names: added, renamed, retired, merged; who holds one is shown first. */
function NamesPage({ kind, Facts }: { kind: Kind; Facts?: ComponentType<{ code: string }> }) {
  const names = useNames(kind);
  const canChange = may(useSession(), 'change_settings');
  const [chosen, setChosen] = useState<string | null>(null);
  const rows = names.data ?? [];
  const row = rows.find((one) => one.code === chosen);
  return (
    <div className="grid h-full min-h-0 grid-cols-[20rem_minmax(0,1fr)]">
      <div className="min-h-0 overflow-y-auto border-r border-hairline">
        <header className="space-y-2 px-3 py-2">
          <h1 className="text-lg font-semibold">{kind.title}</h1>
          <p className="text-sm text-ink-soft">{kind.about}</p>
          {canChange && <Add kind={kind} onAdded={setChosen} />}
        </header>
        {names.isError && <Notice tone="bad">{sentenceOf(names.error)}</Notice>}
        <ul className="divide-y divide-hairline border-y border-hairline text-sm" aria-label={kind.title}>
          {rows.map((one) => (
            <Row key={one.code} row={one} chosen={one.code === chosen} onChoose={setChosen} />
          ))}
          {names.data?.length === 0 && <li className="px-3 py-2 text-ink-soft">There are none yet.</li>}
        </ul>
      </div>
      <div className="min-h-0 overflow-y-auto p-4">
        {row ? (
          <div className="max-w-xl space-y-6 text-sm">
            <OneName
              key={`${row.code} ${row.version}`}
              kind={kind}
              row={row}
              facts={Facts && canChange && <Facts key={row.code} code={row.code} />}
              others={rows.filter((one) => one.code !== row.code && !one.retired)}
              canChange={canChange}
              onDone={(kept) => setChosen(kept.code)}
            />
          </div>
        ) : (
          <p className="text-ink-soft">Choose a {kind.one} to see who uses it.</p>
        )}
      </div>
    </div>
  );
}

interface RowProps {
  row: SchemaKeyNameOut;
  chosen: boolean;
  onChoose: (code: string) => void;
}

const Row = ({ row, chosen, onChoose }: RowProps) => (
  <li className={chosen ? 'bg-copper-wash' : ''}>
    <button
      type="button"
      aria-current={chosen}
      className="flex w-full items-baseline gap-2 px-3 py-1 text-left hover:bg-wash"
      onClick={() => onChoose(row.code)}
    >
      <span className={`flex-1 ${row.retired ? 'text-ink-soft' : 'font-semibold'}`}>{row.name}</span>
      {row.retired && <span className="text-ink-soft">retired</span>}
      {row.holders != null && <Holders count={row.holders} />}
    </button>
  </li>
);

const Holders = ({ count }: { count: number }) => (
  <span className={count === 0 ? 'text-bad' : 'text-ink-soft'}>
    {count === 0 ? 'nobody' : count === 1 ? '1 person' : `${count} people`}
  </span>
);

function Add({ kind, onAdded }: { kind: Kind; onAdded: (code: string) => void }) {
  const [name, setName] = useState('');
  const { add } = useNaming(kind, (row) => {
    setName('');
    onAdded(row.code);
  });
  const submit = (event: FormEvent) => {
    event.preventDefault();
    add.mutate(name);
  };
  return (
    <form onSubmit={submit} aria-label={`Add a ${kind.one}`} className="space-y-1">
      <div className="flex items-end gap-2">
        <TextField
          name="name"
          label={`New ${kind.one}`}
          maxLength={80}
          className="flex-1"
          value={name}
          onChange={(event) => setName(event.target.value)}
        />
        <Button type="submit" rank="main" disabled={!name.trim() || add.isPending}>
          Add
        </Button>
      </div>
      <FormError error={add.error} />
    </form>
  );
}
