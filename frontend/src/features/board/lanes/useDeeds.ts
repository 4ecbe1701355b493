import { useCallback } from 'react';
import { usePlace, usePlaceBest, usePlaceFirst, useSendDay, useStretch, useUnplace } from '../commands';
import { useRedo, useUndo } from '@/features/scheduling';
import { wishOf, type ManyWish } from '../many/wish';
import type { BoardSearch } from '../search';
import type { Deed } from './interaction';
import { visitsWithin } from './focus';

interface Setting {
  day: string;
  change: (changes: Partial<BoardSearch>) => void;
  setChosen: (next: (old: ReadonlySet<number>) => ReadonlySet<number>) => void;
  setWish: (wish: ManyWish | null) => void;
}

/** What becomes of what the hand did, and undo and redo of it. */
export function useDeeds({ day, change, setChosen, setWish }: Setting) {
  const { mutate: place } = usePlace();
  const { mutate: unplace } = useUnplace();
  const { mutate: first } = usePlaceFirst();
  const { mutate: best } = usePlaceBest();
  const { mutate: stretch } = useStretch();
  const { mutate: sendDay } = useSendDay();
  const { mutate: back } = useUndo();
  const { mutate: forth } = useRedo();
  const onDeed = useCallback(
    (deed: NonNullable<Deed>) => {
      switch (deed.kind) {
        case 'open':
          setChosen(() => new Set());
          return change({ visit: deed.visit.id, gap: undefined, person: undefined });
        case 'toggle':
          return setChosen((old) => toggled(old, [deed.visit.id]));
        case 'choose': {
          const within = visitsWithin(deed.from, deed.to);
          return setChosen((old) => (deed.adds ? new Set([...old, ...within]) : new Set(within)));
        }
        case 'many':
          return setWish(wishOf(deed, day));
        case 'unplace':
          return unplace({ visit: deed.visit });
        case 'first':
          return first({ ...deed, day });
        case 'best':
          return best(deed);
        case 'stretch':
          return stretch(deed);
        case 'place':
          return place(deed);
      }
    },
    [change, setChosen, setWish, place, unplace, first, best, stretch, day],
  );
  const undo = useCallback(() => back(), [back]);
  const redo = useCallback(() => forth(), [forth]);
  return { onDeed, place, sendDay, undo, redo };
}

function toggled(old: ReadonlySet<number>, ids: number[]): ReadonlySet<number> {
  const found = new Set(old);
  for (const id of ids) if (!found.delete(id)) found.add(id);
  return found;
}
