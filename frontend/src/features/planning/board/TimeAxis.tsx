import { clockTime } from '@/shared/time';
import { widthOf, xOf, type Axis } from '../model';
import { LABEL_WIDTH } from './Lane';

/** Hours across the top, and hour lines behind the lanes. */
export function TimeAxis({ axis, now }: { axis: Axis; now: number }) {
  const showsNow = now >= axis.start && now <= axis.end;
  return (
    <div className="sticky top-0 z-30 flex h-7 border-b border-hairline bg-paper text-xs text-ink-soft">
      <div
        className="sticky left-0 z-10 border-r border-hairline bg-paper"
        style={{ width: LABEL_WIDTH, minWidth: LABEL_WIDTH }}
      />
      <div className="relative" style={{ width: widthOf(axis) }}>
        {hours(axis)
          .filter((hour) => !showsNow || Math.abs(xOf(axis, hour) - xOf(axis, now)) > 44)
          .map((hour) => (
            <time
              key={hour}
              className="absolute top-1.5 -translate-x-1/2 first:translate-x-0"
              style={{ left: xOf(axis, hour) }}
            >
              {clockTime(hour)}
            </time>
          ))}
        {showsNow && (
          <time
            className="absolute top-1 z-10 -translate-x-1/2 rounded-sm bg-copper px-1 text-copper-ink"
            style={{ left: xOf(axis, now) }}
          >
            {clockTime(now)}
          </time>
        )}
      </div>
    </div>
  );
}

export function HourLines({ axis, now }: { axis: Axis; now: number }) {
  return (
    <div
      className="pointer-events-none absolute inset-y-0"
      style={{ left: LABEL_WIDTH, width: widthOf(axis) }}
      aria-hidden
    >
      {hours(axis).map((hour) => (
        <div
          key={hour}
          className="absolute inset-y-0 border-l border-hairline/50"
          style={{ left: xOf(axis, hour) }}
        />
      ))}
      {now >= axis.start && now <= axis.end && (
        <div
          className="absolute inset-y-0 z-10 border-l-2 border-copper"
          data-testid="now"
          style={{ left: xOf(axis, now) }}
        />
      )}
    </div>
  );
}

function hours(axis: Axis): number[] {
  const list = [];
  for (let hour = axis.start; hour <= axis.end; hour += 3600) list.push(hour);
  return list;
}
