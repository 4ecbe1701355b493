import { memo, useEffect, useMemo, useState, type KeyboardEvent, type PointerEvent } from 'react';
import type { SchemaReminderOut } from '@/api/types';
import { clockTime } from '@/shared/time';
import { xOf, type Axis } from '../axis';
import {
  bracketLevels,
  brokenByVisit,
  NOTHING_BROKEN,
  shownSpan,
  type BoardVisit,
  type Lane,
  type Timetable,
} from '../model';
import type { Ghost } from '@/features/scheduling';
import { LaneHead } from './LaneHead';
import type { Drawing } from './drawing';
import { LANE_HEIGHT } from './measures';
import { LaneLine } from './LaneLine';
import { Station } from './Station';
import { whenFollowed, whenThereIsTime } from './upgrades';

interface Props {
  lane: Lane;
  visits: BoardVisit[];
  axis: Axis;
  /** Moments between which anything is drawn at all. */
  from: number;
  until: number;
  drawing: Drawing;
  selectedId: number | null;
  chosen: ReadonlySet<number>;
  liftedId: number | null;
  /** The day as it would become, while something is held over this lane. */
  preview: { day: number; timetable: Timetable } | null;
  aimed: boolean;
  /** Starts at which the held visit fits without harm. */
  marks: number[] | null;
  /** Where a proposal would put visits on this line, and those that it would take away from where they are. */
  ghosts: Ghost[] | null;
  leaving: ReadonlySet<number>;
  /** What speaks against the held visit on this lane, whatever the hour. */
  unfit: string[] | null;
  onPress: (event: PointerEvent<HTMLElement>, visit: BoardVisit) => void;
  onKey: (event: KeyboardEvent<HTMLElement>, visit: BoardVisit) => void;
  onPerson: (technicianId: number) => void;
  onPlan: ((technicianId: number) => void) | undefined;
}

/** A lane that flies by is its name; it is drawn once one can follow it. */
export const LaneRow = memo(function LaneRow(props: Props) {
  return useInFull() ? <FullLane {...props} /> : <FleetingLane {...props} />;
});

function FleetingLane({ lane, axis }: Props) {
  return (
    <div
      className="flex border-b border-hairline"
      style={{ height: LANE_HEIGHT }}
      role="listitem"
      aria-label={lane.name}
    >
      <div
        data-head={lane.technician_id}
        className="w-(--head) min-w-(--head) sticky left-0 z-20 truncate border-r border-hairline bg-paper py-1.5 pl-12 text-sm font-semibold"
      >
        {lane.name}
      </div>
      <div data-lane={lane.technician_id} style={{ width: axis.width }} />
    </div>
  );
}

function FullLane(props: Props) {
  const { lane, axis, aimed, unfit } = props;
  const [from, until] = useInTurn(props.from, props.until);
  const visits = useMemo(
    () =>
      props.visits.filter((visit) => {
        const span = shownSpan(visit);
        return span.end > from && span.start < until;
      }),
    [props.visits, from, until],
  );
  const days = lane.days.filter((day) => day.end > from && day.start < until);
  return (
    <div
      className={`flex border-b border-hairline ${aimed ? 'bg-copper-wash/60' : ''}`}
      style={{ height: LANE_HEIGHT }}
      role="listitem"
      aria-label={lane.name}
    >
      <LaneHead
        lane={lane}
        unfit={unfit}
        wide={props.drawing.wide}
        onPerson={props.onPerson}
        onPlan={props.onPlan}
      />
      <div
        className="relative"
        data-lane={lane.technician_id}
        style={{
          width: axis.width,
          opacity: unfit?.length && !aimed ? 0.45 : undefined,
        }}
      >
        <svg
          className="pointer-events-none absolute inset-0 h-full w-full overflow-visible"
          height={LANE_HEIGHT}
          aria-hidden
        >
          {days.map((day) => (
            <LaneLine
              key={day.day}
              day={day}
              axis={axis}
              preview={props.preview?.day === day.start ? props.preview.timetable : null}
            />
          ))}
        </svg>
        <Brackets {...props} visits={visits} />
        <Stations {...props} visits={visits} />
        <Signs {...props} days={days} />
        {lane.days.length === 0 && <span className="absolute top-4 left-2 text-xs text-ink-soft">…</span>}
      </div>
    </div>
  );
}

/** Proposed places, reminders, and where the held visit fits. */
const Signs = ({ lane, axis, ghosts, marks, onPerson, days }: Props & { days: Lane['days'] }) => (
  <>
    {ghosts?.map((ghost) => (
      <GhostSign key={`${ghost.visitId} ${ghost.start}`} ghost={ghost} axis={axis} />
    ))}
    {days.flatMap((day) =>
      day.reminders.map((reminder) => (
        <ReminderSign
          key={reminder.id}
          reminder={reminder}
          left={xOf(axis, reminder.at)}
          onOpen={() => onPerson(lane.technician_id)}
        />
      )),
    )}
    {marks?.map((start) => (
      <span
        key={start}
        aria-hidden
        data-mark={start}
        className="pointer-events-none absolute top-0 -ml-1.5 border-x-[6px] border-t-[7px] border-x-transparent border-t-good"
        style={{ left: xOf(axis, start) }}
      />
    ))}
  </>
);

/** The promises of the visits; in days drawn small only that of the selected one. */
function Brackets({ visits, axis, selectedId }: Props) {
  const levels = useMemo(() => bracketLevels(visits), [visits]);
  const close = axis.pixelsPerHour >= LEAST_FOR_PROMISES;
  return visits.map((visit) =>
    visit.promise && (close || visit.id === selectedId) ? (
      <Bracket
        key={visit.id}
        axis={axis}
        promise={visit.promise}
        level={levels.get(visit.id) ?? 0}
        strong={visit.id === selectedId}
      />
    ) : null,
  );
}

function Stations({
  visits,
  lane,
  axis,
  drawing,
  selectedId,
  chosen,
  liftedId,
  leaving,
  onPress,
  onKey,
}: Props) {
  const broken = useMemo(() => brokenByVisit(lane), [lane]);
  return visits.map((visit) => (
    <Station
      key={visit.id}
      visit={visit}
      axis={axis}
      drawing={drawing}
      broken={broken.get(visit.id) ?? NOTHING_BROKEN}
      selected={visit.id === selectedId}
      chosen={chosen.has(visit.id)}
      lifted={visit.id === liftedId || leaving.has(visit.id)}
      onPress={onPress}
      onKey={onKey}
    />
  ));
}

/** Promises of days drawn small would be a grey band: only the selected visit's is drawn there. */
const LEAST_FOR_PROMISES = 20;

function useInFull(): boolean {
  const [full, setFull] = useState(false);
  useEffect(() => whenFollowed(() => setFull(true)), []);
  return full;
}

/** What is drawn follows what is scrolled to, one lane after the other: all at once would stop the hand. */
function useInTurn(from: number, until: number): [number, number] {
  const [drawn, setDrawn] = useState<[number, number]>([from, until]);
  useEffect(() => {
    if (drawn[0] !== from || drawn[1] !== until) return whenThereIsTime(() => setDrawn([from, until]));
  }, [drawn, from, until]);
  return drawn;
}

/** Where a proposal would put a visit. */
function GhostSign({ ghost, axis }: { ghost: Ghost; axis: Axis }) {
  const left = xOf(axis, ghost.start);
  return (
    <span
      data-ghost={ghost.visitId}
      title={`Proposed: ${ghost.words}, ${clockTime(ghost.start)} to ${clockTime(ghost.end)}`}
      className="pointer-events-none absolute top-[9px] z-[5] flex h-7 items-center truncate rounded-sm border-2 border-dashed border-copper bg-copper-wash/70 px-1 text-xs"
      style={{ left, width: Math.max(8, xOf(axis, ghost.end) - left) }}
    >
      {ghost.words}
    </span>
  );
}

interface ReminderProps {
  reminder: SchemaReminderOut;
  left: number;
  onOpen: () => void;
}

/** A reminder takes no time: a pennant that hangs from the top of the line. */
function ReminderSign({ reminder, left, onOpen }: ReminderProps) {
  const words = `${reminder.done ? 'Done: ' : 'Reminder '}${clockTime(reminder.at)}: ${reminder.text}`;
  return (
    <button
      type="button"
      data-reminder={reminder.id}
      aria-label={words}
      title={words}
      onPointerDown={(event) => event.stopPropagation()}
      onClick={onOpen}
      className={`absolute top-0 z-[6] flex h-[11px] items-center border-l-2 border-ink pl-px ${reminder.done ? 'opacity-40' : ''}`}
      style={{ left }}
    >
      <svg width="11" height="9" aria-hidden>
        <path d="M0 0H10L7 4.5L10 9H0Z" fill={reminder.done ? 'var(--wash)' : 'var(--ink)'} />
      </svg>
    </button>
  );
}

interface BracketProps {
  axis: Axis;
  promise: { start: number; end: number };
  level: number;
  strong: boolean;
}

/** The promise, as a bracket under the line. */
function Bracket({ axis, promise, level, strong }: BracketProps) {
  const left = xOf(axis, promise.start);
  const right = xOf(axis, promise.end);
  if (right <= left) return null;
  const look = strong ? 'border-copper border-2 border-t-0 z-10' : 'border-ink-soft/50 border border-t-0';
  return (
    <span
      aria-hidden
      className={`pointer-events-none absolute h-[3px] ${look}`}
      style={{ left, width: right - left, top: 37 + Math.min(level, 2) * 3 }}
    />
  );
}
