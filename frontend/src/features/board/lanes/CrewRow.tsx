import { memo, type KeyboardEvent, type PointerEvent } from 'react';
import { Portrait } from '@/features/people';
import { xOf, type Axis } from '../axis';
import { NOTHING_BROKEN, shownSpan, type BoardVisit } from '../model';
import type { ShownCrew } from '../rows';
import type { Drawing } from './drawing';
import { LANE_HEIGHT } from './measures';
import { Station } from './Station';

interface Props {
  crew: ShownCrew;
  visitsOf: Map<number, BoardVisit[]>;
  axis: Axis;
  from: number;
  until: number;
  drawing: Drawing;
  selectedId: number | null;
  chosen: ReadonlySet<number>;
  liftedId: number | null;
  aimed: boolean;
  onPress: (event: PointerEvent<HTMLElement>, visit: BoardVisit) => void;
  onKey: (event: KeyboardEvent<HTMLElement>, visit: BoardVisit) => void;
}

/**
 * A crew as a line: what its members do together stands on it, what each does alone is a shade behind it. The
 * white between is when all of them are free; what is dropped there is placed with all of them.
 */
export const CrewRow = memo(function CrewRow(props: Props) {
  const { crew, visitsOf, axis, from, until } = props;
  const ids = crew.members.map((lane) => lane.technician_id);
  const seen = new Map<number, BoardVisit>();
  for (const id of ids) for (const visit of visitsOf.get(id) ?? []) seen.set(visit.id, visit);
  const visits = [...seen.values()].filter((visit) => {
    const span = shownSpan(visit);
    return span.end > from && span.start < until;
  });
  const isJoint = (visit: BoardVisit) =>
    [visit.technician_id, ...visit.mates].filter((id) => id !== null && ids.includes(id)).length > 1;
  const [lead, ...mates] = ids;
  return (
    <div
      role="listitem"
      aria-label={`Crew ${crew.name}`}
      className={`flex border-b border-hairline ${props.aimed ? 'bg-copper-wash/60' : 'bg-wash/50'}`}
      style={{ height: LANE_HEIGHT }}
    >
      <CrewHead crew={crew} />
      <div className="relative" data-lane={lead} data-mates={mates.join(',')} style={{ width: axis.width }}>
        {visits
          .filter((visit) => !isJoint(visit))
          .map((visit) => {
            const span = shownSpan(visit);
            const left = xOf(axis, span.start);
            return (
              <span
                key={visit.id}
                aria-hidden
                className="absolute top-[15px] h-4 bg-hairline/70"
                style={{ left, width: Math.max(2, xOf(axis, span.end) - left) }}
              />
            );
          })}
        {visits.filter(isJoint).map((visit) => (
          <Station
            key={visit.id}
            visit={visit}
            axis={axis}
            drawing={props.drawing}
            broken={NOTHING_BROKEN}
            selected={visit.id === props.selectedId}
            chosen={props.chosen.has(visit.id)}
            lifted={visit.id === props.liftedId}
            onPress={props.onPress}
            onKey={props.onKey}
          />
        ))}
      </div>
    </div>
  );
});

const CrewHead = ({ crew }: Pick<Props, 'crew'>) => (
  <div className="w-(--head) min-w-(--head) sticky left-0 z-20 flex items-center gap-2 border-r border-hairline bg-wash px-2">
    <span className="flex -space-x-2">
      {crew.members.slice(0, 3).map((lane) => (
        <Portrait key={lane.technician_id} technicianId={lane.technician_id} size={24} />
      ))}
    </span>
    <span className="min-w-0">
      <span className="block truncate text-sm leading-tight font-semibold">{crew.name}</span>
      <span className="block truncate text-[11px] text-ink-soft">
        {crew.members.map((lane) => lane.name.split(' ')[0]).join(', ')}
      </span>
    </span>
  </div>
);
