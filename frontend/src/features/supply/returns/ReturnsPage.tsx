import { useState } from 'react';
import { sentenceOf } from '@/api/client';
import type { SchemaClaimOut } from '@/api/types';
import { Button } from '@/design/Button';
import { Notice } from '@/design/Notice';
import { may, useSession } from '@/features/people';
import { useCurrency } from '@/features/pricing';
import { complain } from '@/shared/complain';
import { price } from '@/shared/money';
import { dayOfAnyYear, moment } from '@/shared/time';
import { useClaims, useSendClaim } from '../queries';
import { Settling } from './Settling';
import { TakeBackForm } from './TakeBackForm';

/** Parts that came out again: kept, thrown away, or defective and on their way to the supplier and back. */
export function ReturnsPage() {
  const [ended, setEnded] = useState(false);
  const [adding, setAdding] = useState(false);
  const claims = useClaims(ended);
  const canMove = may(useSession(), 'move_stock');
  const rows = claims.data ?? [];
  return (
    <div className="max-w-5xl space-y-4 p-4">
      <header className="flex items-center gap-3">
        <h1 className="text-lg font-semibold">Returns and defective parts</h1>
        <Button aria-pressed={ended} onClick={() => setEnded(!ended)}>
          Those that are settled
        </Button>
        {canMove && (
          <Button className="ml-auto" aria-expanded={adding} onClick={() => setAdding(!adding)}>
            A part came out
          </Button>
        )}
      </header>
      {adding && <TakeBackForm onDone={() => setAdding(false)} />}
      {claims.isError && <Notice tone="bad">{sentenceOf(claims.error)}</Notice>}
      {claims.isSuccess && rows.length === 0 && (
        <p className="text-sm text-ink-soft">
          {ended ? 'Nothing is settled yet.' : 'No defective part waits to go back, or for an answer.'}
        </p>
      )}
      <ul aria-label="Claims" className="space-y-2">
        {rows.map((row) => (
          <ClaimRow key={row.id} row={row} canMove={canMove} />
        ))}
      </ul>
    </div>
  );
}

function ClaimRow({ row, canMove }: { row: SchemaClaimOut; canMove: boolean }) {
  const currency = useCurrency();
  const send = useSendClaim();
  return (
    <li
      aria-label={`${row.part} ${row.serial}`}
      className="space-y-1 rounded-sm border border-hairline bg-sheet p-3 text-sm"
    >
      <div className="flex items-baseline gap-3">
        <b className="w-28">{row.state}</b>
        <span className="min-w-0 flex-1">
          <b>
            {row.quantity} × {row.part} {row.serial}
          </b>
          , {row.supplier}: “{row.because}”
        </span>
        <span className="text-ink-soft">
          {row.warranty_until
            ? `warranty until ${dayOfAnyYear(moment(row.warranty_until, 720))}`
            : 'no warranty known'}
        </span>
      </div>
      <p className="text-ink-soft">
        {row.asset && `From ${row.asset}. `}
        Since {dayOfAnyYear(row.made_at)}
        {row.sent_at && `, sent back ${dayOfAnyYear(row.sent_at)}`}
        {row.credit != null && `, credited ${price(row.credit, currency)}`}
        {row.supplier_says && `: ${row.supplier_says}`}
      </p>
      {canMove && row.state === 'set aside' && (
        <Button
          disabled={send.isPending}
          onClick={() => send.mutate({ id: row.id, version: row.version }, { onError: complain })}
        >
          Sent back to {row.supplier}
        </Button>
      )}
      {canMove && row.state === 'sent back' && <Settling row={row} />}
    </li>
  );
}
