import { Link } from '@tanstack/react-router';
import { sentenceOf } from '@/api/client';
import { Notice } from '@/design/Notice';
import { stamp } from '@/shared/time';
import { useMovements } from '../queries';

const REASONS: Record<string, string> = {
  receipt: 'came in',
  transfer: 'moved',
  use: 'built in',
  return: 'came back',
  count: 'counted',
  scrap: 'thrown away',
  loan: 'lent',
  defect: 'defective',
};

/** What moved, the newest first: of a part, or at a place. */
export function Movements({ about }: { about: { part?: string; place_id?: number } }) {
  const found = useMovements(about);
  if (found.isError) return <Notice tone="bad">{sentenceOf(found.error)}</Notice>;
  const rows = found.data?.rows ?? [];
  return (
    <section aria-label="Movements" className="text-sm">
      <h2 className="text-xs font-semibold text-ink-soft">Movements</h2>
      {found.isSuccess && rows.length === 0 && <p className="text-ink-soft">Nothing has moved yet.</p>}
      <table className="w-full" aria-label="Movements">
        <tbody>
          {rows.map((row) => (
            <tr key={row.id} className="border-b border-hairline align-top">
              <td className="py-1 pr-3 whitespace-nowrap text-ink-soft">{stamp(row.at)}</td>
              <td className="figures pr-2 text-right font-semibold">{row.quantity}</td>
              {!about.part && <td className="pr-3">{row.part}</td>}
              <td className="pr-3">
                {REASONS[row.reason] ?? row.reason}: {row.source} → {row.target}
                {row.serials.length > 0 && <span className="text-ink-soft"> {row.serials.join(', ')}</span>}
                {row.batch && <span className="text-ink-soft"> batch {row.batch}</span>}
                {row.note && <span className="text-ink-soft">, {row.note}</span>}
              </td>
              <td className="pr-3 whitespace-nowrap">
                {row.order_id && (
                  <Link
                    to="/orders/$orderId"
                    params={{ orderId: String(row.order_id) }}
                    className="figures underline"
                  >
                    {row.visit}
                  </Link>
                )}
              </td>
              <td className="text-ink-soft">{row.by}</td>
            </tr>
          ))}
        </tbody>
      </table>
      {found.data?.next && <p className="py-1 text-ink-soft">The newest hundred are shown.</p>}
    </section>
  );
}
