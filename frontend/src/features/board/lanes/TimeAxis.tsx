import { memo } from 'react';
import { clockTime, dayName } from '@/shared/time';
import { lettered, lined, segmentOf, xOf, type Axis, type Column } from '../axis';

/** Wide enough for the day's name besides its hours. */
const HOURS_WIDTH = 260;
const NEAR_NOW = 44;
const FIRST_TWO = 66;
const HALF_LABEL = 22;

interface AxisProps {
  axis: Axis;
  /** Moments between which anything is drawn at all. */
  from: number;
  until: number;
  now: number;
  /** The day something is held over. */
  aimedDay: string | null;
  holidays: ReadonlyMap<string, string>;
  onDay: (day: string) => void;
}

/** Days and hours across the top. A day's name opens it, and takes what is dropped on it. */
export const TimeAxis = memo(function TimeAxis({
  axis,
  from,
  until,
  now,
  aimedDay,
  holidays,
  onDay,
}: AxisProps) {
  const showsNow = segmentOf(axis, now) !== undefined;
  const several = axis.segments.length > 1;
  const wide = (axis.segments[0]?.width ?? 0) >= HOURS_WIDTH;
  const hours = several && !wide ? [] : lettered(axis).filter((hour) => hour >= from && hour <= until);
  return (
    <div className="sticky top-0 z-30 flex h-7 border-b border-hairline bg-paper text-xs text-ink-soft">
      <div className="w-(--head) min-w-(--head) sticky left-0 z-10 border-r border-hairline bg-paper" />
      <div className="relative" style={{ width: axis.width }}>
        {hours
          .filter((hour) => !showsNow || Math.abs(xOf(axis, hour) - xOf(axis, now)) > NEAR_NOW)
          // The first one stands inside the edge: the next needs room beside it.
          .filter((hour) => xOf(axis, hour) === 0 || xOf(axis, hour) >= FIRST_TWO)
          .filter((hour) => !several || axis.segments.every((row) => row.start !== hour))
          .map((hour) => (
            <time
              key={hour}
              // Placed by its width: a transform each would be a layer each to put together at every turn.
              className={`absolute top-1.5 ${xOf(axis, hour) < HALF_LABEL ? '' : 'text-center'}`}
              style={{ left: Math.max(0, xOf(axis, hour) - HALF_LABEL), width: 2 * HALF_LABEL }}
            >
              {clockTime(hour)}
            </time>
          ))}
        {several &&
          axis.segments.map((row) => (
            <DayName
              key={row.day}
              row={row}
              width={wide && !holidays.has(row.day) ? 92 : row.width}
              aimed={aimedDay === row.day}
              holiday={holidays.get(row.day)}
              onDay={onDay}
            />
          ))}
        {!several && holidays.has(axis.segments[0]?.day ?? '') && (
          <b className="absolute top-1 left-1/2 -translate-x-1/2 bg-paper px-2 text-ink">
            {holidays.get(axis.segments[0]!.day)}: nobody has a shift
          </b>
        )}
        {showsNow && (
          <time
            className="pointer-events-none absolute top-1 z-10 -translate-x-1/2 rounded-sm bg-copper px-1 text-copper-ink"
            style={{ left: xOf(axis, now) }}
          >
            {clockTime(now)}
          </time>
        )}
      </div>
    </div>
  );
});

interface DayNameProps {
  row: Axis['segments'][number];
  width: number;
  aimed: boolean;
  holiday: string | undefined;
  onDay: (day: string) => void;
}

const DayName = ({ row, width, aimed, holiday, onDay }: DayNameProps) => (
  <button
    type="button"
    data-day={row.day}
    title="Open this day; a visit dropped here goes to the day's best place"
    className={`absolute inset-y-0 truncate border-l border-hairline px-1 text-left font-semibold text-ink hover:underline ${aimed ? 'bg-copper-wash' : ''}`}
    style={{ left: row.left, width }}
    onClick={() => onDay(row.day)}
  >
    {dayName(row.start)}
    {holiday !== undefined && <i className="font-normal"> {holiday}</i>}
  </button>
);

interface LinesProps {
  axis: Axis;
  from: number;
  until: number;
  column: Column | null;
  now: number;
}

/** Lines behind the lanes: at each column, stronger where a day begins, and now. */
export const ColumnLines = memo(function ColumnLines({ axis, from, until, column, now }: LinesProps) {
  const lines = lined(axis, column).filter((moment) => moment >= from && moment <= until);
  return (
    <div
      className="pointer-events-none absolute inset-y-0"
      style={{ left: 'var(--head)', width: axis.width }}
      aria-hidden
    >
      {lines.map((moment) => (
        <div
          key={moment}
          className="absolute inset-y-0 border-l border-hairline/50"
          style={{ left: xOf(axis, moment) }}
        />
      ))}
      {axis.segments.slice(1).map((row) => (
        <div
          key={row.day}
          className="absolute inset-y-0 border-l-2 border-hairline"
          style={{ left: row.left }}
        />
      ))}
      {segmentOf(axis, now) && (
        <div
          className="absolute inset-y-0 z-10 border-l-2 border-copper"
          data-testid="now"
          style={{ left: xOf(axis, now) }}
        />
      )}
    </div>
  );
});
