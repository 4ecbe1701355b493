import { useState } from 'react';
import { toast } from 'sonner';
import { sentenceOf } from '@/api/client';
import type { SchemaPriceListOut, SchemaPriceOut } from '@/api/types';
import { Button } from '@/design/Button';
import { DayField } from '@/design/DayField';
import { SelectField, TextField } from '@/design/Field';
import { FormError } from '@/design/FormError';
import { Notice } from '@/design/Notice';
import { serverNow } from '@/shared/clock';
import { parseAmount, price } from '@/shared/money';
import { dayOfAnyYear, isoDay, moment } from '@/shared/time';
import { useCurrency, useEndPrice, useItems, usePricesOf, useSetPrice } from '../queries';
import { RaiseForm } from './RaiseForm';

interface Props {
  list: SchemaPriceListOut;
  canChange: boolean;
}

/** The prices of one list, another one from a day on, and all of them raised at once. */
export function OneList({ list, canChange }: Props) {
  const prices = usePricesOf(list.id);
  return (
    <section aria-label={list.name} className="max-w-xl space-y-4 text-sm">
      <h2 className="font-semibold">{list.name}</h2>
      {prices.isError && <Notice tone="bad">{sentenceOf(prices.error)}</Notice>}
      <ul aria-label="Prices" className="divide-y divide-hairline border-y border-hairline">
        {prices.data?.map((row) => (
          <PriceRow key={row.id} row={row} canChange={canChange} />
        ))}
        {prices.data?.length === 0 && (
          <li className="py-1 text-ink-soft">No price of its own yet: the standard ones hold.</li>
        )}
      </ul>
      {canChange && <SetPrice holder={{ list_id: list.id }} />}
      {canChange && (prices.data?.length ?? 0) > 0 && <RaiseForm listId={list.id} />}
    </section>
  );
}

const said = (day: string) => dayOfAnyYear(moment(day, 720));

function PriceRow({ row, canChange }: { row: SchemaPriceOut; canChange: boolean }) {
  const currency = useCurrency();
  const end = useEndPrice();
  const least = Number(row.least);
  return (
    <li className="grid grid-cols-[1fr_5rem_5rem_2rem] items-baseline gap-2 py-1">
      <span>
        {row.wording}
        <span className="block text-xs text-ink-soft">
          from {said(row.valid_from)}
          {row.valid_until && ` until before ${said(row.valid_until)}`}
          {least > 0 && `, for ${least} and more`}
        </span>
      </span>
      <s
        className="figures text-right text-ink-soft"
        aria-label={`standard ${price(row.standard, currency)}`}
      >
        {price(row.standard, currency)}
      </s>
      <span className="figures text-right font-semibold">{price(row.price, currency)}</span>
      {canChange ? (
        <Button
          rank="quiet"
          aria-label={`End the price of ${row.wording}`}
          disabled={end.isPending}
          onClick={() => end.mutate(row.id)}
        >
          ✕
        </Button>
      ) : (
        <span />
      )}
    </li>
  );
}

/** A price of an item from a day on, on a list or for one customer. */
export function SetPrice({ holder }: { holder: { list_id: number } | { customer_id: number } }) {
  const currency = useCurrency();
  const items = (useItems().data ?? []).filter((row) => !row.retired);
  const set = useSetPrice();
  const [item, setItem] = useState(0);
  const [typed, setTyped] = useState('');
  const [least, setLeast] = useState('');
  const [from, setFrom] = useState(() => isoDay(serverNow()));
  const amount = parseAmount(typed, currency);
  const done = () => {
    toast.success('The price is set');
    setTyped('');
  };
  return (
    <form
      aria-label="Set a price"
      className="space-y-1"
      onSubmit={(event) => {
        event.preventDefault();
        if (amount === null) return;
        const body = { ...holder, item_id: item, price: amount, valid_from: from };
        set.mutate({ ...body, least: least.replace(',', '.') || '0' }, { onSuccess: done });
      }}
    >
      <h3 className="font-semibold">Set a price</h3>
      <SelectField label="Item" value={item} onChange={(event) => setItem(Number(event.target.value))}>
        <option value={0}>choose…</option>
        {items.map((row) => (
          <option key={row.id} value={row.id}>
            {row.wording} ({price(row.price, currency)})
          </option>
        ))}
      </SelectField>
      <div className="grid grid-cols-[7rem_7rem_9rem_auto] items-end gap-2">
        <TextField
          label={`Price, ${currency}`}
          inputMode="decimal"
          value={typed}
          error={typed && amount === null ? 'An amount' : undefined}
          onChange={(event) => setTyped(event.target.value)}
        />
        <TextField
          label="For at least"
          inputMode="decimal"
          placeholder="any"
          value={least}
          onChange={(event) => setLeast(event.target.value)}
        />
        <DayField label="From" name="price from" value={from} onChange={setFrom} />
        <Button type="submit" rank="main" disabled={!item || amount === null || set.isPending}>
          Set it
        </Button>
      </div>
      <FormError error={set.error} />
    </form>
  );
}
