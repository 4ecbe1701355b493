import { useQuery } from '@tanstack/react-query';
import { Link } from '@tanstack/react-router';
import { Phone } from 'lucide-react';
import { useState } from 'react';
import type { SchemaCallOut } from '@/api/types';
import { Button } from '@/design/Button';
import { OfferTime } from '@/features/appointments';
import { may, useSession } from '@/features/people';
import { useFollowing } from '@/shared/following';
import { stamp } from '@/shared/time';
import { useCalled } from './commands';
import { callsQuery } from './queries';

/** Those whom a person has to call: what they were told is no longer so. Nothing is shown while there are none. */
export function CallList() {
  // Whether a time can be offered hangs on the visit.
  useFollowing(callsQuery.queryKey, ['visit']);
  const calls = useQuery(callsQuery);
  const rows = calls.data ?? [];
  if (rows.length === 0) return null;
  return (
    <section
      aria-label="To be called"
      className="mt-3 max-w-6xl border-l-4 border-warn bg-warn-wash px-3 py-2"
    >
      <h2 className="text-sm font-semibold">To be called: {rows.length}</h2>
      <ul className="divide-y divide-hairline text-sm">
        {rows.map((row, index) => (
          <CallRow key={row.id} row={row} opened={index < OPENED} />
        ))}
      </ul>
    </section>
  );
}

/** So many rows show at once which time can be offered; in the others it is looked for when asked. */
const OPENED = 3;

function CallRow({ row, opened }: { row: SchemaCallOut; opened: boolean }) {
  const session = useSession();
  const done = useCalled();
  const [offering, setOffering] = useState(opened);
  const canOffer = row.can_offer && may(session, 'offer_times');
  return (
    <li
      aria-label={`${row.name}, ${row.order}`}
      className="flex flex-wrap items-center gap-x-3 gap-y-1 py-1.5"
    >
      <span className="min-w-48">
        <span className="font-semibold">{row.name}</span>{' '}
        <a href={`tel:${row.phone.replaceAll(' ', '')}`} className="figures whitespace-nowrap underline">
          {row.phone || 'no number known'}
        </a>
      </span>
      <span className="min-w-0 flex-1">{row.why}</span>
      <Link to="/board" search={{ visit: row.visit_id }} className="figures underline">
        {row.order}
      </Link>
      <time className="text-xs text-ink-soft">{stamp(row.made_at)}</time>
      {canOffer && (
        <Button aria-expanded={offering} onClick={() => setOffering(!offering)}>
          Offer a time
        </Button>
      )}
      {may(session, 'take_requests') && (
        <Button
          icon={<Phone size={14} />}
          aria-label={`${row.name} was called`}
          disabled={done.isPending}
          onClick={() => done.mutate(row.id)}
        >
          Called
        </Button>
      )}
      {canOffer && offering && (
        <OfferTime
          visitId={row.visit_id}
          version={row.visit_version}
          onPromised={() => done.mutate(row.id)}
        />
      )}
    </li>
  );
}
