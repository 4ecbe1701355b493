import { useVirtualizer } from '@tanstack/react-virtual';
import {
  memo,
  useEffect,
  useMemo,
  useState,
  type CSSProperties,
  type KeyboardEvent,
  type PointerEvent,
} from 'react';
import { momentAt, type Axis, type Column } from '../axis';
import type { AnyVisit, BoardVisit, Timetable } from '../model';
import type { Row, ShownCrew } from '../rows';
import type { Ghosts } from '@/features/scheduling';
import { CrewRow } from './CrewRow';
import type { Drawing } from './drawing';
import { NoTechnicians } from './NoTechnicians';
import { LaneRow } from './Lane';
import { LANE_HEIGHT } from './measures';
import { ColumnLines, TimeAxis } from './TimeAxis';

interface Props {
  scroller: HTMLDivElement | null;
  rows: Row[];
  visitsOf: Map<number, BoardVisit[]>;
  axis: Axis;
  headWidth: number;
  column: Column | null;
  now: number;
  drawing: Drawing;
  selectedId: number | null;
  chosen: ReadonlySet<number>;
  liftedId: number | null;
  /** The technician aimed at, and the day that it would change. */
  aimedId: number | null;
  preview: { day: number; timetable: Timetable } | null;
  aimedDay: string | null;
  /** Names of the days off, by day. */
  holidays: ReadonlyMap<string, string>;
  /** Ids of the crew aimed at besides the technician; empty: no crew's line is aimed at. */
  aimedMates: string;
  ghosts: Ghosts | null;
  fits: Map<number, string[]> | null;
  /** Starts at which the held visit fits without harm, by technician. */
  marks: Map<number, number[]> | null;
  onPress: (event: PointerEvent<HTMLElement>, visit: AnyVisit) => void;
  onKey: (event: KeyboardEvent<HTMLElement>, visit: AnyVisit) => void;
  onDay: (day: string) => void;
  /** All about a technician. */
  onPerson: (technicianId: number) => void;
  /** Ask the planner about one technician's day. */
  onPlan: ((technicianId: number) => void) | undefined;
}

const NOBODY: BoardVisit[] = [];
const NONE_LEAVING: ReadonlySet<number> = new Set();
const GROUP_HEIGHT = 26;
const AXIS_HEIGHT = 28;
const OVERSCAN = 3;

/** Technicians' days, one line each. Only what is on screen, and a little around it, is drawn. */
export const Lanes = memo(function Lanes(props: Props) {
  const { scroller, rows, axis, column, now } = props;
  // Its functions change with what is scrolled to: this component is memoized by hand.
  // eslint-disable-next-line react-hooks/incompatible-library
  const virtual = useVirtualizer({
    count: rows.length,
    getScrollElement: () => scroller,
    estimateSize: (index) => (rows[index]?.kind === 'group' ? GROUP_HEIGHT : LANE_HEIGHT),
    getItemKey: (index) => rows[index]?.key ?? index,
    overscan: OVERSCAN,
    scrollMargin: AXIS_HEIGHT,
  });
  const [from, until] = useWindow(scroller, axis);
  return (
    <div
      className="relative select-none"
      style={{ width: props.headWidth + axis.width, '--head': `${props.headWidth}px` } as CSSProperties}
    >
      <Patterns />
      <TimeAxis
        axis={axis}
        from={from}
        until={until}
        now={now}
        aimedDay={props.aimedDay}
        holidays={props.holidays}
        onDay={props.onDay}
      />
      <div
        className="relative"
        role="list"
        aria-label="Technicians"
        style={{ height: virtual.getTotalSize() }}
      >
        <ColumnLines axis={axis} from={from} until={until} column={column} now={now} />
        {virtual.getVirtualItems().map((item) => {
          const row = rows[item.index]!;
          return (
            <div
              key={item.key}
              className="absolute inset-x-0 top-0"
              style={{ transform: `translateY(${item.start - AXIS_HEIGHT}px)`, contain: 'layout style' }}
            >
              <AnyRow {...props} row={row} from={from} until={until} />
            </div>
          );
        })}
      </div>
      {rows.length === 0 && <NoTechnicians />}
    </div>
  );
});

interface AnyRowProps extends Props {
  row: Props['rows'][number];
  from: number;
  until: number;
}

/** A heading, a crew's line or a technician's. */
function AnyRow({ row, from, until, ...props }: AnyRowProps) {
  const { visitsOf, axis, aimedId } = props;
  if (row.kind === 'group') return <GroupRow title={row.title} />;
  const shared = {
    axis,
    from,
    until,
    drawing: props.drawing,
    selectedId: props.selectedId,
    chosen: props.chosen,
    liftedId: props.liftedId,
    onPress: props.onPress,
    onKey: props.onKey,
  };
  if (row.kind === 'crew')
    return (
      <CrewRow
        {...shared}
        crew={row.crew}
        visitsOf={visitsOf}
        aimed={isAimed(row.crew, aimedId, props.aimedMates)}
      />
    );
  const id = row.lane.technician_id;
  return (
    <LaneRow
      {...shared}
      lane={row.lane}
      visits={visitsOf.get(id) ?? NOBODY}
      preview={aimedId === id ? props.preview : null}
      aimed={aimedId === id && props.aimedMates === ''}
      marks={props.marks?.get(id) ?? null}
      unfit={props.fits?.get(id) ?? null}
      ghosts={props.ghosts?.to.get(id) ?? null}
      leaving={props.ghosts?.leaving ?? NONE_LEAVING}
      onPerson={props.onPerson}
      onPlan={props.onPlan}
    />
  );
}

function isAimed(crew: ShownCrew, technicianId: number | null, mates: string): boolean {
  const [lead, ...others] = crew.members.map((lane) => lane.technician_id);
  return mates !== '' && lead === technicianId && others.join() === mates;
}

function GroupRow({ title }: { title: string }) {
  return (
    <div
      role="listitem"
      className="flex w-full border-b border-hairline bg-wash"
      style={{ height: GROUP_HEIGHT }}
    >
      <h2 className="sticky left-0 px-2 text-xs leading-6 font-semibold">{title}</h2>
    </div>
  );
}

/** The moments on screen, with half a screen around them; they change in steps, not with each pixel. */
function useWindow(element: HTMLElement | null, axis: Axis): [number, number] {
  const [step, setStep] = useState(0);
  const [half, setHalf] = useState(600);
  useEffect(() => {
    if (!element) return;
    const look = () => {
      const size = Math.max(200, element.clientWidth / 2);
      setHalf(size);
      setStep(Math.floor(element.scrollLeft / size));
    };
    look();
    element.addEventListener('scroll', look, { passive: true });
    return () => element.removeEventListener('scroll', look);
  }, [element, axis.width]);
  return useMemo(
    () => [momentAt(axis, (step - 1) * half), momentAt(axis, Math.min(axis.width, (step + 4) * half))],
    [axis, step, half],
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
        <pattern id="holiday" width="8" height="8" patternUnits="userSpaceOnUse">
          <rect width="8" height="8" fill="var(--wash)" />
          <circle cx="4" cy="4" r="1" fill="var(--ink-soft)" opacity="0.5" />
        </pattern>
      </defs>
    </svg>
  );
}
