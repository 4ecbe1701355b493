import { useState } from 'react';
import { toast } from 'sonner';
import { sentenceOf } from '@/api/client';
import type { SchemaNeedOut, SchemaPartWayOut } from '@/api/types';
import { Button } from '@/design/Button';
import { may, useSession } from '@/features/people';
import { useCurrency } from '@/features/pricing';
import { complain } from '@/shared/complain';
import { price } from '@/shared/money';
import { useTakeWay, useWays } from '../queries';

/** So many of those that are not in time are shown, so that one sees how near they come. */
const TOO_LATE_SHOWN = 3;

/** The ways to get a missing part, the best first; one press takes one. */
export function Ways({ need, code }: { need: SchemaNeedOut; code: string }) {
  const ways = useWays(need.visit_id, code);
  const take = useTakeWay();
  const session = useSession();
  const canTake = may(session, 'plan') && may(session, 'move_stock');
  const [late, setLate] = useState(false);
  if (ways.isError) return <p className="text-ink-soft">{sentenceOf(ways.error)}</p>;
  if (!ways.data) return <p className="text-ink-soft">Looking for ways…</p>;
  const open = ways.data.filter((way) => way.in_time || way.kind === 'supplier');
  const closed = ways.data.filter((way) => !way.in_time && way.kind !== 'supplier');
  const onTake = (way: SchemaPartWayOut) =>
    take.mutate(
      { visit_id: need.visit_id, version: need.version, part: code, key: way.key },
      { onSuccess: (taken) => toast.success(`Done: ${taken.words}`), onError: complain },
    );
  return (
    <>
      <ul aria-label={`Ways for ${need.label}`}>
        {open.map((way) => (
          <WayRow
            key={way.key}
            way={way}
            canTake={canTake}
            busy={take.isPending}
            onTake={() => onTake(way)}
          />
        ))}
      </ul>
      {open.length === 0 && <p className="text-ink-soft">There is no way in time.</p>}
      {closed.length > 0 && (
        <Button rank="quiet" aria-expanded={late} onClick={() => setLate(!late)}>
          {late ? 'Hide' : 'Show'} {Math.min(TOO_LATE_SHOWN, closed.length)} that do not fit
        </Button>
      )}
      {late && (
        <ul className="text-ink-soft">
          {closed.slice(0, TOO_LATE_SHOWN).map((way) => (
            <li key={way.key}>
              ✕ {way.words}: {way.reasons.join('; ')}
            </li>
          ))}
        </ul>
      )}
    </>
  );
}

interface RowProps {
  way: SchemaPartWayOut;
  canTake: boolean;
  busy: boolean;
  onTake: () => void;
}

const DOES: Record<SchemaPartWayOut['kind'], string> = {
  depot: 'Make the stop',
  colleague: 'Have it handed over',
  substitute: 'Take it instead',
  give: 'Give it',
  supplier: 'Put on the order',
};

function WayRow({ way, canTake, busy, onTake }: RowProps) {
  const currency = useCurrency();
  const minutes = Math.round(way.seconds / 60);
  return (
    <li className="flex flex-wrap items-start gap-x-3 py-0.5 sm:flex-nowrap">
      {canTake && (
        <Button disabled={busy} className="w-44 shrink-0" onClick={onTake}>
          {DOES[way.kind]}
        </Button>
      )}
      <div className="order-last min-w-0 basis-full sm:order-none sm:flex-1 sm:basis-0">
        <p>
          {way.in_time ? '✓' : '✕ not in time:'} {way.words}
        </p>
        {way.reasons.length > 0 && <p className="text-ink-soft">{way.reasons.join('; ')}</p>}
      </div>
      <span className="figures text-right sm:w-20">{minutes ? `${minutes} min` : ''}</span>
      <span className="figures text-right sm:w-24">{way.money ? price(way.money, currency) : ''}</span>
    </li>
  );
}
