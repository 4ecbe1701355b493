import { Link, useParams } from '@tanstack/react-router';
import { Printer } from 'lucide-react';
import { useState } from 'react';
import { sentenceOf, urlOf } from '@/api/client';
import type { SchemaOrderDetailOut } from '@/api/types';
import { Button } from '@/design/Button';
import { FileList } from '@/design/FileList';
import { Notice } from '@/design/Notice';
import { Timeline } from '@/design/Timeline';
import { QuotesOf } from '@/features/pricing';
import { rowsOf } from '@/shared/pages';
import { may, useSession } from '@/features/people';
import { Lately, OrderReports } from '@/features/reports';
import { stamp } from '@/shared/time';
import { useNoteOnOrder, useOrder, useTimeline } from '../queries';
import { OrderReminders } from '../reminders/OfficeReminders';
import { Sequence } from './Sequence';
import { Facts, Overrides } from './OrderFacts';
import { OrderForm } from './OrderForm';
import { Price } from './Price';
import { Work } from './Work';

/** All about a work order, its visits and what happened. */
export function OrderPage() {
  const id = Number(useParams({ from: '/office/orders/$orderId' }).orderId);
  const order = useOrder(id);
  const timeline = useTimeline(id);
  const note = useNoteOnOrder(id);
  const canChange = may(useSession(), 'make_orders');
  const [editing, setEditing] = useState(false);
  if (order.isError) return <Notice tone="bad">{sentenceOf(order.error)}</Notice>;
  const row = order.data;
  if (!row) return <p className="p-4 text-ink-soft">Fetching…</p>;
  return (
    <div className="grid h-full min-h-0 grid-cols-[minmax(0,1fr)_24rem]">
      <div className="min-h-0 space-y-4 overflow-y-auto p-4">
        <Head
          row={row}
          canChange={canChange}
          editing={editing}
          onEdit={() => setEditing((value) => !value)}
        />
        {editing ? (
          <OrderForm key={row.version} order={row} onDone={() => setEditing(false)} />
        ) : (
          <Facts row={row} />
        )}
        <Lately {...(row.asset ? { asset_id: row.asset.id } : { site_id: row.site.id })} />
        <Overrides row={row} canChange={canChange} />
        <Sequence order={row} canChange={canChange} />
        <Price row={row} canChange={canChange} />
        <Work row={row} canChange={canChange} />
        <OrderReports orderId={row.id} />
      </div>
      <aside className="min-h-0 space-y-4 overflow-y-auto border-l border-hairline bg-sheet p-4">
        <QuotesOf about="order" id={id} />
        <OrderReminders orderId={id} />
        <FileList record="order" id={id} canAdd={canChange} />
        <Timeline
          showRecord
          entries={rowsOf(timeline.data)}
          older={timeline}
          onNote={(text) => note.mutateAsync(text)}
        />
      </aside>
    </div>
  );
}

interface HeadProps {
  row: SchemaOrderDetailOut;
  canChange: boolean;
  editing: boolean;
  onEdit: () => void;
}

const Head = ({ row, canChange, editing, onEdit }: HeadProps) => (
  <header className="flex items-start justify-between gap-3">
    <div>
      <p className="text-sm text-ink-soft">
        <span className="figures">{row.number}</span> · {row.state.replace('_', ' ')} · made {stamp(row.made)}{' '}
        by {row.made_by || 'an import'}
        {row.request_id && (
          <>
            {' '}
            from{' '}
            <Link to="/requests" search={{ id: row.request_id, state: 'ordered' }} className="underline">
              {row.request}
            </Link>
          </>
        )}
      </p>
      <h1 className="text-xl font-semibold">{row.title}</h1>
      <p>
        <Link
          to="/customers/$customerId"
          params={{ customerId: String(row.customer.id) }}
          className="underline"
        >
          {row.customer.name}
        </Link>{' '}
        · {row.site.name}, {row.site.address} ·{' '}
        {row.site.area ?? <b className="text-bad">outside every area</b>}
      </p>
    </div>
    <div className="flex gap-1.5">
      {canChange && (
        <Button aria-expanded={editing} onClick={onEdit}>
          Change
        </Button>
      )}
      <a
        href={urlOf('/api/v1/orders/{order_id}/pdf', { order_id: row.id })}
        target="_blank"
        rel="noreferrer"
        className="inline-flex min-h-8 items-center gap-1.5 rounded-sm border border-hairline bg-sheet px-3 text-sm hover:bg-wash"
      >
        <Printer size={15} aria-hidden /> Print
      </a>
    </div>
  </header>
);
