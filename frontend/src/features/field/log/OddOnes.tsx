import { useState, type FormEvent } from 'react';
import { Button } from '@/design/Button';
import { TextField } from '@/design/Field';
import { Notice } from '@/design/Notice';
import { moment } from '@/shared/time';
import type { DayLog as Log } from '../sync/daylog';
import type { OddEntry } from '../sync/days';
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
        <Asked key={entry.key} log={log} entry={entry} />
      ))}
    </section>
  );
}

/** Answered with a time where one is missing, else in words. */
function Asked({ log, entry }: { log: Log; entry: OddEntry }) {
  const record = useRecordDay(log.day);
  const [text, setText] = useState('');
  const wantsTime = entry.key === 'no beginning';
  const answer = (event: FormEvent) => {
    event.preventDefault();
    if (!text.trim()) return;
    if (wantsTime) {
      const [hours = 0, minutes = 0] = text.split(':').map(Number);
      record.mutate({
        kind: 'typed time',
        body: { which: 'began', at: moment(log.day, hours * 60 + minutes) },
      });
    } else record.mutate({ kind: 'explain', body: { key: entry.key, words: text } });
  };
  return (
    <form onSubmit={answer} aria-label={entry.words} className="space-y-2 border-l-4 border-warn pl-3">
      <TextField
        label={entry.words}
        type={wantsTime ? 'time' : 'text'}
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
