import { useState, type FormEvent } from 'react';
import { Button } from '@/design/Button';
import { TextField } from '@/design/Field';
import { Notice } from '@/design/Notice';
import { parseAmount, price } from '@/shared/money';
import { clockTime } from '@/shared/time';
import type { DayLog as Log } from '../sync/daylog';
import { inWords } from '../trouble';
import { THUMB } from '../work/thumb';
import { useFill, useRecordDay } from './recordDay';

/** Fuel that was filled in: how much, what it cost, and the photo of its receipt. */
export function Fuel({ log }: { log: Log }) {
  const [open, setOpen] = useState(false);
  const record = useRecordDay(log.day);
  return (
    <section aria-label="Fuel" className="space-y-2">
      <h2 className="text-lg font-semibold">Fuel</h2>
      <ul>
        {log.fuel.map((row) => (
          <li key={row.id} className="flex items-center gap-2">
            <span className="flex-1">
              {clockTime(row.at)}: {row.millilitres / 1000} l, {price(row.amount, log.currency)}
              <span className="block text-sm text-ink-soft">
                {row.size === 0
                  ? 'without a receipt'
                  : row.here
                    ? 'receipt is at the office'
                    : 'with a receipt'}
              </span>
            </span>
            <Button
              size="thumb"
              rank="quiet"
              onClick={() => record.mutate({ kind: 'fuel out', body: { id: row.id } })}
            >
              Take off
            </Button>
          </li>
        ))}
      </ul>
      {open ? (
        <Fill log={log} onOver={() => setOpen(false)} />
      ) : (
        <Button size="thumb" className="w-full" onClick={() => setOpen(true)}>
          I filled in fuel
        </Button>
      )}
    </section>
  );
}

function Fill({ log, onOver }: { log: Log; onOver: () => void }) {
  const fill = useFill(log.day);
  const [litres, setLitres] = useState('');
  const [cost, setCost] = useState('');
  const [receipt, setReceipt] = useState<File | null>(null);
  const millilitres = millilitresOf(litres);
  const amount = parseAmount(cost, log.currency);
  const ready = millilitres !== null && amount !== null && amount >= 0;
  const submit = (event: FormEvent) => {
    event.preventDefault();
    if (ready) fill.mutate({ millilitres, amount, receipt }, { onSuccess: onOver });
  };
  return (
    <form onSubmit={submit} aria-label="Fuel filled in" className="space-y-3">
      <TextField
        label="Litres"
        inputMode="decimal"
        className={THUMB}
        value={litres}
        error={litres.trim() && millilitres === null ? 'Litres, at most 1,000.' : undefined}
        onChange={(event) => setLitres(event.target.value)}
      />
      <TextField
        label={`What it cost, ${log.currency}`}
        inputMode="decimal"
        className={THUMB}
        value={cost}
        error={cost.trim() && amount === null ? 'An amount, as 68.20.' : undefined}
        onChange={(event) => setCost(event.target.value)}
      />
      <label className="flex min-h-14 cursor-pointer items-center justify-center rounded-sm border-2 border-hairline text-lg focus-within:outline-2 focus-within:outline-copper">
        {receipt ? 'The receipt is photographed' : 'Photo of the receipt'}
        <input
          type="file"
          accept="image/*"
          capture="environment"
          className="sr-only"
          onChange={(event) => setReceipt(event.target.files?.[0] ?? null)}
        />
      </label>
      {fill.isError && <Notice tone="bad">{inWords(fill.error)}</Notice>}
      <Button type="submit" rank="main" size="thumb" className="w-full" disabled={!ready || fill.isPending}>
        Write it down
      </Button>
      <Button size="thumb" rank="quiet" className="w-full" onClick={onOver}>
        Back
      </Button>
    </form>
  );
}

/** Thousandths of a litre of what was typed; null: it is no such amount. */
export function millilitresOf(text: string): number | null {
  const typed = text.trim().replace(',', '.');
  const found = /^\d{1,4}(\.\d{1,3})?$/.test(typed) ? Math.round(Number(typed) * 1000) : 0;
  return found > 0 && found <= 1_000_000 ? found : null;
}
