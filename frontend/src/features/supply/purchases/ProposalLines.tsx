import { X } from 'lucide-react';
import { useState } from 'react';
import { toast } from 'sonner';
import type { SchemaPurchaseOrderOut } from '@/api/types';
import { Button } from '@/design/Button';
import { FormError } from '@/design/FormError';
import { TextField } from '@/design/Field';
import { useCurrency } from '@/features/pricing';
import { PartChoice, usePartName } from '@/features/stock';
import { amountText, parseAmount } from '@/shared/money';
import { usePutLines } from '../queries';

interface Line {
  code: string;
  quantity: string;
  price: string;
  byItself: boolean;
}

const whole = (text: string) => /^[1-9]\d{0,5}$/.test(text.trim());

const typedOf = (row: SchemaPurchaseOrderOut, currency: string): Line[] =>
  row.lines.map((line) => ({
    code: line.code,
    quantity: String(line.quantity),
    price: amountText(line.price, currency),
    byItself: line.by_itself,
  }));

/** What a proposal asks for, changed by hand before it is sent. */
export function ProposalLines({ row }: { row: SchemaPurchaseOrderOut }) {
  const currency = useCurrency();
  const put = usePutLines(row.id);
  const [note, setNote] = useState(row.note);
  const [lines, setLines] = useState(() => typedOf(row, currency));
  const change = (code: string, values: Partial<Line>) =>
    setLines(lines.map((line) => (line.code === code ? { ...line, ...values } : line)));
  const amount = (text: string) => (text.trim() ? parseAmount(text, currency) : null);
  const right = lines.every(
    (line) => whole(line.quantity) && (!line.price.trim() || amount(line.price) !== null),
  );
  const save = () =>
    put.mutate(
      {
        version: row.version,
        note,
        lines: lines.map((line) => ({
          code: line.code,
          quantity: Number(line.quantity),
          price: amount(line.price),
        })),
      },
      { onSuccess: () => toast.success(`${row.number} is saved`) },
    );
  return (
    <section aria-label="Lines" className="space-y-2 text-sm">
      <ul className="divide-y divide-hairline border-y border-hairline">
        {lines.map((line) => (
          <LineRow
            key={line.code}
            line={line}
            currency={currency}
            onChange={(values) => change(line.code, values)}
            onRemove={() => setLines(lines.filter((one) => one !== line))}
          />
        ))}
      </ul>
      <PartChoice
        label="Add a part"
        value=""
        but={lines.map((line) => line.code)}
        onChoose={(code) => setLines([...lines, { code, quantity: '1', price: '', byItself: false }])}
      />
      <TextField
        label="Note to the supplier"
        maxLength={300}
        value={note}
        onChange={(event) => setNote(event.target.value)}
      />
      <FormError error={put.error} />
      <Button disabled={!right || put.isPending} onClick={save}>
        Save the lines
      </Button>
    </section>
  );
}

interface LineProps {
  line: Line;
  currency: string;
  onChange: (values: Partial<Line>) => void;
  onRemove: () => void;
}

function LineRow({ line, currency, onChange, onRemove }: LineProps) {
  const nameOf = usePartName();
  return (
    <li className="flex items-center gap-3 py-1">
      <span className="min-w-0 flex-1">
        {nameOf(line.code)}
        {line.byItself && <span className="text-ink-soft"> (below its least level)</span>}
      </span>
      <TextField
        quiet
        label={`How many ${nameOf(line.code)}`}
        inputMode="numeric"
        className="w-20"
        value={line.quantity}
        error={whole(line.quantity) ? undefined : 'A number'}
        onChange={(event) => onChange({ quantity: event.target.value })}
      />
      <TextField
        quiet
        label={`Price of one ${nameOf(line.code)}`}
        placeholder={`each, ${currency}`}
        inputMode="decimal"
        className="w-28"
        value={line.price}
        onChange={(event) => onChange({ price: event.target.value })}
      />
      <Button
        rank="quiet"
        icon={<X size={14} />}
        aria-label={`Take ${nameOf(line.code)} off`}
        onClick={onRemove}
      />
    </li>
  );
}
