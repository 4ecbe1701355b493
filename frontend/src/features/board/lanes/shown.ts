// What is worked out from the board and its address before it is drawn.

import { useQuery } from '@tanstack/react-query';
import { useCallback, useEffect, useMemo, useState } from 'react';
import { hueValue, huesOf } from '../hues';
import type { Board, BoardVisit } from '../model';
import { crewsQuery } from '../queries';
import { useSkillName } from '@/features/people';
import { runQuery } from '@/features/scheduling';
import { rowsOf } from '../rows';
import { ghostsOf } from '@/features/scheduling';
import type { BoardSearch } from '../search';
import type { Drawing } from './drawing';
import type { Heads } from './measures';

const NONE: ReadonlySet<number> = new Set();

export function useRows(
  board: Board,
  visitsOf: Map<number, BoardVisit[]>,
  { group = 'none', sort = 'name' }: BoardSearch,
  near: BoardVisit | null,
) {
  const crews = useQuery({ ...crewsQuery, enabled: group === 'crew' }).data;
  return useMemo(
    () => rowsOf(board.lanes, visitsOf, { group, sort, near, crews: crews ?? [] }),
    [board.lanes, visitsOf, group, sort, near, crews],
  );
}

export function useDrawing(
  board: Board,
  { hue = 'none', label = 'site' }: BoardSearch,
  heads: Heads,
  stretches: boolean,
) {
  const hues = useMemo(() => huesOf(board.visits, hue), [board.visits, hue]);
  const drawing = useMemo<Drawing>(
    () => ({
      label,
      hueOf: (visit) => hues.get(hueValue(visit, hue) ?? ''),
      wide: heads === 'wide',
      stretches,
    }),
    [label, hue, hues, heads, stretches],
  );
  const nameOf = useSkillName();
  const named = useMemo(
    () => (hue === 'skill' ? new Map([...hues].map(([skill, colour]) => [nameOf(skill), colour])) : hues),
    [hue, hues, nameOf],
  );
  return { drawing, hues: named };
}

/** The proposal that is being read, as it is drawn; without the changes that were unticked. */
export function useGhosts(runId: number | undefined) {
  const run = useQuery({ ...runQuery(runId ?? 0), enabled: (runId ?? 0) > 0 }).data;
  const [unticked, setUnticked] = useState<{ run: number | undefined; left: ReadonlySet<number> }>({
    run: runId,
    left: NONE,
  });
  const left = unticked.run === runId ? unticked.left : NONE;
  const setLeft = useCallback(
    (next: ReadonlySet<number>) => setUnticked({ run: runId, left: next }),
    [runId],
  );
  const ghosts = useMemo(() => ghostsOf(runId ? run : undefined, left), [run, runId, left]);
  return { ghosts, left, setLeft };
}

export function holidaysOf(board: Board): ReadonlyMap<string, string> {
  const days = board.lanes.find((lane) => lane.days.length > 0)?.days ?? [];
  return new Map(days.filter((row) => row.holiday).map((row) => [row.day, row.holiday]));
}

export function useWidth(element: HTMLElement | null): number {
  const [width, setWidth] = useState(900);
  useEffect(() => {
    if (!element) return;
    const observer = new ResizeObserver(([entry]) => entry && setWidth(Math.floor(entry.contentRect.width)));
    observer.observe(element);
    return () => observer.disconnect();
  }, [element]);
  return width;
}
