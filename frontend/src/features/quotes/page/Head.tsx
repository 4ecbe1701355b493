import { Link } from '@tanstack/react-router';
import { useEffect, useState } from 'react';
import { toast } from 'sonner';
import { sentenceOf } from '@/api/client';
import type { SchemaQuoteOut } from '@/api/types';
import { Button } from '@/design/Button';
import { FormError } from '@/design/FormError';
import { Notice } from '@/design/Notice';
import { may, useSession } from '@/features/people';
import { useCurrency } from '@/features/pricing';
import { dayOfAnyYear, moment, stamp } from '@/shared/time';
import { MARKS, quoteIn, shelve, wrongInQuote, type TypedQuote } from '../model';
import { useChangeQuote, useStep } from '../queries';
import { SendSheet } from './SendSheet';
import { WithdrawSheet } from './WithdrawSheet';

interface Props {
  quote: SchemaQuoteOut;
  typed: TypedQuote;
  isDirty: boolean;
}

/** Which quote it is, how it stands, and what can be done with it now. */
export function Head({ quote, typed, isDirty }: Props) {
  return (
    <header className="space-y-2">
      <div className="flex items-start justify-between gap-3">
        <div>
          <p className="text-sm text-ink-soft">
            <span className="figures">{quote.number}</span> · <b aria-hidden>{MARKS[quote.state]}</b>{' '}
            {quote.state}
            {quote.revising && ', a new version is being written'} · by {quote.author}, {stamp(quote.made)}
            <From quote={quote} />
          </p>
          <h1 className="text-xl font-semibold">{quote.title}</h1>
          <p>
            <Link
              to="/customers/$customerId"
              params={{ customerId: String(quote.customer_id) }}
              className="underline"
            >
              {quote.customer}
            </Link>
            {quote.site_whole && ` · ${quote.site_whole.name}, ${quote.site_whole.address}`}
            {quote.valid_until && ` · valid until ${dayOfAnyYear(moment(quote.valid_until, 720))}`}
          </p>
        </div>
        <Steps quote={quote} typed={typed} isDirty={isDirty} />
      </div>
      <Standing quote={quote} />
    </header>
  );
}

function From({ quote }: { quote: SchemaQuoteOut }) {
  return (
    <>
      {quote.request_id && (
        <>
          {' '}
          from{' '}
          <Link to="/requests" search={{ id: quote.request_id, state: 'ordered' }} className="underline">
            {quote.request}
          </Link>
        </>
      )}
      {quote.extra_work_on_id && (
        <>
          {' '}
          for more work on{' '}
          <Link
            to="/orders/$orderId"
            params={{ orderId: String(quote.extra_work_on_id) }}
            className="underline"
          >
            {quote.extra_work_on}
          </Link>
        </>
      )}
    </>
  );
}

/** What it became, what stands in its way, and who could say yes. */
function Standing({ quote }: { quote: SchemaQuoteOut }) {
  const step = useStep(quote.id);
  const canOrder = may(useSession(), 'make_orders');
  const take = (name: 'agree' | 'order', words: string) =>
    // A promise, not a callback: the page is drawn anew with the version that comes back.
    void step.mutateAsync({ step: name, version: quote.version }).then(
      () => toast.success(words),
      () => null,
    );
  return (
    <>
      {quote.order_id && (
        <Notice tone="good">
          It is work order{' '}
          <Link to="/orders/$orderId" params={{ orderId: String(quote.order_id) }} className="underline">
            {quote.order}
          </Link>
          .
        </Notice>
      )}
      {quote.state === 'approved' && !quote.order_id && (
        <Notice tone="warn">
          {quote.why_note || 'No order yet.'}{' '}
          {canOrder && <Button onClick={() => take('order', 'The order is made')}>Make the order</Button>}
        </Notice>
      )}
      {quote.why && quote.state !== 'approved' && (
        <Notice>
          {quote.state}: {quote.why}
          {quote.why_note && `. ${quote.why_note}`}
        </Notice>
      )}
      {quote.editable && quote.discount_problem && <Notice tone="warn">{quote.discount_problem}</Notice>}
      {quote.may_agree && (
        <Notice>
          {quote.author} took {quote.given} % off.{' '}
          <Button onClick={() => take('agree', `You agreed to ${quote.given} % off`)}>Agree to it</Button>
        </Notice>
      )}
      {quote.agreed > 0 && (
        <p className="text-sm text-ink-soft">
          {quote.agreed_by} agreed to {quote.agreed} % off.
        </p>
      )}
      <FormError error={step.error} />
    </>
  );
}

/** Save with Ctrl S; what is sent is saved first, so that what is seen is what is sent. */
function Steps({ quote, typed, isDirty }: Props) {
  const session = useSession();
  const currency = useCurrency();
  const change = useChangeQuote(quote.id);
  const [open, setOpen] = useState<'send' | 'withdraw' | null>(null);
  const wrong = wrongInQuote(typed, currency);
  const canMake = may(session, 'make_quotes');
  const save = async () => {
    const found = await change.mutateAsync(quoteIn(typed, quote.version, currency));
    shelve(quote.id, quote.version, null);
    return found;
  };
  const saveAndSay = () =>
    void save().then(
      () => toast.success(`${quote.number} is saved`),
      () => null,
    );
  useSaveKey(isDirty && !wrong, saveAndSay);
  return (
    <div className="space-y-1 text-right">
      <div className="flex flex-wrap justify-end gap-1.5">
        {quote.editable && canMake && (
          <Button
            disabled={!isDirty || wrong !== '' || change.isPending}
            title="Save  Ctrl S"
            onClick={saveAndSay}
          >
            {isDirty ? 'Save' : 'Saved'}
          </Button>
        )}
        {quote.editable && may(session, 'send_quotes') && (
          <Button rank="main" disabled={wrong !== ''} onClick={() => setOpen('send')}>
            Show to the customer…
          </Button>
        )}
        {canMake && <Onward quote={quote} onWithdraw={() => setOpen('withdraw')} />}
      </div>
      {wrong && quote.editable && <p className="text-xs text-bad">{wrong}</p>}
      <FormError error={change.error} />
      {open === 'send' && (
        <SendSheet
          quote={quote}
          email={typed.contactEmail}
          save={isDirty ? save : () => Promise.resolve(quote)}
          onClose={() => setOpen(null)}
        />
      )}
      {open === 'withdraw' && <WithdrawSheet quote={quote} onClose={() => setOpen(null)} />}
    </div>
  );
}

/** A new version of what was sent, or the end of it. */
function Onward({ quote, onWithdraw }: { quote: SchemaQuoteOut; onWithdraw: () => void }) {
  const step = useStep(quote.id);
  return (
    <>
      {quote.steps.includes('revise') && (
        <Button
          disabled={step.isPending}
          onClick={() =>
            step.mutate(
              { step: 'revise', version: quote.version },
              { onError: (error) => toast.error(sentenceOf(error)) },
            )
          }
        >
          New version
        </Button>
      )}
      {quote.steps.includes('withdraw') && (
        <Button rank="quiet" onClick={onWithdraw}>
          Give it up…
        </Button>
      )}
    </>
  );
}

function useSaveKey(isOn: boolean, save: () => void) {
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      if (!(event.ctrlKey || event.metaKey) || event.key.toLowerCase() !== 's') return;
      event.preventDefault();
      if (isOn) save();
    };
    window.addEventListener('keydown', onKey);
    return () => window.removeEventListener('keydown', onKey);
  });
}
