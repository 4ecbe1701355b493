import { length } from '@/shared/time';
import { xOf, type Axis, type Lane, type Timetable } from '../model';

const MIDDLE = 23;
const HEIGHT = 48;
const MINUTES_BASELINE = 9;
/** Shorter drives have no room for their minutes. */
const LEAST_LABEL_PIXELS = 5;

/**
 * The technician's day as one line: driving is the line itself with its minutes on it, waiting a thin gap, the
 * break a notch, overtime the line running past its end stop.
 */
export function LaneLine({
  lane,
  timetable,
  axis,
  ghost,
}: {
  lane: Lane;
  timetable: Timetable;
  axis: Axis;
  ghost?: boolean;
}) {
  const { shift } = lane;
  const x = (moment: number) => xOf(axis, moment);
  return (
    <svg
      className="pointer-events-none absolute inset-0 h-full w-full overflow-visible"
      height={HEIGHT}
      aria-hidden
    >
      {shift && (
        <>
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
        </>
      )}
      {lane.absences.map((absence) => (
        <rect
          key={absence.start}
          x={Math.max(0, x(absence.start))}
          width={Math.max(0, x(Math.min(absence.end, axis.end)) - Math.max(0, x(absence.start)))}
          y={6}
          height={32}
          fill="url(#absent)"
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
        {timetable.stretches.map((stretch) => {
          const [left, right] = [x(stretch.start), x(stretch.end)];
          const key = `${stretch.kind} ${stretch.start}`;
          if (stretch.kind === 'drive')
            return (
              <Drive
                key={key}
                left={left}
                right={right}
                seconds={stretch.end - stretch.start}
                estimated={stretch.estimated}
              />
            );
          if (stretch.kind === 'break')
            return <Notch key={key} left={left} right={right} seconds={stretch.end - stretch.start} />;
          if (stretch.kind === 'wait')
            return (
              <line
                key={key}
                x1={left + 1}
                x2={right - 1}
                y1={MIDDLE}
                y2={MIDDLE}
                stroke="var(--ink-soft)"
                strokeWidth="1"
                strokeDasharray="1 3"
              />
            );
          return ghost ? (
            <rect
              key={key}
              x={left}
              width={Math.max(2, right - left)}
              y={MIDDLE - 12}
              height={24}
              fill="var(--copper-wash)"
              stroke="var(--copper)"
            />
          ) : null;
        })}
      </g>
    </svg>
  );
}

function Drive({
  left,
  right,
  seconds,
  estimated,
}: {
  left: number;
  right: number;
  seconds: number;
  estimated: boolean;
}) {
  const minutes = Math.round(seconds / 60);
  return (
    <g>
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
    </g>
  );
}

function Notch({ left, right, seconds }: { left: number; right: number; seconds: number }) {
  return (
    <path d={`M${left} ${MIDDLE}v7H${right}v-7`} fill="none" stroke="var(--ink-soft)" strokeWidth="1.5">
      <title>break, {length(seconds)}</title>
    </path>
  );
}

function EndStop({ at }: { at: number }) {
  return <line x1={at} x2={at} y1={MIDDLE - 9} y2={MIDDLE + 9} stroke="var(--ink-soft)" strokeWidth="2" />;
}
