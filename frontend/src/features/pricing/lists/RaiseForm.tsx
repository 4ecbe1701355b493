import { useState } from 'react';
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

/** All prices of a list by so many percent from a day on: read first, then done as it was read. */
export function RaiseForm({ listId }: { listId: number }) {
  const currency = useCurrency();
  const raise = useRaise();
  const [percent, setPercent] = useState('');
  const [step, setStep] = useState(1);
  const [from, setFrom] = useState(() => isoDay(serverNow()));
  const [read, setRead] = useState<{ asked: SchemaRaiseIn; rows: SchemaRaisedOut[] } | null>(null);
  const unit = 10 ** digitsOf(currency);
  const look = () => {
    const asked = {
      list_id: listId,
      percent: percent.replace(',', '.'),
      amount: 0,
      step,
      valid_from: from,
      sure: false,
    };
    raise.mutate(asked, { onSuccess: (rows) => setRead({ asked, rows }) });
  };
  const doIt = () =>
    raise.mutate(
      { ...read!.asked, sure: true },
      {
        onSuccess: (rows) => {
          toast.success(rows.length === 1 ? '1 price is changed' : `${rows.length} prices are changed`);
          setRead(null);
          setPercent('');
        },
      },
    );
  return (
    <form
      aria-label="Change all prices"
      className="space-y-1"
      onSubmit={(event) => {
        event.preventDefault();
        look();
      }}
      onChange={() => setRead(null)}
    >
      <h3 className="font-semibold">Change all prices of the list</h3>
      <div className="grid grid-cols-[7rem_9rem_9rem_auto] items-end gap-2">
        <TextField
          label="By percent"
          inputMode="decimal"
          placeholder="3.5 or -2"
          value={percent}
          onChange={(event) => setPercent(event.target.value)}
        />
        <SelectField
          label="Rounded to"
          value={step}
          onChange={(event) => setStep(Number(event.target.value))}
        >
          {[1, unit / 20, unit / 10, unit / 2, unit]
            .filter((one) => one >= 1)
            .map((one) => (
              <option key={one} value={one}>
                {price(one, currency)}
              </option>
            ))}
        </SelectField>
        <DayField label="From" name="raise from" value={from} onChange={setFrom} />
        <Button type="submit" disabled={!percent.trim() || raise.isPending}>
          Show what becomes of them
        </Button>
      </div>
      <FormError error={raise.error} />
      {read && <Changes rows={read.rows} busy={raise.isPending} onSure={doIt} />}
    </form>
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
