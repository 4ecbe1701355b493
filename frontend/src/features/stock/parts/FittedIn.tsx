import { Link } from '@tanstack/react-router';
import { dayOfAnyYear, moment } from '@/shared/time';
import { useFitted } from '../queries';

/** What is built into a piece of equipment, its warranty, and what was exchanged. */
export function FittedIn({ assetId }: { assetId: number }) {
  const rows = useFitted(assetId).data ?? [];
  if (rows.length === 0) return null;
  return (
    <section aria-label="Parts built in" className="text-sm">
      <h4 className="text-xs font-semibold text-ink-soft">Parts built in</h4>
      <ul className="divide-y divide-hairline">
        {rows.map((row) => (
          <li key={row.id} className={`py-0.5 ${row.removed_at ? 'text-ink-soft' : ''}`}>
            <Link to="/stock/parts/$code" params={{ code: row.code }} className="underline">
              {row.quantity > 1 ? `${row.quantity} × ${row.part}` : row.part}
            </Link>
            {row.serial && ` ${row.serial}`}
            {row.batch && ` (batch ${row.batch})`}
            {`, since ${dayOfAnyYear(row.since)}`}
            {row.order_id && (
              <>
                {', '}
                <Link to="/orders/$orderId" params={{ orderId: String(row.order_id) }} className="underline">
                  {row.visit}
                </Link>
              </>
            )}
            {row.removed_at
              ? `; came out ${dayOfAnyYear(row.removed_at)}${row.removed_because ? `: ${row.removed_because}` : ''}`
              : row.warranty_until && `; warranty until ${dayOfAnyYear(moment(row.warranty_until, 720))}`}
          </li>
        ))}
      </ul>
    </section>
  );
}
