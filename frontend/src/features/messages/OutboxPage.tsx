import { keepPreviousData, useInfiniteQuery } from '@tanstack/react-query';
import { useNavigate } from '@tanstack/react-router';
import { useState } from 'react';
import { sentenceOf } from '@/api/client';
import type { SchemaMessageOut } from '@/api/types';
import { Button } from '@/design/Button';
import { Notice } from '@/design/Notice';
import { ShowMore } from '@/design/ShowMore';
import { may, useSession } from '@/features/people';
import { useNow } from '@/shared/clock';
import { rowsOf } from '@/shared/pages';
import { stamp } from '@/shared/time';
import { CallList } from './CallList';
import { useSendAgain } from './commands';
import { outboxQuery, useMessagesLive } from './queries';

/** What went out to technicians and customers, the newest first. Here it is simulated: nothing leaves the machine. */
export function OutboxPage() {
  useMessagesLive();
  const [failedOnly, setFailedOnly] = useState(false);
  const outbox = useInfiniteQuery({ ...outboxQuery(failedOnly), placeholderData: keepPreviousData });
  const rows = rowsOf(outbox.data);
  const failed = outbox.data?.pages[0]?.failed ?? 0;
  return (
    <div className="h-full overflow-auto p-4">
      <h1 className="text-lg font-semibold">Outbox</h1>
      <p className="text-sm text-ink-soft">
        Messages to technicians and customers. They go through a simulated service: nothing leaves this
        machine.
      </p>
      <CallList />
      {outbox.isError && <Notice tone="bad">{sentenceOf(outbox.error)}</Notice>}
      {failed > 0 && (
        <div className="mt-3 flex max-w-6xl items-center gap-3">
          <Notice tone="bad">
            {failed === 1 ? '1 message was not delivered.' : `${failed} messages were not delivered.`}
          </Notice>
          <Button aria-pressed={failedOnly} onClick={() => setFailedOnly(!failedOnly)}>
            Only these
          </Button>
        </div>
      )}
      {outbox.isSuccess && rows.length === 0 && (
        <p className="mt-6 text-ink-soft">Nothing has been sent yet.</p>
      )}
      {rows.length > 0 && <MessageTable rows={rows} />}
      <div className="mt-3">
        <ShowMore pages={outbox} />
      </div>
    </div>
  );
}

const HEADS = ['Written', 'To', 'By', 'Message', 'About', 'State'];

function MessageTable({ rows }: { rows: SchemaMessageOut[] }) {
  const navigate = useNavigate();
  return (
    <table className="mt-3 w-full max-w-6xl border-collapse text-left text-sm">
      <thead className="border-b border-ink text-xs text-ink-soft">
        <tr>
          {HEADS.map((head) => (
            <th key={head} className="px-2 py-1 font-semibold">
              {head}
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {rows.map((row) => (
          <tr key={row.id} className="border-b border-hairline align-top">
            <td className="px-2 py-1.5 whitespace-nowrap">
              <time>{stamp(row.written_at)}</time>
            </td>
            <td className="px-2 py-1.5">
              <span className="font-semibold">{row.name}</span>
              <span className="block text-xs text-ink-soft">
                {row.kind}, {row.address || 'no address'}
              </span>
            </td>
            <td className="px-2 py-1.5">{row.channel}</td>
            <td className="px-2 py-1.5">{row.text}</td>
            <td className="px-2 py-1.5">
              {row.order && row.visit_id !== null && (
                <button
                  type="button"
                  className="figures whitespace-nowrap underline"
                  onClick={() => void navigate({ to: '/board', search: { visit: row.visit_id! } })}
                >
                  {row.order}
                </button>
              )}
              {row.visit_id === null && <span className="figures whitespace-nowrap">{row.order}</span>}
            </td>
            <td className="px-2 py-1.5">
              <State row={row} />
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

function State({ row }: { row: SchemaMessageOut }) {
  const session = useSession();
  const now = useNow();
  const again = useSendAgain();
  if (row.state === 'failed')
    return (
      <div className="space-y-1">
        <span className="font-semibold text-bad">not delivered</span>
        <span className="block text-xs">{row.failure}</span>
        {may(session, 'take_requests') && (
          <Button
            aria-label={`Send again to ${row.name}`}
            disabled={again.isPending}
            onClick={() => again.mutate(row.id)}
          >
            Send again
          </Button>
        )}
      </div>
    );
  if (row.state === 'withdrawn') return <span className="text-ink-soft">called back, not sent</span>;
  if (row.state === 'queued' && row.not_before !== null && row.not_before > now)
    return <span className="figures">goes in {row.not_before - now} s, unless undone</span>;
  return <span>{row.state === 'queued' ? 'waits to be sent' : row.state}</span>;
}
