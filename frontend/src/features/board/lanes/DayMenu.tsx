import { Ellipsis } from 'lucide-react';
import { DropdownMenu } from 'radix-ui';
import { Button } from '@/design/Button';
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
  const print = (path: string) => window.open(`/api/v1/board/${path}?day=${day}`, '_blank');
  return (
    <DropdownMenu.Root>
      <DropdownMenu.Trigger asChild>
        <Button
          rank="quiet"
          icon={<Ellipsis size={16} />}
          aria-label="The whole day"
          title="The whole day: print, lock, crews"
        />
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content
          align="end"
          sideOffset={4}
          className="z-40 min-w-56 rounded-sm border border-ink bg-sheet p-1 text-sm"
        >
          <Item words="Print all route sheets" onSelect={() => print('route-sheet')} />
          <Item words="Print all work orders" onSelect={() => void printOrders(day)} />
          {canPlan && (
            <>
              <DropdownMenu.Separator className="my-1 border-t border-hairline" />
              <Item
                words="Lock everything that is placed"
                onSelect={() => lock.mutate({ day, days, pinned: true })}
              />
              <Item words="Unlock everything" onSelect={() => lock.mutate({ day, days, pinned: false })} />
              <DropdownMenu.Separator className="my-1 border-t border-hairline" />
              <Item words="Crews…" onSelect={onCrews} />
            </>
          )}
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}

const Item = ({ words, onSelect }: { words: string; onSelect: () => void }) => (
  <DropdownMenu.Item
    className="cursor-pointer rounded-sm px-2 py-1.5 outline-none data-[highlighted]:bg-copper-wash"
    onSelect={onSelect}
  >
    {words}
  </DropdownMenu.Item>
);
