import { useState, type FormEvent } from 'react';
import { Button } from '@/design/Button';
import { TextField } from '@/design/Field';
import { Notice } from '@/design/Notice';
import { countedTime, SORTS, type Sort } from '@/shared/presence';
import { clockTime, length } from '@/shared/time';
import type { OwnVisit } from '../sync/ahead';
import type { Presence } from '../sync/entries';
import { inWords } from '../trouble';
import { useRecord } from './record';
import { THUMB } from './thumb';

const SORT_WORDS: Record<Sort, string> = { travel: 'Travel', work: 'Work' };

/** Travel and work of each of the crew, made from the stamps; what they do not tell is said, with why. */
export function Times({ visit }: { visit: OwnVisit }) {
  const record = useRecord(visit.id);
  const { presences, nothing_more } = visit.report.entries;
  const said = nothing_more.includes('time');
  return (
    <div className="space-y-5 p-4">
      {presences.map((presence) => (
        <section key={presence.technician_id} aria-label={presence.name} className="space-y-3">
          {presences.length > 1 && <h2 className="text-lg font-semibold">{presence.name}</h2>}
          {SORTS.map((sort) => (
            <One key={sort} visit={visit} presence={presence} sort={sort} />
          ))}
        </section>
      ))}
      {record.isError && <Notice tone="bad">{inWords(record.error)}</Notice>}
      <Button
        size="thumb"
        className="w-full"
        aria-pressed={said}
        onClick={() => record.mutate({ kind: 'nothing more', body: { of: 'time', said: !said } })}
      >
        The times are right
      </Button>
    </div>
  );
}

interface OneProps {
  visit: OwnVisit;
  presence: Presence;
  sort: Sort;
}

function One({ visit, presence, sort }: OneProps) {
  const [open, setOpen] = useState(false);
  const { said, minutes } = countedTime(visit.report.entries, presence, sort);
  return (
    <div role="group" aria-label={SORT_WORDS[sort]} className="border-b border-hairline pb-3">
      <div className="flex items-center gap-3">
        <div className="flex-1">
          <p className="text-sm text-ink-soft">{SORT_WORDS[sort]}</p>
          <p className="text-2xl font-bold">{minutes === null ? '–' : length(minutes * 60)}</p>
          <p className="text-sm text-ink-soft">{stampedWords(presence, sort)}</p>
          {said && <p className="text-sm">{`said by ${said.by}: “${said.reason}”`}</p>}
        </div>
        <Button size="thumb" aria-expanded={open} onClick={() => setOpen(!open)}>
          Correct
        </Button>
      </div>
      {open && (
        <Correct {...{ visit, presence, sort, minutes }} said={!!said} onOver={() => setOpen(false)} />
      )}
    </div>
  );
}

/** What the stamps tell, in words. */
function stampedWords({ departed, arrived, finished, held }: Presence, sort: Sort): string {
  const [begins, ends] = sort === 'travel' ? [departed, arrived] : [arrived, finished];
  if (begins === null)
    return ends === null ? 'not stamped yet' : `the beginning is not stamped; until ${clockTime(ends)}`;
  if (ends === null) return `since ${clockTime(begins)}`;
  const away = sort === 'work' && held.length > 0 ? ', without what was on hold' : '';
  return `stamped ${clockTime(begins)} to ${clockTime(ends)}${away}`;
}

interface CorrectProps extends OneProps {
  minutes: number | null;
  said: boolean;
  onOver: () => void;
}

function Correct({ visit, presence, sort, minutes, said, onOver }: CorrectProps) {
  const record = useRecord(visit.id);
  const [text, setText] = useState(minutes === null ? '' : String(minutes));
  const [reason, setReason] = useState('');
  const say = (found: number | null) =>
    record.mutate(
      { kind: 'time', body: { technician_id: presence.technician_id, sort, minutes: found, reason } },
      { onSuccess: onOver },
    );
  const typed = /^\d{1,4}$/.test(text.trim()) && Number(text) <= 1440 ? Number(text) : null;
  const submit = (event: FormEvent) => {
    event.preventDefault();
    if (typed !== null && reason.trim()) say(typed);
  };
  return (
    <form
      onSubmit={submit}
      aria-label={`Correct ${SORT_WORDS[sort].toLowerCase()}`}
      className="mt-3 space-y-3"
    >
      <TextField
        label="Minutes"
        inputMode="numeric"
        className={THUMB}
        value={text}
        error={text.trim() && typed === null ? 'Whole minutes, at most a day.' : undefined}
        onChange={(event) => setText(event.target.value)}
      />
      <TextField
        label="Why do the stamps not tell it?"
        maxLength={200}
        className={THUMB}
        value={reason}
        onChange={(event) => setReason(event.target.value)}
      />
      {record.isError && <Notice tone="bad">{inWords(record.error)}</Notice>}
      <Button
        type="submit"
        rank="main"
        size="thumb"
        className="w-full"
        disabled={typed === null || !reason.trim() || record.isPending}
      >
        Write it down
      </Button>
      {said && (
        <Button size="thumb" className="w-full" onClick={() => say(null)}>
          As the stamps tell it
        </Button>
      )}
    </form>
  );
}
