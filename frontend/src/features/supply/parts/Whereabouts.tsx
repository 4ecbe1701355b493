import { Link } from '@tanstack/react-router';
import { useState } from 'react';
import type { SchemaFittedOut, SchemaPartRecordOut } from '@/api/types';
import { useWhereabouts } from '@/features/stock';
import { dayOfAnyYear, moment } from '@/shared/time';

/** Where all of a part are: single pieces and batches with us, and what is built in at customers'. */
export function Whereabouts({ part }: { part: SchemaPartRecordOut }) {
  const [batch, setBatch] = useState('');
  const [removed, setRemoved] = useState(false);
  const found = useWhereabouts(part.code, batch, removed).data;
  if (!found || (found.fitted.length === 0 && found.lying.length === 0 && !batch)) return null;
  return (
    <section aria-label="Where all of them are" className="text-sm">
      <header className="flex items-center gap-3">
        <h2 className="text-xs font-semibold text-ink-soft">Where all of them are</h2>
        {found.batches.length > 0 && (
          <select
            aria-label="Batch"
            className="rounded-sm border border-hairline bg-sheet px-1.5 py-0.5"
            value={batch}
            onChange={(event) => setBatch(event.target.value)}
          >
            <option value="">of every batch</option>
            {found.batches.map((one) => (
              <option key={one} value={one}>
                batch {one}
              </option>
            ))}
          </select>
        )}
        <label className="flex items-center gap-1">
          <input type="checkbox" checked={removed} onChange={(event) => setRemoved(event.target.checked)} />{' '}
          with what came out again
        </label>
      </header>
      <ul className="max-h-64 divide-y divide-hairline overflow-y-auto">
        {found.lying.map((row) => (
          <li key={`${row.place_id} ${row.serial} ${row.batch}`} className="py-0.5">
            {row.serial || `${row.quantity} of`}
            {row.batch && ` batch ${row.batch}`}, at{' '}
            <Link
              to="/stock/places/$placeId"
              params={{ placeId: String(row.place_id) }}
              className="underline"
            >
              {row.place}
            </Link>
          </li>
        ))}
        {found.fitted.map((row) => (
          <FittedRow key={row.id} row={row} />
        ))}
      </ul>
    </section>
  );
}

const FittedRow = ({ row }: { row: SchemaFittedOut }) => (
  <li className={`py-0.5 ${row.removed_at ? 'text-ink-soft' : ''}`}>
    {row.serial || `${row.quantity} ×`}
    {row.batch && ` batch ${row.batch}`}, built in{row.asset ? `: ${row.asset}` : ''} at{' '}
    <Link to="/customers/$customerId" params={{ customerId: String(row.customer_id) }} className="underline">
      {row.site}
    </Link>{' '}
    since {dayOfAnyYear(row.since)}
    {row.warranty_until && `, warranty until ${dayOfAnyYear(moment(row.warranty_until, 720))}`}
    {row.removed_at && `; came out ${dayOfAnyYear(row.removed_at)}: ${row.removed_because}`}
  </li>
);
