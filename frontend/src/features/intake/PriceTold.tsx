import { useQuery } from '@tanstack/react-query';
import { api, data, sentenceOf } from '@/api/client';
import type { SchemaSiteOut } from '@/api/types';
import { useCurrency } from '@/features/pricing';
import { price } from '@/shared/money';
import { parseLength } from '@/shared/time';
import type { Need } from './useNeed';

/** What it costs about, to be said on the phone: with what the chosen window adds. The order gets these lines. */
export function PriceTold({ need, site }: { need: Need; site: SchemaSiteOut | null }) {
  const currency = useCurrency();
  const { values, promise } = need;
  const { window } = promise;
  const body = {
    site_id: site?.id ?? 0,
    job_type_id: values.jobTypeId ?? null,
    duration_seconds: values.length.trim() ? parseLength(values.length) : null,
    window: window ? [window.start, window.end] : null,
  };
  const told = useQuery({
    queryKey: ['orders', 'estimate', body],
    enabled: promise.askable && site !== null,
    queryFn: ({ signal }) => data(api.POST('/api/v1/orders/estimate', { body, signal })),
    staleTime: 60_000,
  });
  if (!promise.askable) return null;
  if (told.isError) return <p className="text-sm text-bad">{sentenceOf(told.error)}</p>;
  if (!told.data?.known) return null;
  const { low, high, with_tax: withTax, lines } = told.data;
  const whole = (amount: number) => price(amount, currency).replace(/\.00$/, '');
  return (
    <details className="text-sm" aria-label="Price to tell">
      <summary className="cursor-pointer">
        Costs about <b className="figures">{low === high ? whole(low) : `${whole(low)}–${whole(high)}`}</b>{' '}
        {withTax ? 'with tax' : 'without tax'}
        {window ? ' in the chosen window' : ''}
      </summary>
      <ul>
        {(lines ?? []).map((line) => (
          <li key={line.wording} className="flex justify-between gap-2 text-ink-soft">
            <span>{line.wording}</span>
            <span className="figures">{price(line.net, currency)}</span>
          </li>
        ))}
      </ul>
    </details>
  );
}
