import { useQuery } from '@tanstack/react-query';
import { Link } from '@tanstack/react-router';
import { Phone } from 'lucide-react';
import { Button } from '@/design/Button';
import { may, useSession } from '@/features/people';
import { stamp } from '@/shared/time';
import { useCalled } from './commands';
import { callsQuery } from './queries';

/** Those whom a person has to call: what they were told is no longer so. Nothing is shown while there are none. */
export function CallList() {
  const session = useSession();
  const calls = useQuery(callsQuery);
  const done = useCalled();
  const rows = calls.data ?? [];
  if (rows.length === 0) return null;
  return (
    <section
      aria-label="To be called"
      className="mt-3 max-w-6xl border-l-4 border-warn bg-warn-wash px-3 py-2"
    >
      <h2 className="text-sm font-semibold">To be called: {rows.length}</h2>
      <ul className="divide-y divide-hairline text-sm">
        {rows.map((row) => (
          <li key={row.id} className="flex flex-wrap items-center gap-x-3 gap-y-1 py-1.5">
            <span className="min-w-48">
              <span className="font-semibold">{row.name}</span>{' '}
              <a
                href={`tel:${row.phone.replaceAll(' ', '')}`}
                className="figures whitespace-nowrap underline"
              >
                {row.phone || 'no number known'}
              </a>
            </span>
            <span className="min-w-0 flex-1">{row.why}</span>
            <Link to="/board" search={{ visit: row.visit_id }} className="figures underline">
              {row.order}
            </Link>
            <time className="text-xs text-ink-soft">{stamp(row.made_at)}</time>
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
          </li>
        ))}
      </ul>
    </section>
  );
}
