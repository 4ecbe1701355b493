import { useParams } from '@tanstack/react-router';
import { useEffect, useState } from 'react';
import { sentenceOf } from '@/api/client';
import type { SchemaQuoteOut } from '@/api/types';
import { FileList } from '@/design/FileList';
import { Notice } from '@/design/Notice';
import { Timeline } from '@/design/Timeline';
import { OfficeReminders } from '@/features/orders';
import { may, useSession } from '@/features/people';
import { reached, SumsBox, useCurrency, useFigures, useReach } from '@/features/pricing';
import { rowsOf } from '@/shared/pages';
import { shelve, shelved, typedQuote, type TypedQuote } from '../model';
import { useNoteOnQuote, useQuote, useQuoteTimeline } from '../queries';
import { Editor } from './Editor';
import { Head } from './Head';
import { Questions } from './Questions';
import { Reading } from './Reading';
import { Surveys } from './Surveys';
import { Versions } from './Versions';

/** All about a quote: what is offered, what was sent, what the customer said, and what it waits for. */
export function QuotePage() {
  const id = Number(useParams({ from: '/office/quotes/$quoteId' }).quoteId);
  const quote = useQuote(id);
  if (quote.isError) return <Notice tone="bad">{sentenceOf(quote.error)}</Notice>;
  if (!quote.data) return <p className="p-4 text-ink-soft">Fetching…</p>;
  return <Opened key={`${id} ${quote.data.editable ? quote.data.version : 'read'}`} quote={quote.data} />;
}

function Opened({ quote }: { quote: SchemaQuoteOut }) {
  const currency = useCurrency();
  const canMake = may(useSession(), 'make_quotes');
  const editing = quote.editable && canMake;
  const [typed, setTyped] = useState<TypedQuote>(
    () => shelved(quote.id, quote.version) ?? typedQuote(quote, currency),
  );
  const [kept] = useState(() => JSON.stringify(typedQuote(quote, currency)));
  const isDirty = editing && JSON.stringify(typed) !== kept;
  const [shown, setShown] = useState(0);
  useEffect(
    () => shelve(quote.id, quote.version, isDirty ? typed : null),
    [quote.id, quote.version, isDirty, typed],
  );
  const asked = { customerId: quote.payer?.id ?? quote.customer_id, jobTypeId: typed.jobTypeId, currency };
  const figures = useFigures({ ...asked, sets: editing ? typed.options : [] });
  const reach = useReach();
  const sums = editing ? figures.sums : quote.content.options.map((option) => option.sums);
  const at = Math.min(shown, typed.options.length - 1);
  const onReach = (by: 'price' | 'effort') =>
    reach.mutate(
      { ...asked, set: typed.options[at]!, by },
      {
        onSuccess: (rows) =>
          setTyped((old) => ({
            ...old,
            options: old.options.map((option, index) =>
              index === at ? { ...option, ...reached(option, rows, currency) } : option,
            ),
          })),
      },
    );
  return (
    <div className="grid h-full min-h-0 grid-cols-[minmax(0,1fr)_22rem]">
      <div className="min-h-0 space-y-4 overflow-y-auto p-4">
        <Head quote={quote} typed={typed} isDirty={isDirty} />
        {editing ? (
          <Editor
            quote={quote}
            typed={typed}
            onType={setTyped}
            sums={figures.sums}
            error={figures.error ?? reach.error}
            shown={at}
            onShow={setShown}
          />
        ) : (
          <Reading quote={quote} shown={at} onShow={setShown} />
        )}
      </div>
      <aside className="min-h-0 space-y-4 overflow-y-auto border-l border-hairline bg-sheet p-4">
        {sums[at] && (
          <SumsBox sums={sums[at]} isOld={editing && figures.isOld} {...(editing && { onReach })} />
        )}
        <Beside quote={quote} />
      </aside>
    </div>
  );
}

function Beside({ quote }: { quote: SchemaQuoteOut }) {
  const timeline = useQuoteTimeline(quote.id);
  const note = useNoteOnQuote(quote.id);
  const canMake = may(useSession(), 'make_quotes');
  return (
    <>
      <Versions quote={quote} />
      <Questions quote={quote} />
      <Surveys quote={quote} />
      <OfficeReminders about={{ kind: 'quote', id: quote.id }} rows={quote.reminders} />
      <FileList record="quote" id={quote.id} canAdd={canMake} />
      <Timeline entries={rowsOf(timeline.data)} older={timeline} onNote={(text) => note.mutateAsync(text)} />
    </>
  );
}
