import { useNavigate } from '@tanstack/react-router';
import { useState } from 'react';
import { toast } from 'sonner';
import { sentenceOf } from '@/api/client';
import type { SchemaRequestOut } from '@/api/types';
import { Button } from '@/design/Button';
import { Notice } from '@/design/Notice';
import { may, useSession } from '@/features/people';
import { length, stamp, window_ } from '@/shared/time';
import { useCloseRequest, useMakeOrder } from './commands';
import { useNewRequests } from './queries';

/** Requests nobody has made into an order yet. */
export function WaitingRequests() {
  const requests = useNewRequests();
  const rows = requests.data ?? [];
  return (
    <section aria-label="Waiting requests" className="min-h-0 flex-1 overflow-y-auto">
      <h2 className="sticky top-0 bg-wash px-3 py-1.5 text-sm font-semibold">
        Waiting for an order · {rows.length}
      </h2>
      {requests.isError && <Notice tone="bad">{sentenceOf(requests.error)}</Notice>}
      {requests.isSuccess && rows.length === 0 && (
        <p className="p-3 text-sm text-ink-soft">No request is waiting.</p>
      )}
      <ul className="divide-y divide-hairline">
        {rows.map((row) => (
          <RequestRow key={row.id} row={row} />
        ))}
      </ul>
    </section>
  );
}

function RequestRow({ row }: { row: SchemaRequestOut }) {
  const session = useSession();
  const make = useMakeOrder();
  const close = useCloseRequest();
  const navigate = useNavigate();
  const [reason, setReason] = useState<string | null>(null);
  const order = () =>
    make.mutate(row, {
      onSuccess: (made) =>
        toast.success(`${made.number} is in the backlog`, {
          action: {
            label: 'Show on the board',
            onClick: () => void navigate({ to: '/board', search: { visit: made.visit_ids[0] } }),
          },
        }),
      onError: (error) => toast.error(sentenceOf(error)),
    });
  return (
    <li className="px-3 py-2 text-sm">
      <p className="flex justify-between text-xs text-ink-soft">
        <span className="figures">{row.number}</span>
        <span>
          {stamp(row.taken_at)}, {row.taken_by}
        </span>
      </p>
      <p className="font-semibold">
        {row.customer.name} · {row.site.name}
      </p>
      <p>{row.what_is_wrong}</p>
      <p className="text-xs text-ink-soft">
        {[
          row.job_type,
          `priority ${row.priority}`,
          row.duration_seconds ? length(row.duration_seconds) : 'length unknown',
          row.promise ? `promised ${window_(row.promise)}` : null,
        ]
          .filter(Boolean)
          .join(' · ')}
      </p>
      {may(session, 'make_orders') && reason === null && (
        <div className="mt-1 flex gap-1.5">
          <Button disabled={make.isPending} onClick={order}>
            Make work order
          </Button>
          <Button rank="quiet" onClick={() => setReason('')}>
            No order needed
          </Button>
        </div>
      )}
      {reason !== null && (
        <form
          className="mt-1 flex gap-1.5"
          onSubmit={(event) => {
            event.preventDefault();
            close.mutate(
              { id: row.id, version: row.version, reason },
              { onError: (error) => toast.error(sentenceOf(error)) },
            );
          }}
        >
          <input
            aria-label="Why no order"
            autoFocus
            placeholder="why?"
            value={reason}
            onChange={(event) => setReason(event.target.value)}
            className="min-w-0 flex-1 rounded-sm border border-hairline px-2"
          />
          <Button type="submit" disabled={!reason.trim()}>
            Close it
          </Button>
          <Button rank="quiet" onClick={() => setReason(null)}>
            Keep
          </Button>
        </form>
      )}
    </li>
  );
}
