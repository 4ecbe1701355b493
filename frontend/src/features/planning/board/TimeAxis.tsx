import { memo } from 'react';
import { clockTime, dayName } from '@/shared/time';
import { lettered, lined, segmentOf, xOf, type Axis, type Column } from '../axis';
import { LABEL_WIDTH } from './measures';

/** Wide enough for the day's name besides its hours. */
const HOURS_WIDTH = 260;
const NEAR_NOW = 44;
const FIRST_TWO = 66;

interface AxisProps {
  axis: Axis;
  now: number;
  /** The day something is held over. */
  aimedDay: string | null;
  holidays: ReadonlyMap<string, string>;
  onDay: (day: string) => void;
}

/** Days and hours across the top. A day's name opens it, and takes what is dropped on it. */
export const TimeAxis = memo(function TimeAxis({ axis, now, aimedDay, holidays, onDay }: AxisProps) {
  const showsNow = segmentOf(axis, now) !== undefined;
  const several = axis.segments.length > 1;
  const wide = (axis.segments[0]?.width ?? 0) >= HOURS_WIDTH;
  const hours = several && !wide ? [] : lettered(axis);
  return (
    <div className="sticky top-0 z-30 flex h-7 border-b border-hairline bg-paper text-xs text-ink-soft">
      <div
        className="sticky left-0 z-10 border-r border-hairline bg-paper"
        style={{ width: LABEL_WIDTH, minWidth: LABEL_WIDTH }}
      />
      <div className="relative" style={{ width: axis.width }}>
        {hours
          .filter((hour) => !showsNow || Math.abs(xOf(axis, hour) - xOf(axis, now)) > NEAR_NOW)
          // The first one stands inside the edge: the next needs room beside it.
          .filter((hour, index) => index !== 1 || xOf(axis, hour) >= FIRST_TWO)
          .filter((hour) => !several || axis.segments.every((row) => row.start !== hour))
          .map((hour) => (
            <time
              key={hour}
              className="absolute top-1.5 -translate-x-1/2 first:translate-x-0"
              style={{ left: xOf(axis, hour) }}
            >
              {clockTime(hour)}
            </time>
          ))}
        {several &&
          axis.segments.map((row) => (
            <button
              key={row.day}
              type="button"
              data-day={row.day}
              title="Open this day; a visit dropped here goes to the day's best place"
              className={`absolute inset-y-0 truncate border-l border-hairline px-1 text-left font-semibold text-ink hover:underline ${aimedDay === row.day ? 'bg-copper-wash' : ''}`}
              style={{ left: row.left, width: wide && !holidays.has(row.day) ? 92 : row.width }}
              onClick={() => onDay(row.day)}
            >
              {dayName(row.start)}
              {holidays.has(row.day) && <i className="font-normal"> {holidays.get(row.day)}</i>}
            </button>
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

interface LinesProps {
  axis: Axis;
  column: Column | null;
  now: number;
}

/** Lines behind the lanes: at each column, stronger where a day begins, and now. */
export const ColumnLines = memo(function ColumnLines({ axis, column, now }: LinesProps) {
  return (
    <div
      className="pointer-events-none absolute inset-y-0"
      style={{ left: LABEL_WIDTH, width: axis.width }}
      aria-hidden
    >
      {lined(axis, column).map((moment) => (
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
