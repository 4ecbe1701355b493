import { memo, type KeyboardEvent, type PointerEvent } from 'react';
import { Route } from 'lucide-react';
import { Portrait } from '@/features/people';
import {
  bracketLevels,
  load,
  widthOf,
  xOf,
  type Axis,
  type BoardVisit,
  type Lane,
  type Timetable,
} from '../model';
import { LaneLine } from './LaneLine';
import { Station } from './Station';

export const LABEL_WIDTH = 176;
export const LANE_HEIGHT = 48;

interface Props {
  lane: Lane;
  visits: BoardVisit[];
  axis: Axis;
  day: string;
  selectedId: number | null;
  liftedId: number | null;
  /** The day as it would become, while something is held over this lane. */
  preview: Timetable | null;
  aimed: boolean;
  /** What speaks against the held visit on this lane, whatever the hour. */
  unfit: string[] | null;
  onPress: (event: PointerEvent<HTMLElement>, visit: BoardVisit) => void;
  onKey: (event: KeyboardEvent<HTMLElement>, visit: BoardVisit) => void;
  onPlan: ((technicianId: number) => void) | undefined;
}

export const LaneRow = memo(function LaneRow(props: Props) {
  const { lane, visits, axis, day, selectedId, liftedId, preview, aimed, unfit } = props;
  const levels = bracketLevels(visits);
  const tone = aimed ? 'bg-copper-wash/60' : '';
  return (
    <div
      className={`flex border-b border-hairline ${tone}`}
      style={{ height: LANE_HEIGHT }}
      role="listitem"
      aria-label={lane.name}
    >
      <LaneLabel lane={lane} unfit={unfit} onPlan={props.onPlan} />
      <div
        className="relative"
        data-lane={lane.technician_id}
        style={{ width: widthOf(axis), opacity: unfit?.length && !aimed ? 0.45 : 1 }}
      >
        <LaneLine lane={lane} timetable={preview ?? lane.timetable} axis={axis} ghost={preview !== null} />
        {visits.map((visit) =>
          visit.promise ? (
            <Bracket
              key={visit.id}
              axis={axis}
              promise={visit.promise}
              level={levels.get(visit.id) ?? 0}
              strong={visit.id === selectedId}
            />
          ) : null,
        )}
        {visits.map((visit) => (
          <Station
            key={visit.id}
            visit={visit}
            axis={axis}
            day={day}
            broken={lane.timetable.broken
              .filter((row) => row.visit_id === visit.id)
              .map((row) => row.sentence)}
            selected={visit.id === selectedId}
            lifted={visit.id === liftedId}
            onPress={props.onPress}
            onKey={props.onKey}
          />
        ))}
      </div>
    </div>
  );
});

/** The promise, as a bracket under the line. */
function Bracket({
  axis,
  promise,
  level,
  strong,
}: {
  axis: Axis;
  promise: { start: number; end: number };
  level: number;
  strong: boolean;
}) {
  const left = Math.max(0, xOf(axis, promise.start));
  const right = Math.min(widthOf(axis), xOf(axis, promise.end));
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

function LaneLabel({ lane, unfit, onPlan }: { lane: Lane; unfit: string[] | null } & Pick<Props, 'onPlan'>) {
  const full = load(lane);
  const tight = lane.timetable.broken.some((row) => row.visit_id === null);
  return (
    <div
      className="group sticky left-0 z-20 flex items-center gap-2 border-r border-hairline bg-paper px-2"
      style={{ width: LABEL_WIDTH, minWidth: LABEL_WIDTH }}
      title={[
        lane.name,
        lane.depot,
        lane.phone,
        skillsOf(lane),
        ...lane.timetable.broken.map((row) => row.sentence),
      ].join('\n')}
    >
      <Portrait technicianId={lane.technician_id} size={32} />
      <div className="min-w-0 flex-1">
        <div className="truncate text-sm leading-tight font-semibold">{lane.name}</div>
        {unfit?.length ? (
          <div className="truncate text-xs text-bad">{unfit[0]}</div>
        ) : full ? (
          <>
            <div className="mt-0.5 h-1 w-full bg-wash" aria-hidden>
              <div
                className={`h-full ${full.share > 1 ? 'bg-copper' : 'bg-ink-soft'}`}
                style={{ width: `${Math.min(1, full.share) * 100}%` }}
              />
            </div>
            <div className="truncate text-[11px] text-ink-soft">
              {tight && <b className="text-warn">no break · </b>}
              <span className="figures">{Math.round(full.share * 100)}</span> % full ·{' '}
              <span className="figures">{Math.round(full.driving * 100)}</span> % road
            </div>
          </>
        ) : (
          <div className="text-xs text-ink-soft">no shift</div>
        )}
      </div>
      {onPlan && lane.shift && (
        <button
          type="button"
          className="absolute right-1 rounded-sm border border-hairline bg-sheet p-1 opacity-0 group-hover:opacity-100 focus:opacity-100"
          aria-label={`Plan the day of ${lane.name}`}
          title="Put this day in order, or fill it"
          onClick={() => onPlan(lane.technician_id)}
        >
          <Route size={14} aria-hidden />
        </button>
      )}
    </div>
  );
}

function skillsOf(lane: Lane): string {
  return Object.entries(lane.skills)
    .map(([skill, level]) => `${skill} ${level}`)
    .join(', ');
}
