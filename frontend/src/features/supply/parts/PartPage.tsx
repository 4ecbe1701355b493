import { Link, useParams } from '@tanstack/react-router';
import { sentenceOf, urlOf } from '@/api/client';
import type { SchemaPartRecordOut } from '@/api/types';
import { Notice } from '@/design/Notice';
import { may, useSession } from '@/features/people';
import { useCurrency } from '@/features/pricing';
import { Movements, PartForm, usePart } from '@/features/stock';
import { price } from '@/shared/money';
import { LevelsOfPart } from './LevelsOfPart';
import { MergePart } from './MergePart';
import { PartPhoto } from './PartPhoto';
import { Whereabouts } from './Whereabouts';

/** One part: what it is, where it lies, who takes it, what has moved. */
export function PartPage() {
  const { code } = useParams({ strict: false }) as { code: string };
  const part = usePart(code);
  const canMove = may(useSession(), 'move_stock');
  if (part.isError)
    return (
      <div className="p-4">
        <Notice tone="bad">{sentenceOf(part.error)}</Notice>
      </div>
    );
  if (!part.data) return <p className="p-4 text-ink-soft">One moment…</p>;
  const row = part.data;
  return (
    <div className="grid grid-cols-[minmax(0,3fr)_minmax(22rem,2fr)] gap-6 p-4">
      <div className="min-w-0 space-y-5">
        <Head row={row} />
        <LevelsOfPart code={row.code} canMove={canMove} />
        <Whereabouts part={row} />
        <Movements about={{ part: row.code }} />
      </div>
      <div className="space-y-5">
        <PartPhoto part={row} canMove={canMove} />
        <PartForm key={`${row.code} ${row.version}`} row={row} canChange={canMove} onKept={() => undefined} />
        {canMove && row.tracking === 'plain' && <MergePart part={row} />}
      </div>
    </div>
  );
}

function Head({ row }: { row: SchemaPartRecordOut }) {
  const currency = useCurrency();
  const facts = [
    row.supplier && `from ${row.supplier}${row.supplier_number ? `, their ${row.supplier_number}` : ''}`,
    row.cost != null && `costs us ${price(row.cost, currency)} on average`,
    row.price != null && `sold for ${price(row.price, currency)}`,
    row.tracking !== 'plain' && `kept by ${row.tracking}`,
    row.hazardous && 'hazardous',
    row.oversized && 'oversized',
  ].filter(Boolean);
  return (
    <header>
      <p className="figures text-sm text-ink-soft">
        {row.number}
        {row.gtin && ` · GTIN ${row.gtin}`}
      </p>
      <h1 className="text-xl font-semibold">{row.name}</h1>
      <p className="text-sm">{facts.join('; ')}</p>
      {row.fits && row.fits.length > 0 && <p className="text-sm text-ink-soft">Fits {row.fits.join(', ')}</p>}
      {row.untidy && (
        <Notice tone="warn">
          Somebody named this part in a hurry. Say what it is, or merge it into the part that is meant.
        </Notice>
      )}
      <Instead row={row} />
      <p className="mt-1 flex gap-3 text-sm">
        <a
          className="underline"
          href={urlOf('/api/v1/stock/labels', {}, { codes: row.code })}
          target="_blank"
          rel="noreferrer"
        >
          Label with a bar code
        </a>
        <a
          className="underline"
          href={urlOf('/api/v1/stock/labels', {}, { codes: row.code, kind: 'qr' })}
          target="_blank"
          rel="noreferrer"
        >
          Label with a QR code
        </a>
      </p>
    </header>
  );
}

function Instead({ row }: { row: SchemaPartRecordOut }) {
  const names = (list: SchemaPartRecordOut['substitutes']) =>
    list.map((one, at) => (
      <span key={one.code}>
        {at > 0 && ', '}
        <Link to="/stock/parts/$code" params={{ code: one.code }} className="underline">
          {one.name}
        </Link>
      </span>
    ));
  return (
    <>
      {row.substitutes.length > 0 && <p className="text-sm">Instead of it: {names(row.substitutes)}</p>}
      {row.instead_of.length > 0 && <p className="text-sm">Does instead of {names(row.instead_of)}</p>}
    </>
  );
}
