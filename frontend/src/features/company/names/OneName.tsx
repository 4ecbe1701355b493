import { useState, type FormEvent, type ReactNode } from 'react';
import type { SchemaKeyNameOut } from '@/api/types';
import { Button } from '@/design/Button';
import { TextField } from '@/design/Field';
import { FormError } from '@/design/FormError';
import { MergeInto, UsedBy } from '@/design/Uses';
import type { Kind } from './kinds';
import { useNaming, useUses } from './queries';

interface Props {
  kind: Kind;
  row: SchemaKeyNameOut;
  /** Into which this one can be merged. */
  others: SchemaKeyNameOut[];
  /** What is known of it besides its name. */
  facts?: ReactNode;
  canChange: boolean;
  onDone: (row: SchemaKeyNameOut) => void;
}

/** One of a kind: who uses it, its name, and the ways to be rid of it. */
export function OneName({ kind, row, others, facts, canChange, onDone }: Props) {
  const { change, merge } = useNaming(kind, onDone);
  return (
    <>
      <Uses kind={kind} row={row} />
      {facts}
      {canChange && (
        <>
          <Rename
            row={row}
            busy={change.isPending}
            onKeep={(name) => change.mutate({ row, name, retired: row.retired })}
          />
          <section aria-label="Retire" className="space-y-1">
            <p className="text-ink-soft">
              {row.retired
                ? 'It is no longer offered. Whatever uses it keeps it.'
                : 'A retired name is no longer offered. Whatever uses it keeps it.'}
            </p>
            <Button
              disabled={change.isPending}
              onClick={() => change.mutate({ row, name: row.name, retired: !row.retired })}
            >
              {row.retired ? 'Offer it again' : 'Retire it'}
            </Button>
          </section>
          <FormError error={change.error} />
          <MergeInto
            name={row.name}
            others={others.map(({ code, name }) => ({ key: code, name }))}
            busy={merge.isPending}
            error={merge.error}
            onMerge={(into) => merge.mutate({ row, into })}
          />
        </>
      )}
    </>
  );
}

function Uses({ kind, row }: { kind: Kind; row: SchemaKeyNameOut }) {
  const uses = useUses(kind, row.code);
  return (
    <section aria-label="Used by">
      <h2 className="text-base font-semibold">{row.name}</h2>
      <UsedBy uses={uses} />
    </section>
  );
}

function Rename({
  row,
  busy,
  onKeep,
}: {
  row: SchemaKeyNameOut;
  busy: boolean;
  onKeep: (name: string) => void;
}) {
  const [name, setName] = useState(row.name);
  const submit = (event: FormEvent) => {
    event.preventDefault();
    onKeep(name);
  };
  return (
    <form onSubmit={submit} aria-label="Rename" className="flex items-end gap-2">
      <TextField
        name="name"
        label="Name"
        maxLength={80}
        className="flex-1"
        value={name}
        onChange={(event) => setName(event.target.value)}
      />
      <Button type="submit" disabled={busy || !name.trim() || name === row.name}>
        Rename everywhere
      </Button>
    </form>
  );
}
