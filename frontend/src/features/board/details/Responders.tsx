import { useQuery } from '@tanstack/react-query';
import { Siren } from 'lucide-react';
import { useState } from 'react';
import { sentenceOf } from '@/api/client';
import type { SchemaMoveIn, SchemaPlacedOut, SchemaResponderOut, SchemaVisitDetailOut } from '@/api/types';
import { Button } from '@/design/Button';
import { Notice } from '@/design/Notice';
import { clockTime, length } from '@/shared/time';
import { useGive } from '../commands';
import { respondersQuery } from '../queries';
import { GiveDecision } from './GiveDecision';

const SHOWN = 5;

/** Work that cannot wait: who could go and what that costs, and giving it to one at once. */
export function Responders({ visit, onRepair }: { visit: SchemaVisitDetailOut; onRepair: () => void }) {
  const [open, setOpen] = useState(false);
  const [given, setGiven] = useState<SchemaPlacedOut | null>(null);
  return (
    <section aria-label="Urgent" className="border-t border-hairline pt-3">
      <Button icon={<Siren size={15} />} aria-expanded={open} onClick={() => setOpen(!open)}>
        Who can be there first?
      </Button>
      {given && <Displaced given={given} onRepair={onRepair} />}
      {open && (
        <Found
          visit={visit}
          onGiven={(placed) => {
            setGiven(placed);
            setOpen(false);
          }}
        />
      )}
    </section>
  );
}

/** What still has to give way, so that nobody finds out by a call. */
function Displaced({ given, onRepair }: { given: SchemaPlacedOut; onRepair: () => void }) {
  const displaced = given.verdict.reasons.filter((row) => row.weight === 'warns' || row.weight === 'asks');
  return (
    <div role="status" className="mt-2 border-l-4 border-copper bg-copper-wash px-2 py-1.5 text-sm">
      <p className="font-semibold">Given and told to the phone.</p>
      {displaced.length === 0 ? (
        <p>Nothing else is broken by it.</p>
      ) : (
        <>
          <p>What it breaks:</p>
          <ul className="list-disc pl-4">
            {displaced.map((row) => (
              <li key={row.sentence}>{row.sentence}</li>
            ))}
          </ul>
          <Button className="mt-1" onClick={onRepair}>
            Repair the day
          </Button>
        </>
      )}
    </div>
  );
}

interface FoundProps {
  visit: SchemaVisitDetailOut;
  onGiven: (placed: SchemaPlacedOut) => void;
}

function Found({ visit, onGiven }: FoundProps) {
  const [all, setAll] = useState(false);
  const found = useQuery({ ...respondersQuery(visit.id), refetchInterval: 60_000 });
  const [deciding, setDeciding] = useState<number | null>(null);
  const give = useGive();
  const send = (row: { technician_id: number; start: number }, because: string, moves: SchemaMoveIn[]) =>
    give.mutate(
      { visit, technician_id: row.technician_id, start: row.start, because, moves },
      { onSuccess: onGiven },
    );
  if (found.isPending) return <p className="mt-2 text-sm text-ink-soft">Looking who is where…</p>;
  if (found.isError) return <Notice tone="bad">{sentenceOf(found.error)}</Notice>;
  if (found.data.length === 0)
    return <p className="mt-2 text-sm">Nobody at work now may take it. The openings below say why not.</p>;
  const shown = all ? found.data : found.data.slice(0, SHOWN);
  return (
    <>
      <p className="mt-2 text-xs text-ink-soft">In time first; of those, what costs least.</p>
      <ol className="divide-y divide-hairline" aria-label="Who can be there first">
        {shown.map((row) => (
          <li key={row.technician_id} className="py-1.5 text-sm">
            <div className="flex items-start gap-2">
              <AboutResponder row={row} />
              <Button
                rank={row === found.data[0] ? 'main' : 'plain'}
                disabled={give.isPending}
                title={
                  isPlain(row)
                    ? 'Place it there and tell the phone at once'
                    : 'Decide what gives way, then give it'
                }
                onClick={() => (isPlain(row) ? send(row, '', []) : setDeciding(row.technician_id))}
              >
                <span>
                  Give, <time>{clockTime(row.start)}</time>
                  {!isPlain(row) && '…'}
                </span>
              </Button>
            </div>
            {deciding === row.technician_id && (
              <GiveDecision
                visitId={visit.id}
                technicianId={row.technician_id}
                busy={give.isPending}
                error={give.error}
                onGive={(start, because, moves) => send({ ...row, start }, because, moves)}
              />
            )}
          </li>
        ))}
      </ol>
      {shown.length < found.data.length && (
        <button type="button" className="text-sm underline" onClick={() => setAll(true)}>
          {found.data.length - shown.length} more
        </button>
      )}
    </>
  );
}

/** Given at one press: nobody gives way, nothing has to be said. */
const isPlain = (row: SchemaResponderOut) => row.gives_way.length === 0 && !row.asks;

function AboutResponder({ row }: { row: SchemaResponderOut }) {
  return (
    <div className="min-w-0 flex-1">
      <p>
        <b className="font-semibold">{row.name}</b>
        {row.soonest && <span className="ml-1.5 text-xs text-ink-soft">soonest</span>}
        {row.in_time === false && <span className="ml-1.5 text-xs font-semibold text-bad">too late</span>}
      </p>
      <p className="text-ink-soft">
        {row.doing} · {Math.round(row.drive_seconds / 60)} min to drive
      </p>
      <p className="text-xs text-ink-soft">
        Costs as much as {length(Math.max(0, row.costs))} of driving
        {row.gives_way.length === 0 && ', nobody gives way'}
      </p>
      {row.gives_way.length > 0 && (
        <ul className="text-xs text-warn">
          {row.gives_way.map((words) => (
            <li key={words}>Gives way: {words}</li>
          ))}
        </ul>
      )}
    </div>
  );
}
