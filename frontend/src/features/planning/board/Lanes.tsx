import { useMemo, type KeyboardEvent, type PointerEvent } from 'react';
import type { AnyVisit, Axis, Board, BoardVisit, Timetable } from '../model';
import { LABEL_WIDTH, LaneRow } from './Lane';
import { HourLines, TimeAxis } from './TimeAxis';
import { widthOf } from '../model';

interface Props {
  board: Board;
  day: string;
  axis: Axis;
  now: number;
  selectedId: number | null;
  liftedId: number | null;
  aim: { technicianId: number; start: number } | null;
  preview: Timetable | null;
  fits: Map<number, string[]> | null;
  onPress: (event: PointerEvent<HTMLElement>, visit: AnyVisit) => void;
  onKey: (event: KeyboardEvent<HTMLElement>, visit: AnyVisit) => void;
  /** Ask the planner about one technician's day. */
  onPlan: ((technicianId: number) => void) | undefined;
}

const NOBODY: BoardVisit[] = [];

/** All technicians' days, one line each. */
export function Lanes({
  board,
  day,
  axis,
  now,
  selectedId,
  liftedId,
  aim,
  preview,
  fits,
  onPress,
  onKey,
  onPlan,
}: Props) {
  const byTechnician = useMemo(() => {
    const map = new Map<number, BoardVisit[]>();
    for (const visit of board.visits) {
      // A crew's visit stands on the day of everybody who goes.
      for (const hand of [visit.technician_id!, ...visit.mates]) {
        const list = map.get(hand) ?? [];
        list.push(visit);
        map.set(hand, list);
      }
    }
    for (const list of map.values()) list.sort((a, b) => a.start! - b.start!);
    return map;
  }, [board.visits]);
  return (
    <div className="relative min-h-full" style={{ width: LABEL_WIDTH + widthOf(axis) }}>
      <Patterns />
      <TimeAxis axis={axis} now={now} />
      <div className="relative" role="list" aria-label="Technicians">
        <HourLines axis={axis} now={now} />
        {board.lanes.map((lane) => {
          const aimed = aim?.technicianId === lane.technician_id;
          return (
            <LaneRow
              key={lane.technician_id}
              lane={lane}
              visits={byTechnician.get(lane.technician_id) ?? NOBODY}
              axis={axis}
              day={day}
              selectedId={selectedId}
              liftedId={liftedId}
              preview={aimed ? preview : null}
              aimed={aimed}
              unfit={fits?.get(lane.technician_id) ?? null}
              onPress={onPress}
              onKey={onKey}
              onPlan={onPlan}
            />
          );
        })}
      </div>
      {board.lanes.length === 0 && <p className="p-6 text-ink-soft">There are no technicians yet.</p>}
    </div>
  );
}

function Patterns() {
  return (
    <svg width="0" height="0" className="absolute" aria-hidden>
      <defs>
        <pattern id="absent" width="6" height="6" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
          <rect width="6" height="6" fill="var(--wash)" />
          <line x1="0" y1="0" x2="0" y2="6" stroke="var(--hairline)" strokeWidth="3" />
        </pattern>
      </defs>
    </svg>
  );
}
