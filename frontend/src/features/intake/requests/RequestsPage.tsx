import { Link, useNavigate, useSearch } from '@tanstack/react-router';
import { useState } from 'react';
import { toast } from 'sonner';
import { sentenceOf } from '@/api/client';
import type { SchemaRequestDetailOut, SchemaRequestOut } from '@/api/types';
import { Button } from '@/design/Button';
import { FileList } from '@/design/FileList';
import { Notice } from '@/design/Notice';
import { ShowMore } from '@/design/ShowMore';
import { rowsOf } from '@/shared/pages';
import { Timeline } from '@/design/Timeline';
import { may, useSession } from '@/features/people';
import { NewQuoteLink } from '@/features/pricing';
import { stamp } from '@/shared/time';
import { useAnswerRequest, useCloseRequest, useJoinRequests, useNoteOnRequest } from '../commands';
import { UnreadMail } from './UnreadMail';
import { useRequest, useRequestHistory, useRequests, type RequestState } from '../queries';

const STATES: { state: RequestState; words: string }[] = [
  { state: 'new', words: 'Waiting' },
  { state: 'ordered', words: 'Ordered' },
  { state: 'closed', words: 'Closed' },
];

/** What came in by phone, e-mail, web page or device: the most pressing first. */
export function RequestsPage() {
  const { state = 'new', id } = useSearch({ from: '/office/requests' });
  const requests = useRequests(state);
  const navigate = useNavigate({ from: '/requests' });
  const rows = rowsOf(requests.data);
  const chosen = id ?? rows[0]?.id ?? null;
  return (
    <div className="grid h-full min-h-0 grid-cols-[minmax(0,1fr)_minmax(0,26rem)]">
      <div className="flex min-h-0 flex-col">
        <header className="flex items-center gap-2 border-b border-hairline px-4 py-2">
          <h1 className="mr-2 text-lg font-semibold">Requests</h1>
          {STATES.map((row) => (
            <Button
              key={row.state}
              aria-pressed={row.state === state}
              onClick={() => void navigate({ search: { state: row.state } })}
            >
              {row.words}
            </Button>
          ))}
          <span className="ml-auto text-sm text-ink-soft">
            Customers write to <span className="figures">{location.host}/ask</span>
          </span>
        </header>
        <UnreadMail />
        {requests.isError && <Notice tone="bad">{sentenceOf(requests.error)}</Notice>}
        <ul className="min-h-0 flex-1 divide-y divide-hairline overflow-y-auto" aria-label="Requests">
          {rows.map((row) => (
            <Row
              key={row.id}
              row={row}
              chosen={row.id === chosen}
              onChoose={() => void navigate({ search: { state, id: row.id } })}
            />
          ))}
          {requests.hasNextPage && (
            <li className="p-3">
              <ShowMore pages={requests} words={state === 'new' ? 'Show more' : undefined} />
            </li>
          )}
          {requests.isSuccess && rows.length === 0 && (
            <li className="p-4 text-ink-soft">
              {state === 'new' ? 'Nothing is waiting. Everything that came in was dealt with.' : 'None.'}
            </li>
          )}
        </ul>
      </div>
      <aside className="min-h-0 overflow-y-auto border-l border-hairline bg-sheet" aria-label="Request">
        {chosen !== null && <Detail key={chosen} id={chosen} />}
      </aside>
    </div>
  );
}

function Row({ row, chosen, onChoose }: { row: SchemaRequestOut; chosen: boolean; onChoose: () => void }) {
  const facts = [
    row.job_type,
    row.asset ? `${row.asset.kind} ${row.asset.serial}` : null,
    row.due ? `due ${stamp(row.due)}` : null,
    row.alarms > 1 ? `${row.alarms} alarms` : null,
    row.joined > 0 ? `${row.joined} joined` : null,
    row.order ? `became ${row.order}` : null,
    row.closed_because || null,
  ];
  return (
    <li className={chosen ? 'bg-copper-wash' : ''}>
      <button
        type="button"
        className="block w-full px-4 py-2 text-left text-sm hover:bg-wash"
        onClick={onChoose}
      >
        <span className="grid grid-cols-[5rem_4.5rem_1fr_auto] gap-2">
          <span className="figures">{row.number}</span>
          <span className="text-ink-soft">{row.channel}</span>
          <b className="truncate">
            {row.customer?.name ?? (row.from_name || 'unknown sender')}
            {row.site ? ` · ${row.site.name}` : ''}
          </b>
          <span className="text-ink-soft">
            priority {row.priority} · {stamp(row.taken_at)}
          </span>
        </span>
        <span className="mt-0.5 line-clamp-2 block pl-[10.5rem]">{row.what_is_wrong}</span>
        <span className="block pl-[10.5rem] text-xs text-ink-soft">{facts.filter(Boolean).join(' · ')}</span>
      </button>
    </li>
  );
}

function Detail({ id }: { id: number }) {
  const request = useRequest(id);
  const session = useSession();
  const note = useNoteOnRequest();
  const history = useRequestHistory(id);
  if (request.isError) return <Notice tone="bad">{sentenceOf(request.error)}</Notice>;
  const row = request.data;
  if (!row) return <p className="p-4 text-ink-soft">Fetching…</p>;
  const sender = [row.from_name, row.from_phone, row.from_email, row.from_address].filter(Boolean);
  const canTake = may(session, 'take_requests');
  return (
    <div className="space-y-3 p-4 text-sm">
      <div>
        <p className="figures text-ink-soft">
          {row.number} · {row.channel} · {stamp(row.taken_at)} · {row.taken_by}
        </p>
        <h2 className="text-base font-semibold">
          {row.customer ? (
            <Link
              to="/customers/$customerId"
              params={{ customerId: String(row.customer.id) }}
              className="underline"
            >
              {row.customer.name}
            </Link>
          ) : (
            row.from_name || 'Unknown sender'
          )}
          {row.site ? ` · ${row.site.name}` : ''}
        </h2>
        {sender.length > 0 && <p className="text-ink-soft">{sender.join(' · ')}</p>}
      </div>
      <p className="max-h-52 overflow-y-auto whitespace-pre-line">{row.what_is_wrong}</p>
      <Readings row={row} />
      {row.order && row.order_id && (
        <p>
          Became{' '}
          <Link to="/orders/$orderId" params={{ orderId: String(row.order_id) }} className="underline">
            {row.order}
          </Link>
          .
        </p>
      )}
      {row.state === 'new' && canTake && <Settle row={row} />}
      <FileList record="request" id={id} canAdd={canTake} />
      <Timeline
        entries={rowsOf(history.data)}
        older={history}
        onNote={canTake ? (text) => note.mutateAsync({ id, text }) : undefined}
      />
    </div>
  );
}

/** What a device has said. */
function Readings({ row }: { row: SchemaRequestDetailOut }) {
  if (row.readings.length === 0) return null;
  return (
    <table className="w-full" aria-label="Alarms">
      <tbody>
        {row.readings.map((reading, index) => (
          <tr key={index} className="border-t border-hairline">
            <td className="figures pr-2 text-ink-soft">{stamp(reading.at)}</td>
            <td className="pr-2">{reading.text || reading.kind}</td>
            <td className="figures text-right">
              {reading.value !== null ? `${reading.value} ${reading.unit}` : ''}
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

const failed = (error: unknown) => toast.error(sentenceOf(error));

/** Order it, answer it, join it into another one, or close it with a reason. */
function Settle({ row }: { row: SchemaRequestDetailOut }) {
  const [mode, setMode] = useState<'answer' | 'close' | null>(null);
  return (
    <div className="space-y-2">
      <div className="flex flex-wrap gap-1.5">
        <Link
          to="/intake"
          search={{ request: row.id }}
          className="inline-flex min-h-8 items-center rounded-sm border border-copper bg-copper px-3 text-copper-ink"
        >
          Make work order
        </Link>
        {row.customer && (
          <NewQuoteLink
            from={{ request: row.id }}
            words="Make a quote"
            className="inline-flex min-h-8 items-center rounded-sm border border-hairline bg-sheet px-3"
          />
        )}
        <Button onClick={() => setMode('answer')}>Answer</Button>
        <Button onClick={() => setMode('close')}>No order needed</Button>
      </div>
      {mode && <Word key={mode} mode={mode} row={row} onDone={() => setMode(null)} />}
      {row.alike.length > 0 && <Alike row={row} />}
    </div>
  );
}

/** The answer to the sender, or the reason why no order is needed. */
function Word({
  mode,
  row,
  onDone,
}: {
  mode: 'answer' | 'close';
  row: SchemaRequestDetailOut;
  onDone: () => void;
}) {
  const [text, setText] = useState('');
  const close = useCloseRequest();
  const answer = useAnswerRequest();
  return (
    <form
      className="space-y-1"
      onSubmit={(event) => {
        event.preventDefault();
        const done = { onSuccess: onDone, onError: failed };
        if (mode === 'close') close.mutate({ id: row.id, version: row.version, reason: text }, done);
        else answer.mutate({ id: row.id, text }, done);
      }}
    >
      <textarea
        autoFocus
        rows={mode === 'answer' ? 3 : 1}
        aria-label={mode === 'close' ? 'Why no order' : 'Answer'}
        placeholder={mode === 'close' ? 'why?' : 'what to write back'}
        className="w-full rounded-sm border border-hairline bg-sheet px-2 py-1"
        value={text}
        onChange={(event) => setText(event.target.value)}
      />
      <div className="flex gap-1.5">
        <Button type="submit" disabled={!text.trim() || close.isPending || answer.isPending}>
          {mode === 'close' ? 'Close it' : 'Send the answer'}
        </Button>
        <Button rank="quiet" onClick={onDone}>
          Cancel
        </Button>
      </div>
    </form>
  );
}

/** Other requests that may be about the same. */
function Alike({ row }: { row: SchemaRequestDetailOut }) {
  const join = useJoinRequests();
  return (
    <section aria-label="Perhaps about the same">
      <h3 className="text-xs font-semibold text-ink-soft">Perhaps about the same</h3>
      <ul className="divide-y divide-hairline border-y border-hairline">
        {row.alike.map((other) => (
          <li key={other.id} className="flex items-center gap-2 py-1">
            <span className="min-w-0 flex-1">
              <span className="figures">{other.number}</span> {other.order ? `(${other.order}) ` : ''}
              <span className="text-ink-soft">{other.what_is_wrong.slice(0, 80)}</span>
            </span>
            <Button
              disabled={join.isPending}
              onClick={() =>
                join.mutate(
                  { id: row.id, version: row.version, into_id: other.id },
                  {
                    onSuccess: () => toast.success(`${row.number} joined into ${other.number}`),
                    onError: failed,
                  },
                )
              }
            >
              Join into it
            </Button>
          </li>
        ))}
      </ul>
    </section>
  );
}
