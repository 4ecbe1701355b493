import { useQuery } from '@tanstack/react-query';
import { Link } from '@tanstack/react-router';
import { api, data } from '@/api/client';
import { price } from '@/shared/money';
import { dayOfAnyYear } from '@/shared/time';
import { NewQuoteLink } from './NewQuoteLink';
import { useCurrency } from './queries';

interface Props {
  about: 'customer' | 'order';
  id: number;
}

/** Quotes of a customer, or those an order came from and grew by; and where a new one begins. */
export function QuotesOf({ about, id }: Props) {
  const currency = useCurrency();
  const quotes = useQuery({
    queryKey: ['quotes', 'of', about, id],
    queryFn: () =>
      about === 'customer'
        ? data(api.GET('/api/v1/quotes/of/customer/{customer_id}', { params: { path: { customer_id: id } } }))
        : data(api.GET('/api/v1/quotes/of/order/{order_id}', { params: { path: { order_id: id } } })),
  });
  const rows = quotes.data ?? [];
  return (
    <section aria-label="Quotes" className="text-sm">
      <h2 className="flex items-center gap-3 font-semibold">
        Quotes · {quotes.data?.length ?? '…'}
        <NewQuoteLink
          from={about === 'customer' ? { customer: id } : { order: id }}
          words={about === 'customer' ? 'New quote' : 'Quote for more work'}
          className="font-normal underline"
        />
      </h2>
      <ul className="divide-y divide-hairline">
        {rows.map((row) => (
          <li key={row.id} className="flex gap-2 py-0.5">
            <Link to="/quotes/$quoteId" params={{ quoteId: String(row.id) }} className="figures underline">
              {row.number}
            </Link>
            <span className="flex-1 truncate">{row.title}</span>
            <span className="text-ink-soft">
              {row.state} {dayOfAnyYear(row.closed ?? row.sent ?? row.made)}
            </span>
            <span className="figures">{price(row.gross, currency)}</span>
          </li>
        ))}
      </ul>
    </section>
  );
}
