import { Popover } from 'radix-ui';
import { Lamp } from '@/design/Lamp';
import { dayName } from '@/shared/time';
import type { Board } from '../model';

interface Props {
  lamp: 'broken' | 'watch';
  words: string;
  board: Board;
  onVisit: (id: number) => void;
}

/** How many promises of the days shown are broken, or tight; opened, which, each leading to its visit. */
export function Lit({ lamp, words, board, onVisit }: Props) {
  const visits = board.visits.filter((visit) => visit.lamp === lamp);
  const count = (
    <>
      <Lamp lamp={lamp} /> <b className="figures text-ink">{visits.length}</b> {words}
    </>
  );
  if (visits.length === 0) return <span className="flex items-center gap-1">{count}</span>;
  const nameOf = new Map(board.lanes.map((lane) => [lane.technician_id, lane.name]));
  return (
    <Popover.Root>
      <Popover.Trigger
        className="flex min-h-8 items-center gap-1 rounded-sm px-1 hover:bg-wash"
        title="Which?"
      >
        {count}
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          align="start"
          sideOffset={4}
          aria-label={`${visits.length} ${words}`}
          className="z-40 max-h-[70vh] w-80 overflow-y-auto border border-ink bg-sheet p-2 text-sm text-ink"
        >
          <ul className="divide-y divide-hairline">
            {visits.map((visit) => (
              <li key={visit.id}>
                <Popover.Close
                  className="block w-full px-1 py-1 text-left hover:bg-wash"
                  onClick={() => onVisit(visit.id)}
                >
                  <b className="font-semibold">{visit.site}</b> {visit.title}
                  <span className="block text-ink-soft">
                    {[nameOf.get(visit.technician_id ?? 0), visit.start !== null && dayName(visit.start)]
                      .filter(Boolean)
                      .join(', ')}
                  </span>
                </Popover.Close>
              </li>
            ))}
          </ul>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
