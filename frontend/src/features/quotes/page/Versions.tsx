import { Copy, ExternalLink, FileText } from 'lucide-react';
import { useState } from 'react';
import { toast } from 'sonner';
import { sentenceOf, urlOf } from '@/api/client';
import type { SchemaQuoteOut, SchemaQuoteVersionOut } from '@/api/types';
import { Button } from '@/design/Button';
import { SelectField, TextField } from '@/design/Field';
import { FormError } from '@/design/FormError';
import { may, useSession } from '@/features/people';
import { useCurrency } from '@/features/pricing';
import { price } from '@/shared/money';
import { dayOfAnyYear, moment, stamp } from '@/shared/time';
import { useApproveOnPaper, useStep } from '../queries';

/** What was shown to the customer, when it was opened, and what they said. */
export function Versions({ quote }: { quote: SchemaQuoteOut }) {
  if (quote.versions.length === 0)
    return <p className="text-sm text-ink-soft">The customer has not seen it yet.</p>;
  return (
    <section aria-label="Versions" className="space-y-2 text-sm">
      <h3 className="text-xs font-semibold text-ink-soft">What the customer has</h3>
      <ul className="space-y-2">
        {quote.versions.map((version) => (
          <li key={version.id}>
            <OneVersion quote={quote} version={version} />
          </li>
        ))}
      </ul>
    </section>
  );
}

interface Props {
  quote: SchemaQuoteOut;
  version: SchemaQuoteVersionOut;
}

function OneVersion({ quote, version }: Props) {
  const isOut = version.problem === '';
  const canSend = may(useSession(), 'send_quotes');
  return (
    <div className={`border-l-2 pl-2 ${isOut ? 'border-copper' : 'border-hairline'}`}>
      <p>
        <b className="font-semibold">Version {version.number}</b>{' '}
        {version.how === 'e-mail' ? `to ${version.email}` : version.how}, {stamp(version.sent)} by{' '}
        {version.sent_by}
      </p>
      <p className="text-ink-soft">
        {version.first_seen
          ? `opened ${stamp(version.first_seen)}, ${version.seen_count} times`
          : 'not opened yet'}{' '}
        · valid until {dayOfAnyYear(moment(version.valid_until, 720))}
      </p>
      {version.changes.length > 0 && (
        <details>
          <summary className="cursor-pointer text-ink-soft">{version.changes.length} changes</summary>
          <ul className="list-disc pl-4">
            {version.changes.map((sentence) => (
              <li key={sentence}>{sentence}</li>
            ))}
          </ul>
        </details>
      )}
      {version.answer ? (
        <Said version={version} />
      ) : (
        !isOut && <p className="text-ink-soft">{version.problem}</p>
      )}
      <Papers quote={quote} version={version} />
      {isOut && canSend && <OnPaper quote={quote} version={version} />}
    </div>
  );
}

function Said({ version }: { version: SchemaQuoteVersionOut }) {
  const currency = useCurrency();
  const answer = version.answer!;
  const option = version.options.find(({ key }) => key === answer.option);
  return (
    <p>
      <b>{answer.approved ? '✓ approved' : '✕ refused'}</b> by {answer.name}, {stamp(answer.at)}
      {answer.approved && (
        <>
          {option?.name && `: ${option.name}`}
          {answer.ticked.length > 0 && `, ${answer.ticked.length} lines ticked`}
          {answer.gross != null && `, ${price(answer.gross, currency)} with tax`}
        </>
      )}
      {answer.why && `: ${answer.why}`}
      {answer.note && `. ${answer.note}`}
    </p>
  );
}

const LINK = 'inline-flex items-center gap-1 underline';

/** The paper, the address the customer has, and how it is taken back. */
function Papers({ quote, version }: Props) {
  const step = useStep(quote.id);
  const canSend = may(useSession(), 'send_quotes');
  const copy = () =>
    void navigator.clipboard
      .writeText(`${window.location.origin}${version.path}`)
      .then(() => toast.success('The address is copied'));
  return (
    <p className="flex flex-wrap gap-x-3">
      <a
        className={LINK}
        target="_blank"
        rel="noreferrer"
        href={urlOf('/api/v1/quotes/{quote_id}/versions/{version_id}/pdf', {
          quote_id: quote.id,
          version_id: version.id,
        })}
      >
        <FileText size={13} aria-hidden /> PDF
      </a>
      {version.answer?.paper_id && (
        <a
          className={LINK}
          target="_blank"
          rel="noreferrer"
          href={urlOf('/api/v1/files/{file_id}', { file_id: version.answer.paper_id })}
        >
          <FileText size={13} aria-hidden /> what was signed
        </a>
      )}
      {version.path && (
        <>
          <a className={LINK} href={version.path} target="_blank" rel="noreferrer">
            <ExternalLink size={13} aria-hidden /> as the customer reads it
          </a>
          <button type="button" className={LINK} onClick={copy}>
            <Copy size={13} aria-hidden /> copy the address
          </button>
        </>
      )}
      {version.path && version.problem === '' && canSend && (
        <button
          type="button"
          className="underline"
          onClick={() =>
            void step.mutateAsync({ step: 'revoke', version: quote.version }).then(
              () => toast.success('The address leads nowhere any more'),
              (error: unknown) => toast.error(sentenceOf(error)),
            )
          }
        >
          take the address back
        </button>
      )}
    </p>
  );
}

/** The customer agreed on the phone or on paper: it becomes an order. */
function OnPaper({ quote, version }: Props) {
  const [open, setOpen] = useState(false);
  const [option, setOption] = useState(version.options[0]?.key ?? '');
  const [name, setName] = useState(quote.contact_name);
  const approve = useApproveOnPaper(quote.id);
  if (!open)
    return (
      <Button rank="quiet" onClick={() => setOpen(true)}>
        The customer agreed by word or on paper…
      </Button>
    );
  return (
    <form
      aria-label="Agreed by word or on paper"
      className="space-y-1"
      onSubmit={(event) => {
        event.preventDefault();
        approve.mutate({ version: quote.version, option, ticked: [], name });
      }}
    >
      {version.options.length > 1 && (
        <SelectField label="To what" value={option} onChange={(event) => setOption(event.target.value)}>
          {version.options.map((row) => (
            <option key={row.key} value={row.key}>
              {row.name}
            </option>
          ))}
        </SelectField>
      )}
      <TextField
        label="Who agreed"
        name="name"
        value={name}
        onChange={(event) => setName(event.target.value)}
      />
      <FormError error={approve.error} />
      <Button type="submit" disabled={approve.isPending}>
        Make the order
      </Button>
    </form>
  );
}
