import { Link, useNavigate } from '@tanstack/react-router';
import { useState } from 'react';
import { toast } from 'sonner';
import { sentenceOf } from '@/api/client';
import type { SchemaPurchaseOrderOut } from '@/api/types';
import { Button } from '@/design/Button';
import { SelectField } from '@/design/Field';
import { Notice } from '@/design/Notice';
import { useCurrency } from '@/features/pricing';
import { useSuppliers } from '@/features/stock';
import { complain } from '@/shared/complain';
import { price } from '@/shared/money';
import { dayOfAnyYear, moment } from '@/shared/time';
import { useNewProposal, usePropose, usePurchases } from '../queries';

/** Orders to suppliers: what is proposed, what is on its way, what has come. */
export function PurchasesPage() {
  const purchases = usePurchases('');
  const rows = purchases.data?.rows ?? [];
  const of = (...states: string[]) => rows.filter((row) => states.includes(row.state));
  return (
    <div className="max-w-5xl space-y-5 p-4">
      <header className="flex flex-wrap items-end gap-3">
        <h1 className="text-lg font-semibold">Purchases</h1>
        <div className="ml-auto flex items-end gap-2">
          <Propose />
          <NewOrder />
        </div>
      </header>
      {purchases.isError && <Notice tone="bad">{sentenceOf(purchases.error)}</Notice>}
      {purchases.isSuccess && rows.length === 0 && (
        <p className="text-sm text-ink-soft">
          Nothing is ordered. What falls below its least level in a depot is put on a proposal to its
          supplier.
        </p>
      )}
      <Orders title="On their way" rows={of('ordered', 'received in part')} />
      <Orders title="Proposals, not sent yet" rows={of('proposal').filter((row) => row.lines.length > 0)} />
      <Orders title="Received or called off" rows={of('received', 'cancelled')} />
    </div>
  );
}

function Orders({ title, rows }: { title: string; rows: SchemaPurchaseOrderOut[] }) {
  const currency = useCurrency();
  if (rows.length === 0) return null;
  return (
    <section aria-label={title}>
      <h2 className="text-xs font-semibold text-ink-soft">{title}</h2>
      <table className="w-full border-y border-hairline text-sm">
        <tbody>
          {rows.map((row) => (
            <tr key={row.id} className="border-b border-hairline last:border-0">
              <th scope="row" className="w-24 py-1.5 text-left">
                <Link
                  to="/stock/purchases/$orderId"
                  params={{ orderId: String(row.id) }}
                  className="figures underline"
                >
                  {row.number}
                </Link>
              </th>
              <td className="w-56">{row.supplier}</td>
              <td className="w-32 text-ink-soft">to {row.target}</td>
              <td>{partsOf(row)}</td>
              <td className="w-48">
                <Expected row={row} />
              </td>
              <td className="figures w-24 text-right">
                {row.total != null ? price(row.total, currency) : ''}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  );
}

const partsOf = (row: SchemaPurchaseOrderOut) => {
  const [first, ...rest] = row.lines;
  if (!first) return '';
  return `${first.quantity} × ${first.part}${rest.length ? ` and ${rest.length} more` : ''}`;
};

const Expected = ({ row }: { row: SchemaPurchaseOrderOut }) => {
  if (row.state === 'proposal') return <span className="text-ink-soft">not sent</span>;
  const day = row.expected_on ? dayOfAnyYear(moment(row.expected_on, 720)) : 'no day known';
  if (row.late)
    return (
      <b className="text-bad">
        ✕ late: expected {day}
        {row.state === 'received in part' && ', came in part'}
      </b>
    );
  if (row.state === 'ordered' || row.state === 'received in part')
    return (
      <>
        expected {day}
        {row.state === 'received in part' && ', came in part'}
      </>
    );
  return <span className="text-ink-soft">{row.state}</span>;
};

/** Put what has fallen below its least level on proposals. */
function Propose() {
  const propose = usePropose();
  return (
    <Button
      disabled={propose.isPending}
      onClick={() =>
        propose.mutate(undefined, {
          onSuccess: (rows) =>
            toast.success(
              rows.length
                ? `${rows.length} proposals hold what is below its least level`
                : 'Nothing is below its least level',
            ),
          onError: complain,
        })
      }
    >
      Propose what is below its least level
    </Button>
  );
}

/** Begin an order by hand. */
function NewOrder() {
  const suppliers = (useSuppliers().data ?? []).filter((row) => !row.retired);
  const make = useNewProposal();
  const navigate = useNavigate();
  const [supplier, setSupplier] = useState('');
  return (
    <form
      aria-label="New order"
      className="flex items-end gap-2"
      onSubmit={(event) => {
        event.preventDefault();
        make.mutate(
          { supplier_id: Number(supplier), place_id: null, lines: [] },
          {
            onSuccess: (row) =>
              void navigate({ to: '/stock/purchases/$orderId', params: { orderId: String(row.id) } }),
            onError: complain,
          },
        );
      }}
    >
      <SelectField
        label="New order from"
        className="w-52"
        value={supplier}
        onChange={(event) => setSupplier(event.target.value)}
      >
        <option value="">choose…</option>
        {suppliers.map((row) => (
          <option key={row.id} value={row.id}>
            {row.name}
          </option>
        ))}
      </SelectField>
      <Button type="submit" disabled={!supplier || make.isPending}>
        Begin
      </Button>
    </form>
  );
}
