import { useState } from 'react';
import { toast } from 'sonner';
import type { SchemaQuestionOut, SchemaQuoteOut } from '@/api/types';
import { Button } from '@/design/Button';
import { TextArea } from '@/design/Field';
import { FormError } from '@/design/FormError';
import { may, useSession } from '@/features/people';
import { stamp } from '@/shared/time';
import { useAnswerQuestion } from '../queries';

/** What the customer asked, and what we answered. */
export function Questions({ quote }: { quote: SchemaQuoteOut }) {
  if (quote.questions.length === 0) return null;
  return (
    <section aria-label="Questions" className="space-y-2 text-sm">
      <h3 className="text-xs font-semibold text-ink-soft">The customer asks</h3>
      {quote.questions.map((row) => (
        <OneQuestion key={row.id} quoteId={quote.id} row={row} />
      ))}
    </section>
  );
}

function OneQuestion({ quoteId, row }: { quoteId: number; row: SchemaQuestionOut }) {
  const [text, setText] = useState('');
  const answer = useAnswerQuestion(quoteId);
  const canSend = may(useSession(), 'send_quotes');
  return (
    <div className="border-l-2 border-copper pl-2">
      <p>
        <b className="font-semibold">{row.name}</b> <span className="text-ink-soft">{stamp(row.at)}</span>
      </p>
      <p className="whitespace-pre-line">{row.text}</p>
      {row.answered ? (
        <p className="whitespace-pre-line text-ink-soft">
          {row.answered_by}: {row.answer}
        </p>
      ) : (
        canSend && (
          <form
            onSubmit={(event) => {
              event.preventDefault();
              answer.mutate(
                { questionId: row.id, text },
                { onSuccess: () => toast.success(`${row.name} is answered`) },
              );
            }}
          >
            <TextArea
              label={`Answer to ${row.name}`}
              name="text"
              rows={2}
              value={text}
              onChange={(event) => setText(event.target.value)}
            />
            <FormError error={answer.error} />
            <Button type="submit" disabled={!text.trim() || answer.isPending}>
              Send the answer
            </Button>
          </form>
        )
      )}
    </div>
  );
}
