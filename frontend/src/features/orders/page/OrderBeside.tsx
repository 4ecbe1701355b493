import { Link } from '@tanstack/react-router';
import { useState } from 'react';
import { sentenceOf } from '@/api/client';
import { FileList } from '@/design/FileList';
import { Notice } from '@/design/Notice';
import { Timeline } from '@/design/Timeline';
import { rowsOf } from '@/shared/pages';
import { may, useSession } from '@/features/people';
import { useNoteOnOrder, useOrder, useTimeline } from '../queries';
import { Sequence } from './Sequence';
import { Facts } from './OrderFacts';
import { Price } from './Price';
import { Work } from './Work';

/** The whole order beside the board: facts, price, tasks, sequence, files, and what happened. Fetched once it is opened. */
export function OrderBeside({ orderId }: { orderId: number }) {
  const [open, setOpen] = useState(false);
  return (
    <details
      className="border-t border-hairline pt-3"
      open={open}
      onToggle={(event) => setOpen(event.currentTarget.open)}
    >
      <summary className="cursor-pointer text-sm font-semibold">
        The order: price, tasks, sequence, files, history
      </summary>
      {open && <Opened orderId={orderId} />}
    </details>
  );
}

function Opened({ orderId }: { orderId: number }) {
  const order = useOrder(orderId);
  const timeline = useTimeline(orderId);
  const note = useNoteOnOrder(orderId);
  const canChange = may(useSession(), 'make_orders');
  if (order.isError) return <Notice tone="bad">{sentenceOf(order.error)}</Notice>;
  if (!order.data) return <p className="mt-2 text-sm text-ink-soft">Fetching…</p>;
  return (
    <div className="mt-2 space-y-4 overflow-x-auto text-sm">
      <Link to="/orders/$orderId" params={{ orderId: String(orderId) }} className="underline">
        {order.data.number} on a page of its own
      </Link>
      <Facts row={order.data} />
      <Price canChange={canChange} row={order.data} />
      <Work canChange={false} row={order.data} />
      <Sequence order={order.data} canChange={canChange} />
      <FileList record="order" id={orderId} canAdd={canChange} />
      <Timeline
        showRecord
        entries={rowsOf(timeline.data)}
        older={timeline}
        onNote={(text) => note.mutateAsync(text)}
      />
    </div>
  );
}
