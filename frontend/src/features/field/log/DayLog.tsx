import { useQuery } from '@tanstack/react-query';
import { Link } from '@tanstack/react-router';
import { ChevronLeft } from 'lucide-react';
import { sentenceOf } from '@/api/client';
import { Button } from '@/design/Button';
import { Notice } from '@/design/Notice';
import { clockTime, dayName, length, moment } from '@/shared/time';
import { ownLogQuery, useLiveField } from '../queries';
import { factsOfDay, withDay, type DayLog as Log } from '../sync/daylog';
import { oddEntries, summaryOf } from '../sync/days';
import { inWords } from '../trouble';
import { Unsent } from '../Unsent';
import { useKept, usePhone } from '../usePhone';
import { Fuel } from './Fuel';
import { EarlierDays, OddOnes } from './OddOnes';
import { useRecordDay } from './recordDay';
import { Vehicle } from './Vehicle';

/** The day beside the visits: its beginning and end, breaks, the vehicle, fuel, and what it came to. */
export function DayLog() {
  useLiveField();
  const asked = useQuery(ownLogQuery);
  const phone = usePhone();
  const kept = useKept(phone.data);
  const log = asked.data && withDay(asked.data, kept);
  return (
    <main className="mx-auto flex min-h-full max-w-md flex-col bg-sheet">
      <Link
        to="/field"
        className="flex min-h-14 items-center gap-1 border-b border-hairline px-3 font-semibold"
      >
        <ChevronLeft size={20} aria-hidden /> My day
      </Link>
      <div className="flex-1 space-y-6 p-4">
        <h1 className="text-2xl font-bold">
          Day log
          {log && (
            <span className="block text-base font-normal text-ink-soft">{dayName(moment(log.day, 720))}</span>
          )}
        </h1>
        {!log && asked.isError && <Notice tone="bad">{sentenceOf(asked.error)}</Notice>}
        {phone.isError && (
          <Notice tone="bad">{inWords(phone.error)} Until then nothing can be recorded on it.</Notice>
        )}
        {log && <EarlierDays log={log} kept={kept} />}
        {log && <Whole log={log} />}
      </div>
      <div className="sticky bottom-0">
        <Unsent kept={kept} />
        {log && <Main log={log} />}
      </div>
    </main>
  );
}

function Whole({ log }: { log: Log }) {
  const record = useRecordDay(log.day);
  const open = log.pauses.some(({ until }) => until === null);
  const running = log.began !== null && log.ended === null;
  const odd = oddEntries(factsOfDay(log)).filter(({ key }) => !log.explained.some((row) => row.key === key));
  return (
    <>
      <Times log={log} />
      {record.isError && <Notice tone="bad">{inWords(record.error)}</Notice>}
      {running && (
        <Button
          size="thumb"
          className="w-full"
          aria-pressed={open}
          onClick={() => record.mutate({ kind: 'pause', body: { begins: !open } })}
        >
          {open ? 'End the break' : 'Begin a break'}
        </Button>
      )}
      <Vehicle log={log} />
      <Fuel log={log} />
      {log.began !== null && <CameTo log={log} />}
      {log.ended !== null && <OddOnes log={log} odd={odd} />}
    </>
  );
}

/** When it began and ended, and the breaks between. */
function Times({ log }: { log: Log }) {
  const typed = (is: boolean) => (is ? ' (typed)' : '');
  return (
    <ul aria-label="Times" className="text-lg">
      {log.began === null ? (
        <li className="text-ink-soft">The day has not begun yet.</li>
      ) : (
        <li>
          Began {clockTime(log.began)}
          {typed(log.began_typed)}
        </li>
      )}
      {log.pauses.map(({ since, until }) => (
        <li key={since}>
          Break {clockTime(since)} {until === null ? 'until now' : `to ${clockTime(until)}`}
        </li>
      ))}
      {log.ended !== null && (
        <li>
          Ended {clockTime(log.ended)}
          {typed(log.ended_typed)}
        </li>
      )}
    </ul>
  );
}

/** What the day came to so far. */
function CameTo({ log }: { log: Log }) {
  const { hours, pauses, driving, at_visits, kilometres, open } = summaryOf(factsOfDay(log));
  const rows: [string, string][] = [
    ['Hours without breaks', hours === null ? 'not over yet' : length(hours)],
    ['Breaks', length(pauses)],
    ['On the road', length(driving)],
    ['At visits', length(at_visits)],
    ['Kilometres', kilometres === null ? '–' : `${kilometres} km`],
    ['Still open', open.join(', ') || 'nothing'],
  ];
  return (
    <section aria-label="What it came to">
      <h2 className="text-lg font-semibold">What it came to</h2>
      <dl className="grid grid-cols-[1fr_auto] gap-x-4 gap-y-1">
        {rows.map(([name, words]) => (
          <div key={name} className="contents">
            <dt className="text-ink-soft">{name}</dt>
            <dd className="text-right font-semibold">{words}</dd>
          </div>
        ))}
      </dl>
    </section>
  );
}

/** The one large button: the day begins, then it ends. */
function Main({ log }: { log: Log }) {
  const record = useRecordDay(log.day);
  if (log.began !== null && log.ended !== null)
    return (
      <Foot>
        <Button
          size="thumb"
          className="w-full"
          disabled={record.isPending}
          onClick={() => record.mutate({ kind: 'clock off', body: {} })}
        >
          I worked on: end the day now
        </Button>
      </Foot>
    );
  const begins = log.began === null && log.ended === null;
  return (
    <Foot>
      <Button
        size="thumb"
        rank="main"
        className="min-h-16 w-full text-xl"
        disabled={record.isPending}
        onClick={() =>
          record.mutate(begins ? { kind: 'clock on', body: {} } : { kind: 'clock off', body: {} })
        }
      >
        {begins ? 'Begin the day' : 'End the day'}
      </Button>
    </Foot>
  );
}

const Foot = ({ children }: { children: React.ReactNode }) => (
  <div className="border-t border-hairline bg-paper p-3">{children}</div>
);
