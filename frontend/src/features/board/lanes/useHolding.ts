import { useEffect, useMemo, useState } from 'react';
import { isoDay } from '@/shared/time';
import type { Shown } from '@/features/scheduling';
import type { Board } from '../model';
import { useFits, useMarks, useVerdict } from '../queries';
import { aimOfState, heldBy, holding, laneAim, type Deed } from './interaction';
import { useBoardInteraction } from './useBoardInteraction';
import type { ShownDays } from './useShownDays';

interface Setting {
  board: Board;
  day: string;
  days: ShownDays;
  chosen: ReadonlySet<number>;
  now: number;
  canPlan: boolean;
  onDeed: (deed: NonNullable<Deed>) => void;
}

/** What is held by the pointer or the keys, or looked at in a list of places, and what the server says of it there. */
export function useHolding({ board, day, days, chosen, now, canPlan, onDeed }: Setting) {
  const { axis, inOrder: lanes, slots } = days;
  const { state, press, ground, key, take, offer } = useBoardInteraction({
    axis,
    lanes,
    slots,
    chosen,
    now,
    canPlan,
    onDeed,
  });
  // What one looks at in a list of openings or changes, drawn on the line as if it were held there.
  const [shown, setShown] = useState<Shown | null>(null);
  const held = heldBy(state);
  const together = holding(state)?.together.length ?? 0;
  const here = shown && shown.start >= board.start && shown.start < board.end ? shown : null;
  const placing = laneAim(state) ?? (held ? null : here);
  const judged = together > 1 ? null : (held?.id ?? here?.visitId ?? null);
  const { verdict, error } = useVerdict(judged, placing);
  const aimedDay = placing ? isoDay(placing.start) : day;
  const fits = useFits(held?.id ?? null, aimedDay);
  const marks = useMarks(held?.id ?? null, day, board.days.length);
  useEffect(() => {
    if (held && marks.data) offer(held.id, marks.data.places);
  }, [held, marks.data, offer]);
  const previewDay = board.days.find((row) => row.day === aimedDay)?.start;
  const preview = useMemo(
    () =>
      verdict && placing && previewDay !== undefined
        ? { day: previewDay, timetable: verdict.timetable }
        : null,
    // A timetable belongs to the aim it was asked for.
    // eslint-disable-next-line react-hooks/exhaustive-deps
    [verdict, previewDay],
  );
  return {
    state,
    press,
    ground,
    key,
    take,
    setShown,
    held,
    together,
    here,
    aim: aimOfState(state),
    placing,
    verdict,
    error,
    preview,
    fits: held ? (fits.data ?? null) : null,
    marks,
    liftedId: held?.id ?? here?.visitId ?? null,
  };
}

export type Holding = ReturnType<typeof useHolding>;
