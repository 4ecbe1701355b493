import { useState, type FormEvent } from 'react';
import { toast } from 'sonner';
import type { SchemaPurchaseLineOut, SchemaPurchaseOrderOut } from '@/api/types';
import { Button } from '@/design/Button';
import { TextField } from '@/design/Field';
import { FormError } from '@/design/FormError';
import { may, useSession } from '@/features/people';
import { useCurrency } from '@/features/pricing';
import { amountText, parseAmount, price } from '@/shared/money';
import { useReceive } from '../queries';

interface Came {
  quantity: string;
  price: string;
  pieces: string;
}

/** What is typed, kept while the order changes around it: `seen` is how it was when the first word was typed. Sent twice
 * under one key it is booked once. */
const nothing = () => ({
  key: crypto.randomUUID() as string,
  seen: null as number | null,
  came: {} as Record<number, Came>,
});

const left = (line: SchemaPurchaseLineOut) => Math.max(0, line.quantity - line.received);

/** What was ordered, what has come of it at which price, and what comes now. */
export function Receiving({ row, open }: { row: SchemaPurchaseOrderOut; open: boolean }) {
  const currency = useCurrency();
  const canMove = may(useSession(), 'move_stock') && open;
  const receive = useReceive(row.id);
  const [typed, setTyped] = useState(nothing);
  const { came } = typed;
  const of = (line: SchemaPurchaseLineOut): Came =>
    came[line.id] ?? { quantity: '', price: amountText(line.price, currency), pieces: '' };
  const put = (values: Record<number, Came>) =>
    setTyped({ ...typed, seen: typed.seen ?? row.version, came: { ...came, ...values } });
  const change = (line: SchemaPurchaseLineOut, values: Partial<Came>) =>
    put({ [line.id]: { ...of(line), ...values } });
  const rows = row.lines.filter((line) => Number(of(line).quantity) > 0);
  const submit = (event: FormEvent) => {
    event.preventDefault();
    receive.mutate(
      {
        version: typed.seen ?? row.version,
        key: typed.key,
        came: rows.map((line) => asCame(line, of(line), currency)),
      },
      {
        onSuccess: (order) => {
          setTyped(nothing());
          toast.success(`Put away at ${order.target}: ${order.number} is ${order.state}`);
        },
        // Whoever is told that it was changed sees what it is now, and may press again.
        onError: () => setTyped({ ...typed, seen: null }),
      },
    );
  };
  return (
    <form onSubmit={submit} aria-label="Receive" className="space-y-3 text-sm">
      <Ordered row={row} canMove={canMove} cameOf={of} onChange={change} />
      <FormError error={receive.error} />
      {canMove && (
        <div className="flex gap-2">
          <Button
            onClick={() =>
              put(
                Object.fromEntries(
                  row.lines
                    .filter((line) => left(line) > 0)
                    .map((line) => [line.id, { ...of(line), quantity: String(left(line)) }]),
                ),
              )
            }
          >
            All that is left has come
          </Button>
          <Button type="submit" rank="main" disabled={rows.length === 0 || receive.isPending}>
            Put away at {row.target}
          </Button>
        </div>
      )}
    </form>
  );
}

interface OrderedProps {
  row: SchemaPurchaseOrderOut;
  canMove: boolean;
  cameOf: (line: SchemaPurchaseLineOut) => Came;
  onChange: (line: SchemaPurchaseLineOut, values: Partial<Came>) => void;
}

/** By line: ordered, come, at which price; and what comes now. */
function Ordered({ row, canMove, cameOf, onChange }: OrderedProps) {
  const currency = useCurrency();
  return (
    <table className="w-full" aria-label="Lines">
      <thead>
        <tr className="border-b border-hairline text-left text-xs text-ink-soft">
          {['Part', 'Ordered', 'Came', 'Each', ...(canMove ? ['Comes now', 'Each now', ''] : [])].map(
            (title, at) => (
              <th key={`${title} ${at}`} scope="col" className="pr-3 font-semibold">
                {title}
              </th>
            ),
          )}
        </tr>
      </thead>
      <tbody>
        {row.lines.map((line) => (
          <tr key={line.id} className="border-b border-hairline align-middle">
            <th scope="row" className="py-1.5 pr-3 text-left font-normal">
              {line.part}
              <span className="text-ink-soft"> {line.their_number}</span>
            </th>
            <td className="figures pr-3">{line.quantity}</td>
            <td className="figures pr-3">{line.received}</td>
            <td className="figures pr-3">
              {line.price != null && price(line.price, currency)}
              {!!line.difference && (
                <b className="block text-warn">
                  came at {price(line.paid!, currency)}, {line.difference > 0 ? '+' : '−'}
                  {price(Math.abs(line.difference), currency)}
                </b>
              )}
            </td>
            {canMove && (
              <ComesNow line={line} came={cameOf(line)} onChange={(values) => onChange(line, values)} />
            )}
          </tr>
        ))}
      </tbody>
    </table>
  );
}

interface NowProps {
  line: SchemaPurchaseLineOut;
  came: Came;
  onChange: (values: Partial<Came>) => void;
}

function ComesNow({ line, came, onChange }: NowProps) {
  const tracked = line.tracking !== 'plain';
  return (
    <>
      <td className="pr-3">
        <TextField
          quiet
          label={`How many ${line.part} come now`}
          inputMode="numeric"
          className="w-16"
          value={came.quantity}
          onChange={(event) => onChange({ quantity: event.target.value.replace(/\D/g, '') })}
        />
      </td>
      <td className="pr-3">
        <TextField
          quiet
          label={`Price of one ${line.part} now`}
          inputMode="decimal"
          className="w-24"
          value={came.price}
          onChange={(event) => onChange({ price: event.target.value })}
        />
      </td>
      <td>
        {tracked && (
          <TextField
            quiet
            label={line.tracking === 'batch' ? `Batch of ${line.part}` : `Serial numbers of ${line.part}`}
            placeholder={line.tracking === 'batch' ? 'batch' : 'serial numbers'}
            className="w-44"
            value={came.pieces}
            onChange={(event) => onChange({ pieces: event.target.value })}
          />
        )}
      </td>
    </>
  );
}

function asCame(line: SchemaPurchaseLineOut, came: Came, currency: string) {
  const serial = line.tracking === 'serial number';
  return {
    line_id: line.id,
    quantity: Number(came.quantity),
    price: came.price.trim() ? parseAmount(came.price, currency) : null,
    serials: serial ? came.pieces.split(/[\s,;]+/).filter(Boolean) : [],
    batch: line.tracking === 'batch' ? came.pieces.trim() : '',
  };
}
