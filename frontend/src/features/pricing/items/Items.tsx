import { useState } from 'react';
import type { SchemaItemOut } from '@/api/types';
import { Button } from '@/design/Button';
import { TextField } from '@/design/Field';
import { price } from '@/shared/money';
import { ListAndOne } from '../parts';
import { useCurrency, useItems, useTaxCodes, useUnits } from '../queries';
import { ItemForm } from './ItemForm';

/** The price list: found by typing, changed beside it. */
export function Items({ canChange }: { canChange: boolean }) {
  const items = useItems();
  const codes = useTaxCodes();
  const [text, setText] = useState('');
  const [chosen, setChosen] = useState<number | 'new' | null>(null);
  const rows = (items.data ?? []).filter((row) => holds(row, text));
  const row = items.data?.find(({ id }) => id === chosen) ?? null;
  const noTax = codes.data?.length === 0;
  return (
    <ListAndOne
      error={items.error ?? codes.error}
      list={
        <>
          <div className="flex items-end gap-2 px-3 py-2">
            <TextField
              label="Find"
              className="flex-1"
              value={text}
              onChange={(event) => setText(event.target.value)}
            />
            {canChange && !noTax && <Button onClick={() => setChosen('new')}>New item</Button>}
          </div>
          {noTax && (
            <p className="px-3 text-sm text-ink-soft">Say first how things are taxed, under “Tax codes”.</p>
          )}
          <ItemTable rows={rows} chosen={chosen} onChoose={setChosen} />
          {items.data?.length === 0 && !noTax && (
            <p className="px-3 py-2 text-sm text-ink-soft">
              The price list is empty. Add what you sell: hours, parts, fixed prices, journeys.
            </p>
          )}
        </>
      }
    >
      {(row || chosen === 'new') && codes.data ? (
        <ItemForm
          key={row ? `${row.id} ${row.version}` : 'new'}
          row={row}
          codes={codes.data}
          canChange={canChange}
          onKept={setChosen}
        />
      ) : (
        <p className="text-sm text-ink-soft">
          Choose an item to see it whole. Documents that exist keep the prices they were made with.
        </p>
      )}
    </ListAndOne>
  );
}

const holds = (row: SchemaItemOut, text: string) =>
  `${row.wording} ${row.kind}`.toLowerCase().includes(text.trim().toLowerCase());

interface TableProps {
  rows: SchemaItemOut[];
  chosen: number | 'new' | null;
  onChoose: (id: number) => void;
}

function ItemTable({ rows, chosen, onChoose }: TableProps) {
  const currency = useCurrency();
  const units = new Map((useUnits().data ?? []).map(({ code, name }) => [code, name]));
  return (
    <table className="w-full text-sm" aria-label="Price list">
      <thead>
        <tr className="border-b border-hairline text-left text-xs text-ink-soft">
          <th scope="col" className="px-3 font-semibold">
            Item
          </th>
          <th scope="col" className="font-semibold">
            Kind
          </th>
          <th scope="col" className="text-right font-semibold">
            Cost
          </th>
          <th scope="col" className="text-right font-semibold">
            Price
          </th>
          <th scope="col" className="px-3 font-semibold">
            Unit
          </th>
        </tr>
      </thead>
      <tbody>
        {rows.map((row) => (
          <tr
            key={row.id}
            className={`border-b border-hairline ${row.id === chosen ? 'bg-copper-wash' : 'hover:bg-wash'}`}
          >
            <th scope="row" className="px-3 text-left font-normal">
              <button
                type="button"
                aria-current={row.id === chosen}
                className={`w-full py-1 text-left ${row.retired ? 'text-ink-soft line-through' : 'font-semibold'}`}
                onClick={() => onChoose(row.id)}
              >
                {row.wording}
              </button>
            </th>
            <td className="text-ink-soft">{row.kind}</td>
            <td className="figures text-right text-ink-soft">
              {row.cost == null ? '' : price(row.cost, currency)}
            </td>
            <td className="figures text-right">{price(row.price, currency)}</td>
            <td className="px-3 text-ink-soft">{units.get(row.unit) ?? row.unit}</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}
