import { Lock, LockOpen } from 'lucide-react';
import type { SchemaVisitDetailOut } from '@/api/types';
import { Button } from '@/design/Button';
import { useBulk } from '../commands';
import { useLockOrder } from '../person/commands';
import type { Gap } from '../search';

interface Props {
  visit: SchemaVisitDetailOut;
  canLock: boolean;
  onGap: (gap: Gap) => void;
  /** What waits around a point. */
  onNear: (point: { lon: number; lat: number }) => void;
}

/** What could come after a visit and what waits near it; and locking it where it is. */
export function Around({ visit, canLock, onGap, onNear }: Props) {
  const bulk = useBulk();
  const lockOrder = useLockOrder();
  const lock = () =>
    bulk.mutate({
      visits: [{ id: visit.id, version: visit.version }],
      kind: visit.pinned ? 'unlock' : 'lock',
      seconds: 0,
      because: '',
      preview: false,
    });
  return (
    <div className="flex flex-wrap gap-2">
      {visit.technician_id !== null && (
        <Button title="What could come next after this one  N" onClick={() => onGap({ after: visit.id })}>
          What next after it?
        </Button>
      )}
      <Button title="The backlog within 3 km, the nearest first" onClick={() => onNear(visit)}>
        What waits near it?
      </Button>
      {canLock && (
        <Button
          icon={visit.pinned ? <LockOpen size={14} /> : <Lock size={14} />}
          aria-pressed={visit.pinned}
          disabled={bulk.isPending}
          onClick={lock}
        >
          {visit.pinned ? 'Unlock' : 'Lock'}
        </Button>
      )}
      {canLock && visit.parts > 1 && (
        <Button
          icon={visit.pinned ? <LockOpen size={14} /> : <Lock size={14} />}
          disabled={lockOrder.isPending}
          onClick={() => lockOrder.mutate({ orderId: visit.order_id, pinned: !visit.pinned })}
        >
          {visit.pinned ? 'Unlock the order' : 'Lock the order'}
        </Button>
      )}
    </div>
  );
}
