import { useNavigate } from '@tanstack/react-router';
import { useState } from 'react';
import { useCommandField } from '@/shared/command';
import { useBulk } from '../commands';
import type { AnyVisit } from '../model';
import { useLockDays } from '../person/commands';
import { commandActs, type Setting } from './commandActs';
import { CommandField } from './CommandField';
import { scrollTo, toAbsence, toOpenings } from './Slips';
import type { Change, Going } from './useGoing';

interface Props extends Pick<
  Setting,
  'day' | 'canPlan' | 'visit' | 'onTake' | 'onDeed' | 'onGap' | 'onLegend' | 'onCrews' | 'onUndo' | 'onRedo'
> {
  days: number;
  change: Change;
  going: Going;
  onSend: (days: { day: string; days: number }) => void;
}

/** The board's own command field: days, people and visits to go to, and whatever can be done. */
export function BoardCommands({ days, going, onSend, ...props }: Props) {
  const { day, canPlan, change } = props;
  const [open, setOpen] = useState(false);
  useCommandField(() => setOpen(true));
  const navigate = useNavigate();
  const { mutate: lockDays } = useLockDays();
  const { mutate: bulk } = useBulk();
  const absent = (who: number) => {
    going.onPerson(who);
    toAbsence();
  };
  return (
    <CommandField
      open={open}
      onOpenChange={setOpen}
      onDay={(value) => change({ day: value })}
      onTechnician={(who) => {
        scrollTo(who);
        going.onPerson(who);
      }}
      onAbsent={canPlan ? absent : undefined}
      onVisit={(visit) => change({ visit, gap: undefined, person: undefined })}
      acts={commandActs({
        ...props,
        onOpenings: toOpenings,
        onBulk: (kind, { id, version }: AnyVisit) =>
          bulk({ visits: [{ id, version }], kind, seconds: 0, because: '', preview: false }),
        onOrder: (orderId) => void navigate({ to: '/orders/$orderId', params: { orderId: String(orderId) } }),
        onToday: () => going.onDay(0),
        onSend: () => onSend({ day, days }),
        onLock: (pinned) => lockDays({ day, days, pinned }),
      })}
    />
  );
}
