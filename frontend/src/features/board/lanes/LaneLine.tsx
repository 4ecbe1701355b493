import { memo } from 'react';
import { length } from '@/shared/time';
import { xOf, type Axis } from '../axis';
import type { LaneDay, Timetable } from '../model';

const MIDDLE = 23;
const HEIGHT = 48;
const MINUTES_BASELINE = 9;
/** Shorter drives have no room for their minutes. */
const LEAST_LABEL_PIXELS = 5;
/** Below this many pixels an hour, a break or a wait is a smudge. */
const LEAST_DETAIL = 20;

interface Props {
  day: LaneDay;
  axis: Axis;
  /** The day as it would become. */
  preview: Timetable | null;
}

/**
 * A technician's day as one line: driving is the line itself with its minutes on it, waiting a thin gap, the
 * break a notch, overtime the line running past its end stop.
 */
export const LaneLine = memo(function LaneLine({ day, axis, preview }: Props) {
  const { shift } = day;
  const timetable = preview ?? day.timetable;
  const ghost = preview !== null;
  const x = (moment: number) => xOf(axis, moment);
  return (
    <g>
      {shift && <ShiftLine shift={shift} dayEnd={day.end} x={x} />}
      {day.holiday && (
        <rect x={x(day.start)} width={x(day.end) - x(day.start)} y={0} height={HEIGHT} fill="url(#holiday)">
          <title>{day.holiday}</title>
        </rect>
      )}
      {day.absences.map((absence) => (
        <Absent
          key={absence.id}
          left={x(Math.max(absence.start, day.start))}
          right={x(Math.min(absence.end, day.end))}
          words={absence.reason || 'absent'}
        />
      ))}
      {timetable.overtime && (
        <line
          x1={x(timetable.overtime.start)}
          x2={x(timetable.overtime.end)}
          y1={MIDDLE + 6}
          y2={MIDDLE + 6}
          stroke="var(--copper)"
          strokeWidth="2"
          strokeDasharray="3 2"
        />
      )}
      <g opacity={ghost ? 0.55 : 1}>
        <Stretches timetable={timetable} axis={axis} ghost={ghost} />
      </g>
    </g>
  );
});

interface ShiftLineProps {
  shift: NonNullable<LaneDay['shift']>;
  dayEnd: number;
  x: (moment: number) => number;
}

/** From stop to stop, with the gap of a split shift, and the time on call after it. */
const ShiftLine = ({ shift, dayEnd, x }: ShiftLineProps) => (
  <>
    {shift.on_call && (
      <rect
        x={x(shift.on_call.start)}
        width={Math.max(0, x(Math.min(shift.on_call.end, dayEnd)) - x(shift.on_call.start))}
        y={MIDDLE - 3}
        height={6}
        fill="none"
        stroke="var(--hairline)"
      >
        <title>on call, for work of priority 1 only</title>
      </rect>
    )}
    <line
      x1={x(shift.start)}
      x2={x(shift.end)}
      y1={MIDDLE}
      y2={MIDDLE}
      stroke="var(--hairline)"
      strokeWidth="1"
    />
    <EndStop at={x(shift.start)} />
    <EndStop at={x(shift.end)} />
    {shift.gap && (
      <>
        <EndStop at={x(shift.gap.start)} />
        <EndStop at={x(shift.gap.end)} />
        <Absent left={x(shift.gap.start)} right={x(shift.gap.end)} words="between two parts of the shift" />
      </>
    )}
  </>
);

function Stretches({ timetable, axis, ghost }: { timetable: Timetable; axis: Axis; ghost: boolean }) {
  // Small, a day is its drives alone, as one path: a screen holds hundreds of days then.
  if (axis.pixelsPerHour < LEAST_DETAIL && !ghost) return <Drives timetable={timetable} axis={axis} />;
  return timetable.stretches.map((stretch) => {
    const [left, right] = [xOf(axis, stretch.start), xOf(axis, stretch.end)];
    const key = `${stretch.kind} ${stretch.start}`;
    const seconds = stretch.end - stretch.start;
    switch (stretch.kind) {
      case 'drive':
        return (
          <Drive
            key={key}
            left={left}
            right={right}
            minutes={Math.round(seconds / 60)}
            estimated={stretch.estimated}
          />
        );
      case 'break':
        return <Notch key={key} left={left} right={right} seconds={seconds} />;
      case 'wait':
        return <Wait key={key} left={left} right={right} />;
      default:
        return ghost ? <Ghost key={key} left={left} right={right} /> : null;
    }
  });
}

function Drives({ timetable, axis }: { timetable: Timetable; axis: Axis }) {
  const path = timetable.stretches
    .filter((stretch) => stretch.kind === 'drive')
    .map(
      (stretch) => `M${xOf(axis, stretch.start).toFixed(1)} ${MIDDLE}H${xOf(axis, stretch.end).toFixed(1)}`,
    )
    .join('');
  return <path d={path} stroke="var(--ink)" strokeWidth="2.5" fill="none" />;
}

const Wait = ({ left, right }: { left: number; right: number }) => (
  <line
    x1={left + 1}
    x2={right - 1}
    y1={MIDDLE}
    y2={MIDDLE}
    stroke="var(--ink-soft)"
    strokeWidth="1"
    strokeDasharray="1 3"
  />
);

const Ghost = ({ left, right }: { left: number; right: number }) => (
  <rect
    x={left}
    width={Math.max(2, right - left)}
    y={MIDDLE - 12}
    height={24}
    fill="var(--copper-wash)"
    stroke="var(--copper)"
  />
);

interface DriveProps {
  left: number;
  right: number;
  minutes: number;
  estimated: boolean;
}

function Drive({ left, right, minutes, estimated }: DriveProps) {
  return (
    <>
      <line
        x1={left}
        x2={right}
        y1={MIDDLE}
        y2={MIDDLE}
        stroke="var(--ink)"
        strokeWidth="2.5"
        strokeDasharray={estimated ? '5 2' : undefined}
      />
      {right - left >= LEAST_LABEL_PIXELS && (
        <text
          x={(left + right) / 2}
          y={MINUTES_BASELINE}
          textAnchor="middle"
          fontSize="10"
          fill="var(--ink-soft)"
          className="figures"
        >
          {minutes}
        </text>
      )}
    </>
  );
}

function Notch({ left, right, seconds }: { left: number; right: number; seconds: number }) {
  return (
    <path d={`M${left} ${MIDDLE}v7H${right}v-7`} fill="none" stroke="var(--ink-soft)" strokeWidth="1.5">
      <title>break, {length(seconds)}</title>
    </path>
  );
}

/** Hatched, with the reason where there is room: nobody is there. */
function Absent({ left, right, words }: { left: number; right: number; words: string }) {
  const width = Math.max(0, right - left);
  return (
    <>
      <rect x={left} width={width} y={6} height={HEIGHT - 16} fill="url(#absent)">
        <title>{words}</title>
      </rect>
      {width > 7 * words.length && (
        <text x={left + 6} y={MIDDLE + 3} fontSize="11" fill="var(--ink-soft)" fontStyle="italic">
          {words}
        </text>
      )}
    </>
  );
}

function EndStop({ at }: { at: number }) {
  return <line x1={at} x2={at} y1={MIDDLE - 9} y2={MIDDLE + 9} stroke="var(--ink-soft)" strokeWidth="2" />;
}
