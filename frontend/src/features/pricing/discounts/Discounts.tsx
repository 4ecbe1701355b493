import { useState, type FormEvent } from 'react';
import { toast } from 'sonner';
import type { SchemaNamedDiscountIn, SchemaNamedDiscountOut } from '@/api/types';
import { Button } from '@/design/Button';
import { DayField } from '@/design/DayField';
import { SelectField, TextField } from '@/design/Field';
import { FormError } from '@/design/FormError';
import { amountText, parseAmount, price } from '@/shared/money';
import { dayOfAnyYear, moment } from '@/shared/time';
import { ListAndOne } from '../parts';
import { useCurrency, useDiscounts, useKeepDiscount } from '../queries';

/** Discounts the company gives by name: until a day, or so many times. */
export function Discounts({ canChange }: { canChange: boolean }) {
  const discounts = useDiscounts();
  const [chosen, setChosen] = useState<number | 'new' | null>(null);
  const row = discounts.data?.find(({ id }) => id === chosen) ?? null;
  return (
    <ListAndOne
      error={discounts.error}
      list={
        <>
          {canChange && (
            <div className="px-3 py-2">
              <Button onClick={() => setChosen('new')}>New discount</Button>
            </div>
          )}
          <Rows rows={discounts.data ?? []} chosen={chosen} onChoose={setChosen} />
          {discounts.data?.length === 0 && (
            <p className="px-3 py-2 text-sm text-ink-soft">
              None by name yet. Whoever writes a quote can still take something off, within their limit.
            </p>
          )}
        </>
      }
    >
      {row || chosen === 'new' ? (
        <DiscountForm
          key={row ? `${row.id} ${row.version}` : 'new'}
          row={row}
          canChange={canChange}
          onKept={setChosen}
        />
      ) : (
        <p className="text-sm text-ink-soft">
          How far each role may go by itself is said in the settings, under “Quotes”.
        </p>
      )}
    </ListAndOne>
  );
}

interface RowsProps {
  rows: SchemaNamedDiscountOut[];
  chosen: number | 'new' | null;
  onChoose: (id: number) => void;
}

function Rows({ rows, chosen, onChoose }: RowsProps) {
  const currency = useCurrency();
  return (
    <ul aria-label="Discounts" className="divide-y divide-hairline border-y border-hairline text-sm">
      {rows.map((row) => (
        <li key={row.id} className={row.id === chosen ? 'bg-copper-wash' : ''}>
          <button
            type="button"
            aria-current={row.id === chosen}
            className="grid w-full grid-cols-[1fr_6rem_12rem] gap-2 px-3 py-1 text-left hover:bg-wash"
            onClick={() => onChoose(row.id)}
          >
            <b className="font-semibold">{row.name}</b>
            <span className="figures">
              {Number(row.percent) ? `${Number(row.percent)} %` : price(row.amount ?? 0, currency)}
            </span>
            <span className="text-ink-soft">
              {row.problem ||
                [
                  row.valid_until && `until ${dayOfAnyYear(moment(row.valid_until, 720))}`,
                  row.times ? `given ${row.given} of ${row.times} times` : `given ${row.given} times`,
                ]
                  .filter(Boolean)
                  .join(', ')}
            </span>
          </button>
        </li>
      ))}
    </ul>
  );
}

interface FormProps {
  row: SchemaNamedDiscountOut | null;
  canChange: boolean;
  onKept: (id: number) => void;
}

const typedOf = (row: SchemaNamedDiscountOut | null, currency: string) => ({
  name: row?.name ?? '',
  by: row?.amount ? 'amount' : 'percent',
  much: row ? (row.amount ? amountText(row.amount, currency) : String(Number(row.percent))) : '',
  until: row?.valid_until ?? '',
  times: row?.times ? String(row.times) : '',
});

/** As the server takes it. */
function read(typed: ReturnType<typeof typedOf>, currency: string): SchemaNamedDiscountIn {
  const isShare = typed.by === 'percent';
  return {
    name: typed.name,
    percent: isShare ? typed.much.replace(',', '.') || '0' : '0',
    amount: isShare ? 0 : (parseAmount(typed.much, currency) ?? 0),
    valid_until: typed.until || null,
    times: typed.times.trim() ? Number(typed.times) : null,
    retired: false,
  };
}

function DiscountForm({ row, canChange, onKept }: FormProps) {
  const currency = useCurrency();
  const [typed, setTyped] = useState(() => typedOf(row, currency));
  const keep = useKeepDiscount(row);
  const set = (changes: Partial<typeof typed>) => setTyped((old) => ({ ...old, ...changes }));
  const submit = (event: FormEvent) => {
    event.preventDefault();
    keep.mutate(read(typed, currency), {
      onSuccess: (made) => {
        toast.success(`${made.name} is saved`);
        onKept(made.id);
      },
    });
  };
  return (
    <form aria-label="Discount" className="max-w-md space-y-2" onSubmit={submit}>
      <fieldset disabled={!canChange} className="space-y-2">
        <TextField
          name="name"
          label="Name, as the customer reads it"
          maxLength={80}
          value={typed.name}
          onChange={(event) => set({ name: event.target.value })}
        />
        <div className="grid grid-cols-2 gap-2">
          <TextField
            name="percent"
            label="Off"
            inputMode="decimal"
            value={typed.much}
            onChange={(event) => set({ much: event.target.value })}
          />
          <SelectField label="In" value={typed.by} onChange={(event) => set({ by: event.target.value })}>
            <option value="percent">%</option>
            <option value="amount">{currency}</option>
          </SelectField>
          <DayField label="Until" value={typed.until} onChange={(until) => set({ until })} />
          <TextField
            name="times"
            label="At most so many times"
            inputMode="numeric"
            placeholder="any"
            value={typed.times}
            onChange={(event) => set({ times: event.target.value })}
          />
        </div>
        <FormError error={keep.error} />
        {canChange && (
          <Button
            type="submit"
            rank="main"
            disabled={!typed.name.trim() || !typed.much.trim() || keep.isPending}
          >
            Save
          </Button>
        )}
      </fieldset>
    </form>
  );
}
