import { useState } from 'react';
import type { SchemaPresentedOut } from '@/api/types';
import { Button } from '@/design/Button';
import { TextArea, TextField } from '@/design/Field';
import { FormError } from '@/design/FormError';
import { Notice } from '@/design/Notice';
import { stamp } from '@/shared/time';
import { useAsk } from './queries';

interface Props {
  address: string;
  quote: SchemaPresentedOut;
  isOpen: boolean;
}

/** Questions, and what was answered. */
export function Asking({ address, quote, isOpen }: Props) {
  const [name, setName] = useState(quote.contact);
  const [text, setText] = useState('');
  const ask = useAsk(address);
  return (
    <section aria-label="Questions" className="space-y-2 text-sm">
      {quote.questions.map((row) => (
        <div key={`${row.at} ${row.text}`} className="border-l-2 border-hairline pl-2">
          <p>
            <b>{row.name}</b> <span className="text-ink-soft">{stamp(row.at)}</span>: {row.text}
          </p>
          {row.answered ? (
            <p className="whitespace-pre-line">
              <b>{quote.company.name}</b>: {row.answer}
            </p>
          ) : (
            <p className="text-ink-soft">We answer as soon as we can.</p>
          )}
        </div>
      ))}
      {isOpen && (
        <details>
          <summary className="min-h-11 cursor-pointer py-2 font-semibold">Ask us something</summary>
          <form
            aria-label="Ask us something"
            className="space-y-2"
            onSubmit={(event) => {
              event.preventDefault();
              ask.mutate({ name, text }, { onSuccess: () => setText('') });
            }}
          >
            <TextArea
              name="text"
              label="Your question"
              rows={3}
              value={text}
              onChange={(event) => setText(event.target.value)}
            />
            <TextField label="Your name" value={name} onChange={(event) => setName(event.target.value)} />
            <FormError error={ask.error} />
            {ask.isSuccess && (
              <Notice tone="good">We have your question, and answer as soon as we can.</Notice>
            )}
            <Button type="submit" disabled={!text.trim() || !name.trim() || ask.isPending}>
              Send the question
            </Button>
          </form>
        </details>
      )}
    </section>
  );
}
