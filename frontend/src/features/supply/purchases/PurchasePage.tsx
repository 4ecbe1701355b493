import { useParams } from '@tanstack/react-router';
import { useState } from 'react';
import { toast } from 'sonner';
import { sentenceOf, urlOf } from '@/api/client';
import type { SchemaPurchaseOrderOut } from '@/api/types';
import { Button } from '@/design/Button';
import { DayField } from '@/design/DayField';
import { TextField } from '@/design/Field';
import { Notice } from '@/design/Notice';
import { complain } from '@/shared/complain';
import { dayOfAnyYear, moment, stamp } from '@/shared/time';
import { useCallOff, useExpect, usePurchase, useSendPurchase } from '../queries';
import { ProposalLines } from './ProposalLines';
import { Receiving } from './Receiving';

/** One order to a supplier: what it asks for, what has come of it. */
export function PurchasePage() {
  const orderId = Number((useParams({ strict: false }) as { orderId: string }).orderId);
  const purchase = usePurchase(orderId);
  if (purchase.isError)
    return (
      <div className="p-4">
        <Notice tone="bad">{sentenceOf(purchase.error)}</Notice>
      </div>
    );
  if (!purchase.data) return <p className="p-4 text-ink-soft">One moment…</p>;
  const row = purchase.data;
  const going = row.state === 'ordered' || row.state === 'received in part';
  return (
    <div className="max-w-5xl space-y-4 p-4">
      <Head row={row} />
      {row.state === 'proposal' ? (
        <ProposalLines key={row.version} row={row} />
      ) : (
        <Receiving key={row.id} row={row} open={going} />
      )}
      {row.state === 'proposal' && <Send row={row} />}
      {(going || row.state === 'proposal') && <CallOff row={row} />}
    </div>
  );
}

function Head({ row }: { row: SchemaPurchaseOrderOut }) {
  return (
    <header className="space-y-1 text-sm">
      <p className="figures text-ink-soft">{row.number}</p>
      <h1 className="text-xl font-semibold">
        {row.supplier}, to {row.target}
      </h1>
      <p>
        {row.state}
        {row.ordered_at && `, ordered ${stamp(row.ordered_at)} by ${row.ordered_by}`}
        {row.state !== 'proposal' &&
          (row.mailed
            ? `; written to ${row.email}`
            : row.email
              ? '; the letter is on its way'
              : '; no e-mail address is known: send the paper yourself')}
      </p>
      {row.late && (
        <Notice tone="bad">
          It was expected {dayOfAnyYear(moment(row.expected_on!, 720))} and has not all come.
        </Notice>
      )}
      {(row.state === 'ordered' || row.state === 'received in part') && <Expected row={row} />}
      <p className="flex gap-3">
        <a
          className="underline"
          href={urlOf('/api/v1/supply/purchases/{order_id}/pdf', { order_id: row.id })}
          target="_blank"
          rel="noreferrer"
        >
          As the supplier reads it (PDF)
        </a>
        <a
          className="underline"
          href={urlOf('/api/v1/supply/purchases/{order_id}/csv', { order_id: row.id })}
        >
          As a table (CSV)
        </a>
      </p>
    </header>
  );
}

/** The day on which it is expected, and another one if the supplier says so. */
function Expected({ row }: { row: SchemaPurchaseOrderOut }) {
  const expect = useExpect(row.id);
  return (
    <DayField
      label="Expected on"
      className="w-44"
      value={row.expected_on ?? ''}
      onChange={(day) =>
        day &&
        day !== row.expected_on &&
        expect.mutate({ version: row.version, expected_on: day }, { onError: complain })
      }
    />
  );
}

function Send({ row }: { row: SchemaPurchaseOrderOut }) {
  const send = useSendPurchase(row.id);
  const [day, setDay] = useState('');
  return (
    <form
      aria-label="Send the order"
      className="flex items-end gap-3 border-t border-hairline pt-3"
      onSubmit={(event) => {
        event.preventDefault();
        // Said also when the order has come back as ordered before the answer, and this form is gone.
        send
          .mutateAsync({ version: row.version, expected_on: day || null })
          .then(() => toast.success(`${row.number} is ordered`))
          .catch(complain);
      }}
    >
      <DayField
        label="Expected on"
        hint="left empty: as they usually deliver"
        className="w-56"
        value={day}
        onChange={setDay}
      />
      <Button type="submit" rank="main" disabled={row.lines.length === 0 || send.isPending}>
        {row.email ? `Order: write to ${row.email}` : 'Order'}
      </Button>
    </form>
  );
}

function CallOff({ row }: { row: SchemaPurchaseOrderOut }) {
  const callOff = useCallOff(row.id);
  const [because, setBecause] = useState('');
  return (
    <details className="text-sm">
      <summary>{row.state === 'proposal' ? 'Drop this proposal' : 'Nothing more of it will come'}</summary>
      <form
        aria-label="Call off"
        className="flex items-end gap-2 pt-2"
        onSubmit={(event) => {
          event.preventDefault();
          callOff.mutate({ version: row.version, because }, { onError: complain });
        }}
      >
        <TextField
          label="Why"
          className="w-72"
          maxLength={200}
          value={because}
          onChange={(event) => setBecause(event.target.value)}
        />
        <Button type="submit" rank="danger" disabled={callOff.isPending}>
          Call it off
        </Button>
      </form>
    </details>
  );
}
