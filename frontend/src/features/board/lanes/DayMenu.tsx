import { urlOf } from '@/api/client';
import { Ellipsis } from 'lucide-react';
import { Button } from '@/design/Button';
import { Menu, MenuItem, MenuLine } from '@/design/Menu';
import { useLockDays } from '../person/commands';
import { printOrders } from './printing';

interface Props {
  day: string;
  days: number;
  canPlan: boolean;
  onCrews: () => void;
}

/** What is done with a whole day: papers, locks, crews. */
export function DayMenu({ day, days, canPlan, onCrews }: Props) {
  const lock = useLockDays();
  const print = () => window.open(urlOf('/api/v1/board/route-sheet', {}, { day }), '_blank');
  const trigger = (
    <Button
      rank="quiet"
      icon={<Ellipsis size={16} />}
      aria-label="The whole day"
      title="The whole day: print, lock, crews"
    />
  );
  return (
    <Menu trigger={trigger}>
      <MenuItem words="Print all route sheets" onSelect={print} />
      <MenuItem words="Print all work orders" onSelect={() => void printOrders(day)} />
      {canPlan && (
        <>
          <MenuLine />
          <MenuItem
            words="Lock everything that is placed"
            onSelect={() => lock.mutate({ day, days, pinned: true })}
          />
          <MenuItem words="Unlock everything" onSelect={() => lock.mutate({ day, days, pinned: false })} />
          <MenuLine />
          <MenuItem words="Crews…" onSelect={onCrews} />
        </>
      )}
    </Menu>
  );
}
