import { Link, useNavigate } from '@tanstack/react-router';
import { useState, type FormEvent } from 'react';
import { sentenceOf } from '@/api/client';
import { Button } from '@/design/Button';
import { SelectField, TextField } from '@/design/Field';
import { FormError } from '@/design/FormError';
import { Notice } from '@/design/Notice';
import { may, useSession } from '@/features/people';
import { stamp } from '@/shared/time';
import { PlaceChoice } from '../PlaceChoice';
import { useBeginCount, useCounts } from '../queries';

const SCOPES = ['everything', 'one shelf', 'a sample'] as const;
type Scope = (typeof SCOPES)[number];

/** Counts of depots and vans: begun here, those that are going on first. */
export function CountsPage() {
  const counts = useCounts();
  const canMove = may(useSession(), 'move_stock');
  const rows = counts.data ?? [];
  return (
    <div className="max-w-4xl space-y-4 p-4">
      <h1 className="text-lg font-semibold">Counts</h1>
      {canMove && <Begin />}
      {counts.isError && <Notice tone="bad">{sentenceOf(counts.error)}</Notice>}
      {counts.isSuccess && rows.length === 0 && (
        <p className="text-sm text-ink-soft">Nothing was counted yet.</p>
      )}
      <ul aria-label="Counts" className="divide-y divide-hairline border-y border-hairline text-sm">
        {rows.map((row) => (
          <li key={row.id} className="flex gap-3 py-1.5">
            <Link
              to="/stock/counts/$sheetId"
              params={{ sheetId: String(row.id) }}
              className="w-56 font-semibold underline"
            >
              {row.place}: {row.scope}
              {row.shelf && ` ${row.shelf}`}
            </Link>
            <span className="w-32">
              {row.state === 'open' ? `${row.counted} of ${row.lines.length} counted` : row.state}
            </span>
            <span className="flex-1 text-ink-soft">
              {stamp(row.begun_at)} by {row.begun_by}
              {row.booked_by && `, booked by ${row.booked_by}`}
            </span>
            {row.state === 'counted' && <b className="text-warn">differences to be booked</b>}
          </li>
        ))}
      </ul>
    </div>
  );
}

function Begin() {
  const begin = useBeginCount();
  const navigate = useNavigate();
  const [place, setPlace] = useState<number | null>(null);
  const [scope, setScope] = useState<Scope>('everything');
  const [shelf, setShelf] = useState('');
  const [size, setSize] = useState('10');
  const submit = (event: FormEvent) => {
    event.preventDefault();
    begin.mutate(
      { place_id: place!, scope, shelf, size: Number(size) || 10 },
      {
        onSuccess: (row) =>
          void navigate({ to: '/stock/counts/$sheetId', params: { sheetId: String(row.id) } }),
      },
    );
  };
  return (
    <form onSubmit={submit} aria-label="Begin a count" className="space-y-2">
      <div className="flex items-end gap-2">
        <PlaceChoice label="Count" value={place} onChoose={setPlace} />
        <SelectField
          label="What of it"
          className="w-40"
          value={scope}
          onChange={(event) => setScope(event.target.value as Scope)}
        >
          {SCOPES.map((one) => (
            <option key={one}>{one}</option>
          ))}
        </SelectField>
        {scope === 'one shelf' && (
          <TextField
            label="Shelf"
            className="w-28"
            value={shelf}
            onChange={(event) => setShelf(event.target.value)}
          />
        )}
        {scope === 'a sample' && (
          <TextField
            label="How many parts"
            inputMode="numeric"
            className="w-28"
            value={size}
            onChange={(event) => setSize(event.target.value)}
          />
        )}
        <Button type="submit" disabled={!place || begin.isPending}>
          Begin to count
        </Button>
      </div>
      <FormError error={begin.error} />
    </form>
  );
}
