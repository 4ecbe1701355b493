import { Link } from '@tanstack/react-router';
import { useState } from 'react';
import { sentenceOf } from '@/api/client';
import type { SchemaPartRequestOut } from '@/api/types';
import { Button } from '@/design/Button';
import { Notice } from '@/design/Notice';
import { may, useSession } from '@/features/people';
import { dayName, moment, stamp } from '@/shared/time';
import { usePartRequests } from '../queries';
import { Answering } from './Answering';
import { AskForm } from './AskForm';

/** Parts that somebody asks for: answered, ordered, handed over. */
export function RequestsPage() {
  const [ended, setEnded] = useState(false);
  const [asking, setAsking] = useState(false);
  const requests = usePartRequests(ended);
  const canMove = may(useSession(), 'move_stock');
  const rows = requests.data ?? [];
  return (
    <div className="max-w-5xl space-y-4 p-4">
      <header className="flex items-center gap-3">
        <h1 className="text-lg font-semibold">Parts asked for</h1>
        <Button aria-pressed={ended} onClick={() => setEnded(!ended)}>
          Those that are over
        </Button>
        {canMove && (
          <Button className="ml-auto" aria-expanded={asking} onClick={() => setAsking(!asking)}>
            Ask for somebody
          </Button>
        )}
      </header>
      {asking && <AskForm onDone={() => setAsking(false)} />}
      {requests.isError && <Notice tone="bad">{sentenceOf(requests.error)}</Notice>}
      {requests.isSuccess && rows.length === 0 && (
        <p className="text-sm text-ink-soft">{ended ? 'None is over yet.' : 'Nobody asks for a part.'}</p>
      )}
      <ul aria-label="Requests" className="space-y-2">
        {rows.map((row) => (
          <RequestRow key={row.id} row={row} canMove={canMove} />
        ))}
      </ul>
    </div>
  );
}

const SIGNS: Record<string, string> = {
  asked: '? asked',
  promised: '→ promised',
  ordered: '… ordered',
  arrived: '● arrived',
  'handed over': '✓ handed over',
  refused: '✕ refused',
};

function RequestRow({ row, canMove }: { row: SchemaPartRequestOut; canMove: boolean }) {
  return (
    <li
      className="rounded-sm border border-hairline bg-sheet p-3 text-sm"
      aria-label={`${row.part}, ${row.technician}`}
    >
      <div className="flex items-baseline gap-3">
        <b className="w-28">{SIGNS[row.state] ?? row.state}</b>
        <span className="min-w-0 flex-1">
          <b>
            {row.quantity} × {row.part}
          </b>{' '}
          for {row.technician}
          {row.order_id && (
            <>
              {', '}
              <Link
                to="/orders/$orderId"
                params={{ orderId: String(row.order_id) }}
                className="figures underline"
              >
                {row.visit}
              </Link>
            </>
          )}
        </span>
        <span>{row.must ? <b className="text-warn">must be there</b> : 'would be nice'}</span>
        <span className="w-44 text-right text-ink-soft">
          {row.needed_by ? `by ${stamp(row.needed_by)}` : `asked ${stamp(row.asked_at)}`}
        </span>
      </div>
      {row.words && <p className="pl-31">“{row.words}”</p>}
      <p className="text-ink-soft">
        {row.source && `From ${row.source}. `}
        {row.state === 'ordered' && row.expected_on && `Expected ${dayName(moment(row.expected_on, 720))}. `}
        {row.answer && `Refused: ${row.answer}`}
        {row.substitute_allowed && 'A substitute will do.'}
      </p>
      {canMove && <Answering row={row} />}
    </li>
  );
}
