import { useQuery } from '@tanstack/react-query';
import { api, data, sentenceOf } from '@/api/client';
import type { SchemaByTagOut, SchemaFiltersIn } from '@/api/types';
import { Notice } from '@/design/Notice';
import { useCurrency } from '@/features/pricing';
import { price } from '@/shared/money';

/** What the orders that are listed come to, by the tags of their lines. */
export function ByTag({ filters }: { filters: SchemaFiltersIn }) {
  const found = useQuery({
    queryKey: ['orders', 'by-tag', filters],
    queryFn: ({ signal }) => data(api.POST('/api/v1/orders/by-tag', { body: { filters }, signal })),
    retry: false,
  });
  return (
    <section aria-label="Amounts by tag" className="border-b border-hairline bg-sheet px-3 py-2 text-sm">
      {found.isError && <Notice tone="bad">{sentenceOf(found.error)}</Notice>}
      {found.isPending && <p className="text-ink-soft">Counting…</p>}
      {found.data && <Sums found={found.data} />}
    </section>
  );
}

function Sums({ found }: { found: SchemaByTagOut }) {
  const currency = useCurrency();
  const most = Math.max(1, ...found.tags.map((row) => Math.abs(row.net)));
  if (found.tags.length === 0) return <p className="text-ink-soft">No order here has lines.</p>;
  return (
    <>
      <table className="w-full max-w-3xl">
        <thead>
          <tr className="text-left text-xs text-ink-soft">
            <th>Tag of the line</th>
            <th className="text-right">Orders</th>
            <th className="text-right">Lines</th>
            <th className="w-1/3" aria-hidden />
            <th className="text-right">Without tax</th>
          </tr>
        </thead>
        <tbody>
          {found.tags.map((row) => (
            <tr key={row.tag}>
              <td className={row.tag ? '' : 'text-ink-soft'}>{row.tag || 'no tag'}</td>
              <td className="figures text-right">{row.orders.toLocaleString('en-GB')}</td>
              <td className="figures text-right">{row.lines.toLocaleString('en-GB')}</td>
              <td className="px-3" aria-hidden>
                <div className="h-2 bg-copper" style={{ width: `${(100 * Math.abs(row.net)) / most}%` }} />
              </td>
              <td className="figures text-right">{price(row.net, currency)}</td>
            </tr>
          ))}
          {found.off !== 0 && (
            <tr>
              <td colSpan={4}>Discounts on whole orders</td>
              <td className="figures text-right">{price(-found.off, currency)}</td>
            </tr>
          )}
        </tbody>
        <tfoot>
          <tr className="border-t border-ink font-semibold">
            <td>Together</td>
            <td className="figures text-right">{found.orders.toLocaleString('en-GB')}</td>
            <td colSpan={2} />
            <td className="figures text-right">{price(found.net, currency)}</td>
          </tr>
        </tfoot>
      </table>
      {found.without > 0 && (
        <p className="text-ink-soft">
          {found.without.toLocaleString('en-GB')} orders are older than lines with prices and are not counted.
        </p>
      )}
    </>
  );
}
