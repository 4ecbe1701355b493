import { Link } from '@tanstack/react-router';
import { useState } from 'react';
import { toast } from 'sonner';
import { sentenceOf } from '@/api/client';
import type { SchemaLoanOut } from '@/api/types';
import { Button } from '@/design/Button';
import { DayField } from '@/design/DayField';
import { Notice } from '@/design/Notice';
import { may, useSession } from '@/features/people';
import { complain } from '@/shared/complain';
import { dayOfAnyYear, moment } from '@/shared/time';
import { useBringBack, useExtend, useFetchBack, useLoans } from '../queries';
import { LendForm } from './LendForm';

/** What is lent: to whom, until when; reminded of, fetched back. */
export function LoansPage() {
  const [returned, setReturned] = useState(false);
  const [lending, setLending] = useState(false);
  const loans = useLoans(returned);
  const canMove = may(useSession(), 'move_stock');
  const rows = loans.data ?? [];
  return (
    <div className="max-w-5xl space-y-4 p-4">
      <header className="flex items-center gap-3">
        <h1 className="text-lg font-semibold">Loans</h1>
        <Button aria-pressed={returned} onClick={() => setReturned(!returned)}>
          What is back
        </Button>
        {canMove && (
          <Button className="ml-auto" aria-expanded={lending} onClick={() => setLending(!lending)}>
            Lend something
          </Button>
        )}
      </header>
      {lending && <LendForm onDone={() => setLending(false)} />}
      {loans.isError && <Notice tone="bad">{sentenceOf(loans.error)}</Notice>}
      {loans.isSuccess && rows.length === 0 && (
        <p className="text-sm text-ink-soft">
          {returned ? 'Nothing has come back yet.' : 'Nothing is lent.'}
        </p>
      )}
      <ul aria-label="Loans" className="space-y-2">
        {rows.map((row) => (
          <LoanRow key={row.id} row={row} canMove={canMove} />
        ))}
      </ul>
    </div>
  );
}

const day = (text: string) => dayOfAnyYear(moment(text, 720));

function LoanRow({ row, canMove }: { row: SchemaLoanOut; canMove: boolean }) {
  return (
    <li
      aria-label={`${row.what}, ${row.whom}`}
      className="space-y-1 rounded-sm border border-hairline bg-sheet p-3 text-sm"
    >
      <div className="flex items-baseline gap-3">
        <span className="min-w-0 flex-1">
          <b>{row.what}</b> {row.technician_id ? 'with' : 'at'} {row.whom}
        </span>
        {row.returned_at ? (
          <span className="text-ink-soft">back since {dayOfAnyYear(row.returned_at)}</span>
        ) : (
          <span className={row.overdue ? 'font-semibold text-bad' : ''}>
            {row.overdue ? `✕ overdue: was due ${day(row.due)}` : `due ${day(row.due)}`}
          </span>
        )}
      </div>
      <p className="text-ink-soft">
        Lent {dayOfAnyYear(row.lent_at)} by {row.lent_by}
        {row.source && ` from ${row.source}`}
        {row.calibrated_until && `; calibrated until ${day(row.calibrated_until)}`}
        {row.reminded_at && `; reminded ${dayOfAnyYear(row.reminded_at)}`}
        {row.note && `; ${row.note}`}
      </p>
      {row.fetch_order_id && (
        <p>
          Fetched back by{' '}
          <Link to="/orders/$orderId" params={{ orderId: String(row.fetch_order_id) }} className="underline">
            {row.fetch}
          </Link>
        </p>
      )}
      {canMove && !row.returned_at && <Doing row={row} />}
    </li>
  );
}

/** It is back, due another day, or to be fetched. */
function Doing({ row }: { row: SchemaLoanOut }) {
  const canMake = may(useSession(), 'make_orders');
  const back = useBringBack();
  const extend = useExtend();
  const fetch_ = useFetchBack();
  const at = { id: row.id, version: row.version };
  const told = (words: string) => ({ onSuccess: () => toast.success(words), onError: complain });
  return (
    <div className="flex items-end gap-2">
      <Button
        disabled={back.isPending}
        onClick={() => back.mutate({ ...at, place_id: null }, told(`${row.what} is back`))}
      >
        {row.source ? `Back at ${row.source}` : 'It is back'}
      </Button>
      {canMake && row.site_id && !row.fetch_order_id && (
        <Button
          disabled={fetch_.isPending}
          onClick={() => fetch_.mutate(at, told('A visit that fetches it is in the backlog'))}
        >
          Make a visit to fetch it
        </Button>
      )}
      <DayField
        label="Due another day"
        className="w-40"
        value=""
        onChange={(due) => due && extend.mutate({ ...at, due }, told(`Due ${day(due)}`))}
      />
    </div>
  );
}
