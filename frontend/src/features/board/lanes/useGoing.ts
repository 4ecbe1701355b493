import { useCallback, useMemo } from 'react';
import { freeStretches } from '../gap/gaps';
import type { Lane } from '../model';
import type { BoardSearch, ListSearch, WaitingSearch } from '../search';
import { addDays } from '@/shared/time';

export type Change = (changes: Partial<BoardSearch>) => void;

const NO_FILTER: ListSearch = {};

/** The ways from what is shown to something else: another day, a person, a visit, a gap, other filters. */
export function useGoing(change: Change, search: BoardSearch, day: string, onNone: () => void) {
  const list = search.list ?? NO_FILTER;
  const steady = useMemo(
    () => ({
      onOpenDay: (value: string) => change({ day: value, span: undefined }),
      onMonthDay: (value: string) => change({ day: value, view: undefined, span: undefined }),
      onPerson: (person: number) => {
        onNone();
        change({ person, visit: undefined, gap: undefined });
      },
      onPlan: (who: number) =>
        change({ run: 0, who, ask: undefined, visit: undefined, gap: undefined, person: undefined }),
      onText: (text: string) => change({ text: text || undefined }),
      onVisit: (visit: number) => change({ visit, gap: undefined }),
      onWaiting: (value: WaitingSearch) => change({ waiting: value }),
      /** What waits near a point of the map is read in the backlog. */
      onNear: (value: WaitingSearch) =>
        change(
          value.lon === undefined
            ? { waiting: value }
            : { waiting: value, visit: undefined, gap: undefined, person: undefined, run: undefined },
        ),
    }),
    [change, onNone],
  );
  const onList = useCallback(
    (changes: Partial<ListSearch>) => change({ list: { ...list, ...changes } }),
    [change, list],
  );
  const onDay = (by: number) => change({ day: by === 0 ? undefined : addDays(day, by * (search.span ?? 1)) });
  return { ...steady, list, onList, onDay };
}

/** The gap before or after the one that is shown, in the order of the lines. */
export function gapBeside(lanes: Lane[], gap: BoardSearch['gap'], by: number) {
  const gaps = freeStretches(lanes);
  const current = gap && 'who' in gap ? gap : null;
  const index = gaps.findIndex((row) => row.who === current?.who && row.start === current.start);
  return gaps[(index + by + gaps.length) % gaps.length];
}

/** What Escape puts away first. */
export function closing(search: BoardSearch): Partial<BoardSearch> {
  if (search.gap) return { gap: undefined };
  if (search.visit !== undefined) return { visit: undefined };
  if (search.person !== undefined) return { person: undefined };
  return { run: undefined, who: undefined, only: undefined, ask: undefined };
}

export type Going = ReturnType<typeof useGoing>;
