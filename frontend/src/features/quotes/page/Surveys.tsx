import { Link } from '@tanstack/react-router';
import { useState } from 'react';
import { toast } from 'sonner';
import type { SchemaQuoteOut } from '@/api/types';
import { Button } from '@/design/Button';
import { TextField } from '@/design/Field';
import { FileList } from '@/design/FileList';
import { FormError } from '@/design/FormError';
import { may, useSession } from '@/features/people';
import { stamp } from '@/shared/time';
import { useAskForSurvey } from '../queries';

/** Visits that look at the place before the price is said; what was seen there. */
export function Surveys({ quote }: { quote: SchemaQuoteOut }) {
  const session = useSession();
  const canAsk = may(session, 'make_quotes') && may(session, 'make_orders');
  const isOpen = quote.state === 'draft' || quote.state === 'sent';
  const orders = [...new Set(quote.surveys.map((row) => row.order_id))];
  if (orders.length === 0 && !(canAsk && isOpen)) return null;
  return (
    <section aria-label="Surveys" className="space-y-1 text-sm">
      <h3 className="text-xs font-semibold text-ink-soft">Looking at the place first</h3>
      <ul className="divide-y divide-hairline">
        {quote.surveys.map((row) => (
          <li key={row.visit_id} className="py-0.5">
            <Link to="/board" search={{ visit: row.visit_id }} className="figures underline">
              {row.label}
            </Link>{' '}
            {row.title} ·{' '}
            <span className="text-ink-soft">
              {row.start ? `${stamp(row.start)}, ${row.technician}` : 'waits in the backlog'} ·{' '}
              {row.state.replace('_', ' ')}
            </span>
            {row.outcome && <p className="whitespace-pre-line">{row.outcome}</p>}
          </li>
        ))}
      </ul>
      {orders.map((id) => (
        <FileList key={id} record="order" id={id} canAdd={false} />
      ))}
      {canAsk && isOpen && <AskForSurvey quote={quote} />}
    </section>
  );
}

function AskForSurvey({ quote }: { quote: SchemaQuoteOut }) {
  const [what, setWhat] = useState('');
  const ask = useAskForSurvey(quote.id);
  return (
    <form
      aria-label="Ask for a survey"
      className="flex items-end gap-1.5"
      onSubmit={(event) => {
        event.preventDefault();
        ask.mutate(
          { what },
          {
            onSuccess: () => {
              setWhat('');
              toast.success('The survey waits in the backlog');
            },
          },
        );
      }}
    >
      <div className="flex-1">
        <TextField
          label="What is to be found out there"
          name="what"
          value={what}
          onChange={(event) => setWhat(event.target.value)}
        />
        <FormError error={ask.error} />
      </div>
      <Button type="submit" disabled={!what.trim() || ask.isPending}>
        Ask for a visit
      </Button>
    </form>
  );
}
