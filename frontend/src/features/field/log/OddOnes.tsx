import { useState, type FormEvent } from 'react';
import { Button } from '@/design/Button';
import { TextField } from '@/design/Field';
import { Notice } from '@/design/Notice';
import { dayName, moment } from '@/shared/time';
import type { DayLog as Log } from '../sync/daylog';
import type { OddEntry } from '../sync/days';
import type { Kept } from '../sync/deeds';
import { inWords } from '../trouble';
import { THUMB } from '../work/thumb';
import { useRecordDay } from './recordDay';

/** What is missing or odd about the day, asked the same evening. */
export function OddOnes({ log, odd }: { log: Log; odd: OddEntry[] }) {
  if (odd.length === 0) return <Notice tone="good">Nothing of this day is missing.</Notice>;
  return (
    <section aria-label="Questions about the day" className="space-y-4">
      <h2 className="text-lg font-semibold">
        {odd.length === 1 ? 'One question about this day' : `${odd.length} questions about this day`}
      </h2>
      {odd.map((entry) => (
        <Asked key={entry.key} day={log.day} entry={entry} />
      ))}
    </section>
  );
}

/** The same of days before, of which somebody has not said all. */
export function EarlierDays({ log, kept }: { log: Log; kept: readonly Kept[] }) {
  return stillAsked(log.earlier, kept).map(({ day, odd }) => (
    <section key={day} aria-label={`Questions about ${day}`} className="space-y-4">
      <h2 className="text-lg font-semibold">{dayName(moment(day, 720))} is not whole</h2>
      {odd.map((entry) => (
        <Asked key={entry.key} day={day} entry={entry} />
      ))}
    </section>
  ));
}

/** Which time is missing, by the name of the question. */
const TIMES: Record<string, 'began' | 'ended'> = { 'no beginning': 'began', 'no end': 'ended' };

/** Answered with a time where one is missing, else in words. */
function Asked({ day, entry }: { day: string; entry: OddEntry }) {
  const record = useRecordDay(day);
  const [text, setText] = useState('');
  const which = TIMES[entry.key];
  const answer = (event: FormEvent) => {
    event.preventDefault();
    if (!text.trim()) return;
    if (which) {
      const [hours = 0, minutes = 0] = text.split(':').map(Number);
      record.mutate({ kind: 'typed time', body: { which, at: moment(day, hours * 60 + minutes) } });
    } else record.mutate({ kind: 'explain', body: { key: entry.key, words: text } });
  };
  return (
    <form onSubmit={answer} aria-label={entry.words} className="space-y-2 border-l-4 border-warn pl-3">
      <TextField
        label={entry.words}
        type={which ? 'time' : 'text'}
        maxLength={300}
        className={THUMB}
        value={text}
        onChange={(event) => setText(event.target.value)}
      />
      {record.isError && <Notice tone="bad">{inWords(record.error)}</Notice>}
      <Button type="submit" size="thumb" className="w-full" disabled={!text.trim() || record.isPending}>
        Answer
      </Button>
    </form>
  );
}

type Earlier = Log['earlier'];

/** What is asked of days before, without what was answered on this phone since. */
export function stillAsked(earlier: Earlier, kept: readonly Kept[]): Earlier {
  const said = new Set(
    kept
      .filter(
        ({ deed, fate }) =>
          (deed.kind === 'explain' || deed.kind === 'typed time') &&
          (fate === 'unsent' || fate === 'applied'),
      )
      .map(({ deed }) => {
        const { day, key, which } = deed.body as { day?: string; key?: string; which?: string };
        return `${day} ${key ?? (which === 'began' ? 'no beginning' : 'no end')}`;
      }),
  );
  return earlier
    .map(({ day, odd }) => ({ day, odd: odd.filter(({ key }) => !said.has(`${day} ${key}`)) }))
    .filter(({ odd }) => odd.length > 0);
}
