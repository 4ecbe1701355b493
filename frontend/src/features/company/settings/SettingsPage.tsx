import { useState, type ComponentProps, type FormEvent } from 'react';
import { toast } from 'sonner';
import { Problem, sentenceOf } from '@/api/client';
import type { SchemaSettingOut, SchemaSettingsOut } from '@/api/types';
import { Button } from '@/design/Button';
import { Notice } from '@/design/Notice';
import { may, useSession } from '@/features/people';
import { useChangeSettings } from '../commands';
import { useSettings } from '../queries';
import { SettingControl } from './SettingControl';

/** The company's settings, each with what it does. */
export function SettingsPage() {
  const settings = useSettings();
  if (settings.isError) return <Notice tone="bad">{sentenceOf(settings.error)}</Notice>;
  if (!settings.data) return <p className="p-4 text-ink-soft">Fetching…</p>;
  return <SettingsForm key={settings.data.version} settings={settings.data} />;
}

function SettingsForm({ settings }: { settings: SchemaSettingsOut }) {
  const [changes, setChanges] = useState<Record<string, unknown>>({});
  const session = useSession();
  const canChange = may(session, 'change_settings');
  const change = useChangeSettings();
  const [wanted, setWanted] = useState('');
  const failure = change.error;
  const field = failure instanceof Problem ? failure.field : '';
  // What was changed, or refused, stays in sight: it is kept with the rest.
  const rows = settings.settings.filter(
    (row) => row.key in changes || row.key === field || isAbout(row, wanted),
  );
  const submit = (event: FormEvent) => {
    event.preventDefault();
    change.mutate(
      { version: settings.version, changes },
      { onSuccess: () => toast.success('The settings are changed') },
    );
  };
  const changed = Object.keys(changes).length > 0;
  return (
    <form onSubmit={submit} className="p-4" aria-label="Settings">
      <h1 className="text-lg font-semibold">Settings</h1>
      {!canChange && <p className="text-sm text-ink-soft">Only an administrator can change them.</p>}
      <Find wanted={wanted} onWanted={setWanted} found={rows.length} all={settings.settings.length} />
      {rows.length === 0 && <p className="text-sm text-ink-soft">No setting is about that.</p>}
      {[...new Set(rows.map((row) => row.group))].map((group) => (
        <fieldset key={group} className="mt-2 max-w-4xl" disabled={!canChange}>
          <legend className="w-full border-b border-hairline pb-1 font-semibold">{group}</legend>
          {rows
            .filter((row) => row.group === group)
            .map((row) => (
              <Setting
                key={row.key}
                row={row}
                value={row.key in changes ? changes[row.key] : row.value}
                onChange={(value) => setChanges((old) => ({ ...old, [row.key]: value }))}
                wrong={field === row.key ? sentenceOf(failure) : undefined}
              />
            ))}
        </fieldset>
      ))}
      <div className="sticky bottom-0 mt-2 flex items-center gap-3 border-t border-hairline bg-paper py-2">
        <Button type="submit" rank="main" disabled={!canChange || !changed || change.isPending}>
          Save settings
        </Button>
        {changed && (
          <Button rank="quiet" onClick={() => setChanges({})}>
            As they were
          </Button>
        )}
        {failure && !field && <Notice tone="bad">{sentenceOf(failure)}</Notice>}
      </div>
    </form>
  );
}

interface FindProps {
  wanted: string;
  onWanted: (wanted: string) => void;
  found: number;
  all: number;
}

const Find = ({ wanted, onWanted, found, all }: FindProps) => (
  <div className="sticky top-0 z-10 flex max-w-4xl items-baseline gap-3 bg-paper py-2 text-sm">
    <input
      type="search"
      aria-label="Find a setting"
      placeholder="Find a setting…"
      value={wanted}
      onChange={(event) => onWanted(event.target.value)}
      onKeyDown={(event) => event.key === 'Enter' && event.preventDefault()}
      className="w-64 rounded-sm border border-hairline bg-sheet px-2 py-1"
    />
    <span role="status" className="text-ink-soft">
      {wanted.trim() && `${found} of ${all}`}
    </span>
  </div>
);

interface SettingProps extends ComponentProps<typeof SettingControl> {
  /** Why it was refused. */
  wrong: string | undefined;
}

const Setting = ({ wrong, ...control }: SettingProps) => (
  <div className="grid grid-cols-[13rem_1fr_minmax(0,22rem)] items-start gap-3 border-b border-hairline/60 py-2 text-sm">
    <label htmlFor={control.row.key} className="font-semibold">
      {control.row.name}
    </label>
    <div>
      <SettingControl {...control} />
      {wrong && (
        <p role="alert" className="text-bad">
          {wrong}
        </p>
      )}
    </div>
    <p className="text-ink-soft">{control.row.explanation}</p>
  </div>
);

/** Whether all the words stand in its name, its group or what it does. */
function isAbout(row: SchemaSettingOut, wanted: string): boolean {
  const all = `${row.name} ${row.group} ${row.explanation}`.toLowerCase();
  return wanted
    .toLowerCase()
    .split(/\s+/)
    .every((word) => all.includes(word));
}
