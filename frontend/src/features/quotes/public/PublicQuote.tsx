import { useParams } from '@tanstack/react-router';
import { useState } from 'react';
import { sentenceOf, urlOf } from '@/api/client';
import type { SchemaPresentedOut } from '@/api/types';
import { Notice } from '@/design/Notice';
import { price } from '@/shared/money';
import { dayOfAnyYear, moment, stamp } from '@/shared/time';
import { Asking } from './Asking';
import { OneWay } from './OneWay';
import { usePresented } from './queries';
import { Signing } from './Signing';

/** A quote as the customer reads it, without an account: choose, sign, ask, or say no. */
export function PublicQuote() {
  const { address } = useParams({ from: '/quote/$address' });
  const found = usePresented(address);
  if (found.isError)
    return (
      <main className="mx-auto max-w-lg p-5">
        <h1 className="mb-3 text-2xl font-semibold">There is no quote here</h1>
        <Notice tone="bad">{sentenceOf(found.error)}</Notice>
        <p className="mt-3">The address may be incomplete, or the quote was taken back. Call us, please.</p>
      </main>
    );
  if (!found.data) return <p className="p-5 text-ink-soft">Fetching…</p>;
  return <Shown address={address} quote={found.data} />;
}

const day = (iso: string) => dayOfAnyYear(moment(iso, 720));

function Shown({ address, quote }: { address: string; quote: SchemaPresentedOut }) {
  const [option, setOption] = useState(quote.answer?.option || quote.options[0]!.key);
  const [ticked, setTicked] = useState<string[]>(() => tickedAtFirst(quote, option));
  const isOpen = quote.problem === '';
  const choose = (key: string) => {
    setOption(key);
    setTicked(tickedAtFirst(quote, key));
  };
  return (
    <main className="mx-auto max-w-2xl space-y-5 p-5 pb-24 text-base">
      <Letterhead quote={quote} />
      {quote.answer ? <Answered quote={quote} /> : !isOpen && <Notice tone="warn">{quote.problem}</Notice>}
      <p className="whitespace-pre-line">{quote.introduction}</p>
      {quote.scope && <p className="whitespace-pre-line">{quote.scope}</p>}
      {quote.changes.length > 0 && (
        <section aria-label="What has changed">
          <h2 className="font-semibold">What has changed</h2>
          <ul className="list-disc pl-5 text-sm">
            {quote.changes.map((sentence) => (
              <li key={sentence}>{sentence}</li>
            ))}
          </ul>
        </section>
      )}
      {quote.options.map((way, index) => (
        <OneWay
          key={way.key}
          way={way}
          number={quote.options.length > 1 ? index + 1 : 0}
          currency={quote.currency}
          withTax={quote.with_tax}
          isChosen={way.key === option}
          canChoose={isOpen}
          ticked={way.key === option ? ticked : tickedAtFirst(quote, way.key)}
          onChoose={() => choose(way.key)}
          onTick={(keys) => {
            setOption(way.key);
            setTicked(keys);
          }}
        />
      ))}
      <Pictures quote={quote} />
      <Attachments address={address} quote={quote} />
      <Terms quote={quote} />
      {isOpen && <Signing address={address} quote={quote} option={option} ticked={ticked} />}
      <Asking address={address} quote={quote} isOpen={isOpen} />
      <p className="text-sm">
        <a
          className="underline"
          href={urlOf('/api/v1/public/quotes/{address}/pdf', { address })}
          target="_blank"
          rel="noreferrer"
        >
          {quote.answer?.approved ? 'What was signed, to print' : 'The quote to print'} (PDF)
        </a>
      </p>
    </main>
  );
}

/** What we have ticked for the customer, or what they have taken. */
function tickedAtFirst(quote: SchemaPresentedOut, key: string): string[] {
  if (quote.answer?.approved && quote.answer.option === key) return quote.answer.ticked;
  const way = quote.options.find((one) => one.key === key);
  return (way?.lines ?? []).filter((line) => line.optional && line.chosen).map((line) => line.key);
}

const Letterhead = ({ quote }: { quote: SchemaPresentedOut }) => (
  <header>
    <p className="text-sm text-ink-soft">
      {quote.company.name}
      {quote.company.phone && (
        <>
          {' · '}
          <a className="underline" href={`tel:${quote.company.phone.replace(/\s/g, '')}`}>
            {quote.company.phone}
          </a>
        </>
      )}
    </p>
    <h1 className="text-2xl leading-tight font-semibold">{quote.title}</h1>
    <p className="text-sm text-ink-soft">
      Quote {quote.number}
      {quote.version > 1 && `, version ${quote.version}`} for {quote.customer} · {day(quote.day)} · valid
      until {day(quote.valid_until)}
    </p>
    <p className="text-sm">
      {quote.site}, {quote.address}
      {quote.equipment && ` · ${quote.equipment}`}
    </p>
  </header>
);

function Answered({ quote }: { quote: SchemaPresentedOut }) {
  const answer = quote.answer!;
  const way = quote.options.find(({ key }) => key === answer.option);
  if (!answer.approved)
    return (
      <Notice>
        Refused by {answer.name}, {stamp(answer.at)}. Call us if you change your mind.
      </Notice>
    );
  return (
    <Notice tone="good">
      <p className="font-semibold">
        Approved by {answer.name}, {stamp(answer.at)}
        {way?.name && `: ${way.name}`}
        {answer.gross != null && `, ${price(answer.gross, quote.currency)} with tax`}.
      </p>
      <p>Thank you. We call you to agree on a time.</p>
    </Notice>
  );
}

const Pictures = ({ quote }: { quote: SchemaPresentedOut }) =>
  quote.pictures.length > 0 && (
    <div className="flex flex-wrap gap-3">
      {quote.pictures.map((picture) => (
        <figure key={picture.source.slice(-40)} className="w-40">
          <img src={picture.source} alt={picture.name} className="w-40" />
        </figure>
      ))}
    </div>
  );

const Attachments = ({ address, quote }: { address: string; quote: SchemaPresentedOut }) =>
  quote.attachments.length > 0 && (
    <ul aria-label="Files with this quote" className="text-sm">
      {quote.attachments.map((file) => (
        <li key={file.id}>
          <a
            className="underline"
            href={urlOf('/api/v1/public/quotes/{address}/files/{file_id}', { address, file_id: file.id })}
            target="_blank"
            rel="noreferrer"
          >
            {file.name}
          </a>{' '}
          <span className="text-ink-soft">{Math.ceil(file.size / 1024).toLocaleString('en-GB')} KB</span>
        </li>
      ))}
    </ul>
  );

const Terms = ({ quote }: { quote: SchemaPresentedOut }) => (
  <section aria-label="Terms" className="text-sm">
    <h2 className="font-semibold">Terms</h2>
    <p className="whitespace-pre-line">{quote.terms}</p>
    <p className="mt-2 whitespace-pre-line">{quote.closing}</p>
  </section>
);
