import { Link } from '@tanstack/react-router';
import { toast } from 'sonner';
import { sentenceOf } from '@/api/client';
import type { SchemaStockPlaceOut } from '@/api/types';
import { Button } from '@/design/Button';
import { Notice } from '@/design/Notice';
import { may, useSession } from '@/features/people';
import { useOpenPlaces, useStockPlaces } from '@/features/stock';
import { complain } from '@/shared/complain';
import { MoveParts } from './MoveParts';

/** Where parts lie: depots, and a van for each vehicle. */
export function PlacesPage() {
  const places = useStockPlaces();
  const canMove = may(useSession(), 'move_stock');
  const rows = places.data ?? [];
  return (
    <div className="max-w-5xl space-y-5 p-4">
      <header className="flex items-start justify-between gap-3">
        <div>
          <h1 className="text-lg font-semibold">Depots and vans</h1>
          <p className="text-sm text-ink-soft">
            A van belongs to its vehicle: whoever drives it has what lies on it.
          </p>
        </div>
        {canMove && <OpenPlaces />}
      </header>
      {places.isError && <Notice tone="bad">{sentenceOf(places.error)}</Notice>}
      {places.isSuccess && rows.length === 0 && (
        <p className="text-sm text-ink-soft">
          Nothing is counted yet. A van that nobody counts is trusted: no visit is marked for a missing part.
        </p>
      )}
      <div className="grid grid-cols-2 gap-6">
        <Places title="Depots" rows={rows.filter((row) => row.kind === 'depot')} />
        <Places title="Vans" rows={rows.filter((row) => row.kind === 'van')} />
      </div>
      {canMove && rows.length > 0 && <MoveParts />}
    </div>
  );
}

const Places = ({ title, rows }: { title: string; rows: SchemaStockPlaceOut[] }) => (
  <section aria-label={title}>
    <h2 className="text-xs font-semibold text-ink-soft">{title}</h2>
    <ul className="divide-y divide-hairline border-y border-hairline text-sm">
      {rows.map((row) => (
        <li key={row.id} className="flex gap-3 py-1.5">
          <Link
            to="/stock/places/$placeId"
            params={{ placeId: String(row.id) }}
            className="w-40 font-semibold underline"
          >
            {row.name}
          </Link>
          <span className="text-ink-soft">
            {row.technician || (row.kind === 'van' && 'nobody drives it')}
          </span>
        </li>
      ))}
    </ul>
  </section>
);

/** New depots and vehicles become places when somebody asks for it. */
function OpenPlaces() {
  const open = useOpenPlaces();
  return (
    <Button
      disabled={open.isPending}
      onClick={() =>
        open.mutate(undefined, {
          onSuccess: (rows) => toast.success(`${rows.length} places are there`),
          onError: complain,
        })
      }
    >
      List all depots and vehicles
    </Button>
  );
}
