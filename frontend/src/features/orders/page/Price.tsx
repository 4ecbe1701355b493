import { useState } from 'react';
import { toast } from 'sonner';
import { sentenceOf } from '@/api/client';
import type { SchemaOrderDetailOut } from '@/api/types';
import { Button } from '@/design/Button';
import { FormError } from '@/design/FormError';
import {
  isWhole,
  LinesEditor,
  reached,
  setIn,
  SumsBox,
  typedDiscount,
  typedLine,
  useCurrency,
  useFigures,
  useReach,
  WholeDiscounts,
  type TypedSet,
} from '@/features/pricing';
import { price } from '@/shared/money';
import { useResetLines, useSetLines } from '../queries';

/** What the order costs: its lines, who pays, what is left of it. */
export function Price({ row, canChange }: { row: SchemaOrderDetailOut; canChange: boolean }) {
  const [editing, setEditing] = useState(false);
  const reset = useResetLines(row.id);
  const isClosed = row.state === 'billed' || row.state === 'cancelled';
  return (
    <section aria-label="Price" className="space-y-2 text-sm">
      <div className="flex items-center gap-2">
        <h2 className="font-semibold">Price</h2>
        <span className="text-ink-soft">
          {row.billing}, paid by {row.payer?.name || row.payer_address || row.customer.name}
        </span>
        {canChange && !isClosed && (
          <>
            <Button aria-expanded={editing} onClick={() => setEditing((value) => !value)}>
              Change the lines
            </Button>
            <Button
              rank="quiet"
              disabled={reset.isPending}
              onClick={() =>
                reset.mutate(
                  { version: row.version },
                  {
                    onSuccess: () => toast.success('The lines are as such work costs'),
                    onError: (error) => toast.error(sentenceOf(error)),
                  },
                )
              }
            >
              As such work usually costs
            </Button>
          </>
        )}
      </div>
      {editing ? (
        <PriceForm key={row.version} row={row} onDone={() => setEditing(false)} />
      ) : (
        <Shown row={row} />
      )}
    </section>
  );
}

function Shown({ row }: { row: SchemaOrderDetailOut }) {
  const currency = useCurrency();
  const nets = new Map(row.sums.lines.map((line) => [line.key, line.net]));
  if (row.lines.length === 0)
    return <p className="text-ink-soft">No lines yet: nobody has said what it costs.</p>;
  return (
    <div className="grid grid-cols-[repeat(auto-fit,minmax(18rem,1fr))] gap-6">
      <ul aria-label="Lines" className="divide-y divide-hairline">
        {row.lines.map((line) => (
          <li key={line.key} className="flex gap-2 py-0.5">
            <span className="figures w-14 text-right text-ink-soft">{Number(line.quantity)} ×</span>
            <span className="flex-1">
              {line.wording}
              {line.source && <span className="block text-xs text-ink-soft">{line.source}</span>}
            </span>
            <span className="figures">
              {line.price == null ? 'no price' : price(nets.get(line.key) ?? 0, currency)}
            </span>
          </li>
        ))}
      </ul>
      <SumsBox sums={row.sums} />
    </div>
  );
}

function PriceForm({ row, onDone }: { row: SchemaOrderDetailOut; onDone: () => void }) {
  const currency = useCurrency();
  const [typed, setTyped] = useState<TypedSet>(() => ({
    lines: row.lines.map((line) => typedLine(line, currency)),
    discounts: row.discounts.map((one) => typedDiscount(one, currency)),
  }));
  const asked = {
    customerId: row.payer?.id ?? row.customer.id,
    jobTypeId: row.job_type_id ?? null,
    currency,
  };
  const { sums, isOld, error } = useFigures({ ...asked, sets: [typed] });
  const reach = useReach();
  const save = useSetLines(row.id);
  // A promise, not a callback: the form is drawn anew with the version that comes back.
  const submit = () =>
    void save.mutateAsync({ version: row.version, ...setIn(typed, currency) }).then(
      () => {
        toast.success(`${row.number}: the lines are saved`);
        onDone();
      },
      () => null,
    );
  const onReach = (by: 'price' | 'effort') =>
    reach.mutate(
      { ...asked, set: typed, by },
      { onSuccess: (rows) => setTyped(reached(typed, rows, currency)) },
    );
  return (
    <div className="space-y-2 border-l-2 border-copper pl-3" role="form" aria-label="Lines of the order">
      <div className="grid gap-4 2xl:grid-cols-[minmax(0,1fr)_16rem]">
        <div className="space-y-2">
          <LinesEditor
            lines={typed.lines}
            onChange={(lines) => setTyped((old) => ({ ...old, lines }))}
            sums={sums[0]}
          />
          <WholeDiscounts
            discounts={typed.discounts}
            onChange={(discounts) => setTyped((old) => ({ ...old, discounts }))}
          />
        </div>
        {sums[0] && <SumsBox sums={sums[0]} isOld={isOld} onReach={onReach} />}
      </div>
      <FormError error={save.error ?? reach.error ?? error} />
      <div className="flex gap-2">
        <Button rank="main" disabled={save.isPending || !isWhole(typed, currency)} onClick={submit}>
          Save the lines
        </Button>
        <Button rank="quiet" onClick={onDone}>
          Cancel
        </Button>
      </div>
    </div>
  );
}
