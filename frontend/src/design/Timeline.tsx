import { useState } from 'react';
import { clockTime, dayName, isoDay } from '@/shared/time';
import { Button } from './Button';
import { ShowMore, type Pages } from './ShowMore';

export interface Entry {
  id: number;
  at: number;
  by: string;
  record: string;
  action: string;
  sentence: string;
  note: string;
  values: Record<string, unknown[]>;
}

interface Props {
  entries: Entry[];
  /** What an infinite query says of the pages to come. */
  older?: Pages;
  onNote?: (text: string) => Promise<unknown>;
  showRecord?: boolean;
}

/** Everything that happened, newest first: who, when, what, from what to what; notes inside it. */
export function Timeline({ entries, older, onNote, showRecord = false }: Props) {
  return (
    <section aria-label="History">
      <h3 className="text-xs font-semibold text-ink-soft">What happened</h3>
      {onNote && <NoteForm onNote={onNote} />}
      <ol className="space-y-1.5 border-l border-hairline pl-3 text-sm">
        {entries.map((entry, index) => {
          const before = entries[index - 1];
          const newDay = !before || isoDay(entry.at) !== isoDay(before.at);
          return (
            <li key={entry.id}>
              {newDay && <p className="pt-1 text-xs font-semibold text-ink-soft">{dayName(entry.at)}</p>}
              <EntryLine entry={entry} showRecord={showRecord} />
            </li>
          );
        })}
        {entries.length === 0 && <li className="text-ink-soft">Nothing yet.</li>}
      </ol>
      {older && <ShowMore pages={older} />}
    </section>
  );
}

function NoteForm({ onNote }: { onNote: (text: string) => Promise<unknown> }) {
  const [text, setText] = useState('');
  const [failed, setFailed] = useState('');
  const keep = () =>
    onNote(text).then(
      () => {
        setText('');
        setFailed('');
      },
      (error: unknown) => setFailed(error instanceof Error ? error.message : 'Not kept.'),
    );
  return (
    <>
      <form
        className="flex gap-1.5 py-1"
        onSubmit={(event) => {
          event.preventDefault();
          void keep();
        }}
      >
        <input
          aria-label="Note"
          placeholder="write a note; it stays here"
          className="min-w-0 flex-1 rounded-sm border border-hairline bg-sheet px-2 text-sm"
          value={text}
          onChange={(event) => setText(event.target.value)}
        />
        <Button type="submit" disabled={!text.trim()}>
          Add note
        </Button>
      </form>
      {failed && (
        <p role="alert" className="text-sm text-bad">
          {failed}
        </p>
      )}
    </>
  );
}

function EntryLine({ entry, showRecord }: { entry: Entry; showRecord: boolean }) {
  const note = entry.action === 'note' ? 'border-l-2 border-copper pl-2' : 'text-ink-soft';
  return (
    <>
      <p>
        <span className="figures text-ink-soft">{clockTime(entry.at)}</span> <b>{entry.by}</b>{' '}
        {entry.sentence}
        {showRecord && entry.record !== 'order' && <span className="text-ink-soft"> · {entry.record}</span>}
      </p>
      {entry.note && <p className={`whitespace-pre-line ${note}`}>{entry.note}</p>}
      {Object.entries(entry.values).map(([name, [before, after]]) => (
        <p key={name} className="text-xs text-ink-soft">
          {name.replaceAll('_', ' ').replace(/ id$/, '')}: {words(name, before)} → {words(name, after)}
        </p>
      ))}
    </>
  );
}

const MOMENTS = new Set(['promise_start', 'promise_end', 'earliest', 'due']);

function words(name: string, value: unknown): string {
  if (value === null || value === undefined || value === '') return 'nothing';
  if (typeof value === 'number' && MOMENTS.has(name)) return `${dayName(value)} ${clockTime(value)}`;
  if (typeof value === 'number' && name.endsWith('_seconds')) return `${Math.round(value / 60)} min`;
  if (typeof value === 'boolean') return value ? 'yes' : 'no';
  if (typeof value === 'string' || typeof value === 'number') return String(value);
  if (Array.isArray(value)) return value.join(', ') || 'nothing';
  return (
    Object.entries(value as Record<string, unknown>)
      .map(([key, held]) => `${key} ${String(held)}`)
      .join(', ') || 'nothing'
  );
}
