import { useState, type FormEvent } from 'react';
import { toast } from 'sonner';
import type { SchemaRaiseIn, SchemaRaisedOut } from '@/api/types';
import { Button } from '@/design/Button';
import { DayField } from '@/design/DayField';
import { SelectField, TextField } from '@/design/Field';
import { FormError } from '@/design/FormError';
import { serverNow } from '@/shared/clock';
import { digitsOf, price } from '@/shared/money';
import { isoDay } from '@/shared/time';
import { useCurrency, useRaise } from '../queries';

interface Read {
  asked: SchemaRaiseIn;
  rows: SchemaRaisedOut[];
}

/** What becomes of a list's prices: asked first, then done as it was read. */
function useRaising() {
  const raise = useRaise();
  const [read, setRead] = useState<Read | null>(null);
  const look = (asked: SchemaRaiseIn) =>
    raise.mutate(asked, { onSuccess: (rows) => setRead({ asked, rows }) });
  const done = (rows: SchemaRaisedOut[]) => {
    toast.success(rows.length === 1 ? '1 price is changed' : `${rows.length} prices are changed`);
    setRead(null);
  };
  const doIt = () => raise.mutate({ ...read!.asked, sure: true }, { onSuccess: done });
  return { read, look, doIt, forget: () => setRead(null), busy: raise.isPending, error: raise.error };
}

/** All prices of a list by so many percent from a day on: read first, then done as it was read. */
export function RaiseForm({ listId }: { listId: number }) {
  const { read, look, doIt, forget, busy, error } = useRaising();
  const [percent, setPercent] = useState('');
  const [step, setStep] = useState(1);
  const [from, setFrom] = useState(() => isoDay(serverNow()));
  const submit = (event: FormEvent) => {
    event.preventDefault();
    const by = percent.replace(',', '.');
    look({ list_id: listId, percent: by, amount: 0, step, valid_from: from, sure: false });
  };
  return (
    <form aria-label="Change all prices" className="space-y-1" onSubmit={submit} onChange={forget}>
      <h3 className="font-semibold">Change all prices of the list</h3>
      <div className="grid grid-cols-[7rem_9rem_9rem_auto] items-end gap-2">
        <TextField
          label="By percent"
          inputMode="decimal"
          placeholder="3.5 or -2"
          value={percent}
          onChange={(event) => setPercent(event.target.value)}
        />
        <Step step={step} onChange={setStep} />
        <DayField label="From" name="raise from" value={from} onChange={setFrom} />
        <Button type="submit" disabled={!percent.trim() || busy}>
          Show what becomes of them
        </Button>
      </div>
      <FormError error={error} />
      {read && <Changes rows={read.rows} busy={busy} onSure={doIt} />}
    </form>
  );
}

/** To which amount prices are rounded. */
function Step({ step, onChange }: { step: number; onChange: (step: number) => void }) {
  const currency = useCurrency();
  const unit = 10 ** digitsOf(currency);
  const steps = [1, unit / 20, unit / 10, unit / 2, unit].filter((one) => one >= 1);
  return (
    <SelectField label="Rounded to" value={step} onChange={(event) => onChange(Number(event.target.value))}>
      {[...new Set(steps)].map((one) => (
        <option key={one} value={one}>
          {price(one, currency)}
        </option>
      ))}
    </SelectField>
  );
}

interface ChangesProps {
  rows: SchemaRaisedOut[];
  busy: boolean;
  onSure: () => void;
}

function Changes({ rows, busy, onSure }: ChangesProps) {
  const currency = useCurrency();
  return (
    <div className="space-y-2">
      <ul aria-label="What becomes of them" className="max-h-60 divide-y divide-hairline overflow-y-auto">
        {rows.map((row) => (
          <li key={`${row.item_id} ${row.least}`} className="grid grid-cols-[1fr_5rem_5rem] gap-2 py-0.5">
            <span>{row.wording}</span>
            <span className="figures text-right text-ink-soft">{price(row.before, currency)}</span>
            <b className="figures text-right">{price(row.after, currency)}</b>
          </li>
        ))}
      </ul>
      <Button rank="main" disabled={busy} onClick={onSure}>
        {rows.length === 1 ? 'Change this price' : `Change these ${rows.length} prices`}
      </Button>
    </div>
  );
}
