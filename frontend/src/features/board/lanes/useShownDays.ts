import { useMemo } from 'react';
import { axisOf } from '../axis';
import type { Board } from '../model';
import { slotsOf } from '../rows';
import type { BoardSearch } from '../search';
import { HEAD_WIDTHS, ROOM_FOR_WIDE } from './measures';
import { holidaysOf, useDrawing, useRows, useWidth } from './shown';
import { visitsByTechnician } from './useBoard';

/** The days as they are drawn: the axis, the lines in their order, and how visits look. */
export function useShownDays(
  board: Board,
  search: BoardSearch,
  scroller: HTMLElement | null,
  canPlan: boolean,
) {
  const column = search.column ?? null;
  const heads = search.heads ?? (window.innerWidth >= ROOM_FOR_WIDE ? 'wide' : 'narrow');
  const width = useWidth(scroller) - HEAD_WIDTHS[heads] - 4;
  const axis = useMemo(
    () => axisOf(board.days, board.lanes, width, column),
    [board.days, board.lanes, width, column],
  );
  const visitsOf = useMemo(() => visitsByTechnician(board), [board]);
  const selectedId = search.visit ?? null;
  const selected = board.visits.find((visit) => visit.id === selectedId) ?? null;
  const rows = useRows(board, visitsOf, search, selected);
  const inOrder = useMemo(() => rows.flatMap((row) => (row.kind === 'lane' ? [row.lane] : [])), [rows]);
  const slots = useMemo(() => slotsOf(rows), [rows]);
  const { drawing, hues } = useDrawing(board, search, heads, canPlan);
  const holidays = useMemo(() => holidaysOf(board), [board]);
  return {
    column,
    headWidth: HEAD_WIDTHS[heads],
    axis,
    visitsOf,
    selectedId,
    selected,
    rows,
    inOrder,
    slots,
    drawing,
    hues,
    holidays,
  };
}

export type ShownDays = ReturnType<typeof useShownDays>;
