import { Link, useNavigate } from '@tanstack/react-router';
import { toast } from 'sonner';
import { sentenceOf } from '@/api/client';
import { Button } from '@/design/Button';
import { useCurrency } from '@/features/pricing';
import { price } from '@/shared/money';
import { MARKS } from '../model';
import { useMakeAtVisit, useQuotesAtVisit } from './queries';

/** More work that turned up here: what it costs, and the customer's yes on this very phone. */
export function QuotesAtVisit({ visitId }: { visitId: number }) {
  const quotes = useQuotesAtVisit(visitId);
  const make = useMakeAtVisit(visitId);
  const navigate = useNavigate();
  const currency = useCurrency();
  const open = (id: number) =>
    void navigate({ to: '/field/quotes/$quoteId', params: { quoteId: String(id) } });
  return (
    <section aria-label="Quotes" className="space-y-2">
      <h2 className="font-semibold">More work here?</h2>
      <ul className="divide-y divide-hairline">
        {quotes.data?.map((row) => (
          <li key={row.id}>
            <Link
              to="/field/quotes/$quoteId"
              params={{ quoteId: String(row.id) }}
              className="flex min-h-12 items-center gap-2"
            >
              <span aria-hidden>{MARKS[row.state]}</span>
              <span className="flex-1">
                {row.number} {row.title}
              </span>
              <span className="text-ink-soft">{row.state}</span>
              <span className="figures">{price(row.gross, currency)}</span>
            </Link>
          </li>
        ))}
      </ul>
      <Button
        size="thumb"
        className="w-full"
        disabled={make.isPending}
        onClick={() =>
          make.mutate(undefined, {
            onSuccess: (quote) => open(quote.id),
            onError: (error) => toast.error(sentenceOf(error)),
          })
        }
      >
        Say what it would cost
      </Button>
    </section>
  );
}
