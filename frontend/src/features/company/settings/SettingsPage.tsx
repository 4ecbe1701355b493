import { useState, type FormEvent } from 'react';
import { toast } from 'sonner';
import { Problem, sentenceOf } from '@/api/client';
import type { SchemaSettingOut, SchemaSettingsOut } from '@/api/types';
import { Button } from '@/design/Button';
import { Notice } from '@/design/Notice';
import { may, useSession } from '@/features/people';
import { fillIn } from '@/shared/templates';
import { useChangeSettings } from '../commands';
import { useSettings } from '../queries';

const DAYS = ['Monday', 'Tuesday', 'Wednesday', 'Thursday', 'Friday', 'Saturday', 'Sunday'];
const SAMPLE: Record<string, string> = {
  company: 'Hallam & Reyne Lift and Door',
  customer: 'Varn Ferries',
  order: 'W-1042',
  request: 'R-1017',
  site: 'Ferry Terminal',
  window: 'on Tue 24 Nov between 08:00 and 10:00',
  technician: 'Ivor Larkin',
  job: 'Noisy door',
  reason: 'the part has not come',
  number: '1042',
  year: '2026',
};

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
  const groups = [...new Set(rows.map((row) => row.group))];
  const submit = (event: FormEvent) => {
    event.preventDefault();
    change.mutate(
      { version: settings.version, changes },
      { onSuccess: () => toast.success('The settings are changed') },
    );
  };
  return (
    <form onSubmit={submit} className="p-4" aria-label="Settings">
      <h1 className="text-lg font-semibold">Settings</h1>
      {!canChange && <p className="text-sm text-ink-soft">You see them; an administrator changes them.</p>}
      <div className="sticky top-0 z-10 flex max-w-4xl items-baseline gap-3 bg-paper py-2 text-sm">
        <input
          type="search"
          aria-label="Find a setting"
          placeholder="Find a setting…"
          value={wanted}
          onChange={(event) => setWanted(event.target.value)}
          onKeyDown={(event) => event.key === 'Enter' && event.preventDefault()}
          className="w-64 rounded-sm border border-hairline bg-sheet px-2 py-1"
        />
        <span role="status" className="text-ink-soft">
          {wanted.trim() && `${rows.length} of ${settings.settings.length}`}
        </span>
      </div>
      {rows.length === 0 && <p className="text-sm text-ink-soft">No setting is about that.</p>}
      {groups.map((group) => (
        <fieldset key={group} className="mt-2 max-w-4xl" disabled={!canChange}>
          <legend className="w-full border-b border-hairline pb-1 font-semibold">{group}</legend>
          {rows
            .filter((row) => row.group === group)
            .map((row) => (
              <div
                key={row.key}
                className="grid grid-cols-[13rem_1fr_minmax(0,22rem)] items-start gap-3 border-b border-hairline/60 py-2 text-sm"
              >
                <label htmlFor={row.key} className="font-semibold">
                  {row.name}
                </label>
                <div>
                  <Control
                    row={row}
                    value={row.key in changes ? changes[row.key] : row.value}
                    onChange={(value) => setChanges((old) => ({ ...old, [row.key]: value }))}
                  />
                  {field === row.key && (
                    <p role="alert" className="text-bad">
                      {sentenceOf(failure)}
                    </p>
                  )}
                </div>
                <p className="text-ink-soft">{row.explanation}</p>
              </div>
            ))}
        </fieldset>
      ))}
      <div className="sticky bottom-0 mt-2 flex items-center gap-3 border-t border-hairline bg-paper py-2">
        <Button
          type="submit"
          rank="main"
          disabled={!canChange || Object.keys(changes).length === 0 || change.isPending}
        >
          Keep settings
        </Button>
        {Object.keys(changes).length > 0 && (
          <Button rank="quiet" onClick={() => setChanges({})}>
            As they were
          </Button>
        )}
        {failure && !field && <Notice tone="bad">{sentenceOf(failure)}</Notice>}
      </div>
    </form>
  );
}

/** Whether all the words stand in its name, its group or what it does. */
function isAbout(row: SchemaSettingOut, wanted: string): boolean {
  const all = `${row.name} ${row.group} ${row.explanation}`.toLowerCase();
  return wanted
    .toLowerCase()
    .split(/\s+/)
    .every((word) => all.includes(word));
}

const BOX = 'w-full rounded-sm border border-hairline bg-sheet px-2 py-1.5';

function Control({
  row,
  value,
  onChange,
}: {
  row: SchemaSettingOut;
  value: unknown;
  onChange: (value: unknown) => void;
}) {
  if (row.kind === 'yes_no')
    return (
      <input
        id={row.key}
        type="checkbox"
        checked={Boolean(value)}
        onChange={(event) => onChange(event.target.checked)}
      />
    );
  if (row.kind === 'number')
    return (
      <span className="flex items-center gap-2">
        <input
          id={row.key}
          inputMode="numeric"
          className={`${BOX} figures w-24!`}
          value={String(value)}
          onChange={(event) => {
            const typed = event.target.value.trim();
            onChange(/^\d+$/.test(typed) ? Number(typed) : typed);
          }}
        />
        {row.unit}
      </span>
    );
  if (row.kind === 'week') {
    const week = value as string[];
    return (
      <div id={row.key} className="space-y-1">
        {DAYS.map((day, index) => (
          <label key={day} className="grid grid-cols-[6rem_1fr] items-center">
            {day}
            <input
              className={BOX}
              placeholder="closed"
              value={week[index] ?? ''}
              onChange={(event) =>
                onChange(week.map((span, at) => (at === index ? event.target.value : span)))
              }
            />
          </label>
        ))}
      </div>
    );
  }
  if (row.kind === 'choices') {
    const chosen = value as string[];
    return (
      <div id={row.key} className="flex flex-wrap gap-3">
        {row.choices.map((choice) => (
          <label key={choice} className="flex items-center gap-1">
            <input
              type="checkbox"
              checked={chosen.includes(choice)}
              onChange={(event) =>
                onChange(
                  event.target.checked ? [...chosen, choice] : chosen.filter((other) => other !== choice),
                )
              }
            />
            {choice}
          </label>
        ))}
      </div>
    );
  }
  if (row.kind === 'list' || row.kind === 'windows')
    return (
      <textarea
        id={row.key}
        rows={Math.min(8, (value as string[]).length + 1)}
        aria-description="one per line"
        className={BOX}
        value={(value as string[]).join('\n')}
        onChange={(event) => onChange(event.target.value.split('\n'))}
        onBlur={() => onChange((value as string[]).map((line) => line.trim()).filter(Boolean))}
      />
    );
  const text = String(value);
  const isTemplate = row.words.length > 0;
  return (
    <>
      {row.kind === 'long_text' ? (
        <textarea
          id={row.key}
          rows={3}
          className={BOX}
          value={text}
          onChange={(event) => onChange(event.target.value)}
        />
      ) : (
        <input id={row.key} className={BOX} value={text} onChange={(event) => onChange(event.target.value)} />
      )}
      {isTemplate && (
        <p className="text-xs text-ink-soft">
          Reads: <q>{fillIn(text, SAMPLE)}</q>
          <span className="block">Words: {row.words.map((word) => `{${word}}`).join(' ')}</span>
        </p>
      )}
    </>
  );
}
