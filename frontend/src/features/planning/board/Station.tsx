import type { KeyboardEvent, PointerEvent } from 'react';
import { Lamp } from '@/design/Lamp';
import { STATE_LOOK, Tick } from '@/design/StateSign';
import { STATE_WORDS } from '@/shared/signs';
import { clockTime, length, window_ } from '@/shared/time';
import { shownSpan, xOf, type Axis, type BoardVisit } from '../model';

interface Props {
  visit: BoardVisit;
  axis: Axis;
  day: string;
  broken: string[];
  selected: boolean;
  lifted: boolean;
  onPress: (event: PointerEvent<HTMLElement>, visit: BoardVisit) => void;
  onKey: (event: KeyboardEvent<HTMLElement>, visit: BoardVisit) => void;
}

/** A visit as a station on the technician's line. */
export function Station({ visit, axis, day, broken, selected, lifted, onPress, onKey }: Props) {
  const span = shownSpan(visit);
  const left = xOf(axis, span.start);
  const width = Math.max(12, xOf(axis, span.end) - left - 1);
  const words = describe(visit, day, broken);
  return (
    <button
      type="button"
      data-visit={visit.id}
      aria-label={words}
      aria-pressed={selected}
      title={words}
      onPointerDown={(event) => onPress(event, visit)}
      onKeyDown={(event) => onKey(event, visit)}
      className={`absolute top-[11px] flex h-6 touch-none items-center gap-1 overflow-hidden rounded-sm px-1 text-left text-xs leading-none ${STATE_LOOK[visit.state]} ${selected ? 'z-10 ring-2 ring-copper' : ''} ${lifted ? 'opacity-40' : ''}`}
      style={{ left, width }}
    >
      {visit.lamp !== 'dark' && <Lamp lamp={visit.lamp} />}
      {broken.length > 0 && (
        <span aria-hidden className="font-bold text-warn">
          !
        </span>
      )}
      <span className={`min-w-0 truncate ${visit.state === 'en_route' ? 'pl-2' : ''}`}>{visit.site}</span>
      {visit.state === 'done' && width > 30 && <Tick />}
    </button>
  );
}

function describe(visit: BoardVisit, day: string, broken: string[]): string {
  const span = shownSpan(visit);
  return [
    `${visit.number} ${visit.title}, ${visit.site}`,
    `${clockTime(span.start)} to ${clockTime(span.end)}, ${length(span.end - span.start)}`,
    STATE_WORDS[visit.state],
    visit.promise ? `promised ${window_(visit.promise, day)}` : 'no promise',
    ...broken,
  ].join('. ');
}
