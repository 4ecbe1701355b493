import { Link, useParams } from '@tanstack/react-router';
import { useState } from 'react';
import { toast } from 'sonner';
import { sentenceOf } from '@/api/client';
import type { SchemaQuoteOut } from '@/api/types';
import { Button } from '@/design/Button';
import { TextArea, TextField } from '@/design/Field';
import { FormError } from '@/design/FormError';
import { Notice } from '@/design/Notice';
import { LinesEditor, TotalsTable, useCurrency, useFigures } from '@/features/pricing';
import { price } from '@/shared/money';
import { quoteIn, typedQuote, wrongInQuote, type TypedQuote } from '../model';
import { useFieldQuote, useReviseInField, useSaveInField, useShowInField } from './queries';

/** A quote on the phone: lines found by typing, shown to the customer, signed on the spot. */
export function FieldQuote() {
  const id = Number(useParams({ from: '/phone/field/quotes/$quoteId' }).quoteId);
  const quote = useFieldQuote(id);
  if (quote.isError) return <Notice tone="bad">{sentenceOf(quote.error)}</Notice>;
  if (!quote.data) return <p className="p-4 text-ink-soft">Fetching…</p>;
  return (
    <main className="space-y-4 p-4">
      <p className="text-sm">
        {quote.data.visit_id && (
          <Link to="/field/$visitId" params={{ visitId: String(quote.data.visit_id) }} className="underline">
            Back to the visit
          </Link>
        )}
      </p>
      <h1 className="text-xl font-semibold">
        {quote.data.number} · {quote.data.customer}
      </h1>
      {quote.data.editable ? (
        <Draft key={quote.data.version} quote={quote.data} />
      ) : (
        <Out quote={quote.data} />
      )}
    </main>
  );
}

function Draft({ quote }: { quote: SchemaQuoteOut }) {
  const currency = useCurrency();
  const [typed, setTyped] = useState(() => typedQuote(quote, currency));
  const set = (changes: Partial<TypedQuote>) => setTyped((old) => ({ ...old, ...changes }));
  const option = typed.options[0]!;
  const { sums, error } = useFigures({
    sets: [option],
    customerId: quote.customer_id,
    jobTypeId: typed.jobTypeId,
    currency,
  });
  return (
    <div className="space-y-3">
      <TextField
        label="What it is called"
        value={typed.title}
        onChange={(event) => set({ title: event.target.value })}
      />
      <TextArea
        label="What is to be done"
        rows={3}
        value={typed.scope}
        onChange={(event) => set({ scope: event.target.value })}
      />
      <LinesEditor
        narrow
        lines={option.lines}
        onChange={(lines) => set({ options: [{ ...option, lines }, ...typed.options.slice(1)] })}
        sums={sums[0]}
        canBeOptional
      />
      {sums[0] && <TotalsTable totals={sums[0].totals} />}
      <TextField
        label="Takes"
        hint="45, or 1:30"
        value={option.length}
        onChange={(event) =>
          set({ options: [{ ...option, length: event.target.value }, ...typed.options.slice(1)] })
        }
      />
      <Hands quote={quote} typed={typed} error={error} />
    </div>
  );
}

interface HandsProps {
  quote: SchemaQuoteOut;
  typed: TypedQuote;
  error: unknown;
}

/** Show it, or keep it for later. What is shown is saved first. */
function Hands({ quote, typed, error }: HandsProps) {
  const currency = useCurrency();
  const save = useSaveInField(quote.id);
  const show = useShowInField(quote.id);
  const wrong = wrongInQuote(typed, currency);
  const present = async () => {
    const kept = await save.mutateAsync(quoteIn(typed, quote.version, currency));
    const shown = await show.mutateAsync(kept.version);
    window.location.assign(`${shown.versions[0]!.path}?here=1`);
  };
  return (
    <>
      {quote.discount_problem && <Notice tone="warn">{quote.discount_problem}</Notice>}
      {wrong && <p className="text-bad">{wrong}</p>}
      <FormError error={save.error ?? show.error ?? error} />
      <Button
        rank="main"
        size="thumb"
        className="w-full"
        disabled={wrong !== '' || save.isPending || show.isPending}
        onClick={() => void present().catch(() => null)}
      >
        Show it to the customer
      </Button>
      <Button
        size="thumb"
        className="w-full"
        disabled={wrong !== '' || save.isPending}
        onClick={() =>
          void save.mutateAsync(quoteIn(typed, quote.version, currency)).then(
            () => toast.success('Saved'),
            () => null,
          )
        }
      >
        Save for later
      </Button>
    </>
  );
}

/** It was shown: what the customer said, or the page that is turned to them once more. */
function Out({ quote }: { quote: SchemaQuoteOut }) {
  const currency = useCurrency();
  const revise = useReviseInField(quote.id);
  const [version] = quote.versions;
  return (
    <div className="space-y-3">
      <p className="text-lg">
        {quote.title}: <b className="figures">{price(quote.gross, currency)}</b> with tax
      </p>
      {quote.state === 'approved' && (
        <Notice tone="good">
          Approved by {version?.answer?.name}.{' '}
          {quote.order ? `It is ${quote.order}.` : 'The office makes the order.'}
        </Notice>
      )}
      {quote.state === 'refused' && <Notice>Refused: {quote.why}</Notice>}
      {version?.problem === '' && (
        <a
          href={`${version.path}?here=1`}
          className="flex min-h-14 items-center justify-center rounded-sm border border-copper bg-copper text-lg font-semibold text-copper-ink"
        >
          Show it to the customer
        </a>
      )}
      {quote.steps.includes('revise') && (
        <Button
          size="thumb"
          className="w-full"
          disabled={revise.isPending}
          onClick={() => revise.mutate(quote.version, { onError: (error) => toast.error(sentenceOf(error)) })}
        >
          Change it
        </Button>
      )}
    </div>
  );
}
