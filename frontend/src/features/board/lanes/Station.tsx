import { SequenceSign } from '@/design/SequenceSign';
import { Lock, PackageX, StickyNote, Users } from 'lucide-react';
import { memo, type KeyboardEvent, type PointerEvent } from 'react';
import { Lamp } from '@/design/Lamp';
import { STATE_LOOK, Tick } from '@/design/StateSign';
import { STATE_WORDS } from '@/shared/signs';
import { clockTime, isoDay, length, window_ } from '@/shared/time';
import { xOf, type Axis } from '../axis';
import { labelOf } from '../hues';
import { shownSpan, type BoardVisit, type Broken } from '../model';
import type { Drawing } from './drawing';
import { LEAST_STRETCHABLE } from './measures';

interface Props {
  visit: BoardVisit;
  axis: Axis;
  drawing: Drawing;
  broken: Broken;
  selected: boolean;
  chosen: boolean;
  lifted: boolean;
  onPress: (event: PointerEvent<HTMLElement>, visit: BoardVisit) => void;
  onKey: (event: KeyboardEvent<HTMLElement>, visit: BoardVisit) => void;
}

const LEAST_WIDTH = 8;
/** Narrower than that, a visit is a block without words; its title says them. */
const WORDS_WIDTH = 26;
const MARKS_WIDTH = 84;

/** Nobody changes how long what is over was to take. */

/** It fades out to the right. */
const OPEN_END = { maskImage: 'linear-gradient(to right, black 40%, transparent)' };

/** A visit as a station on the technician's line. */
export const Station = memo(function Station(props: Props) {
  const { visit, axis, drawing, broken, selected, chosen, lifted, onPress, onKey } = props;
  const span = shownSpan(visit);
  const left = xOf(axis, span.start);
  const width = Math.max(LEAST_WIDTH, xOf(axis, span.end) - left - 1);
  const words = describe(visit, broken);
  const hue = drawing.hueOf(visit);
  // Nobody knows how long it takes: it has a beginning and no end.
  const open = visit.duration_seconds === null;
  const ring = selected ? 'z-10 ring-2 ring-copper' : chosen ? 'z-10 ring-2 ring-focus' : '';
  return (
    <button
      type="button"
      data-visit={visit.id}
      aria-label={words}
      aria-pressed={selected || chosen}
      title={words}
      onPointerDown={(event) => onPress(event, visit)}
      onKeyDown={(event) => onKey(event, visit)}
      className={`group/visit absolute top-[11px] flex h-6 touch-none items-center gap-1 overflow-hidden rounded-sm px-1 text-left text-xs leading-none ${STATE_LOOK[visit.state]} ${ring} ${lifted ? 'opacity-40' : ''} ${open ? 'rounded-r-none border-r-0!' : ''}`}
      style={{ left, width, ...(open && OPEN_END) }}
    >
      {hue && (
        <span
          aria-hidden
          className="absolute inset-x-0 bottom-0 h-1 rounded-b-[1px]"
          style={{ background: hue }}
        />
      )}
      {drawing.stretches && width >= LEAST_STRETCHABLE && !visit.over && <Grip />}
      {visit.lamp !== 'dark' && <Lamp lamp={visit.lamp} />}
      {width >= WORDS_WIDTH && (
        <>
          {broken.limits && (
            <span aria-hidden className="font-bold text-warn">
              !
            </span>
          )}
          <span className={`min-w-0 flex-1 truncate ${visit.state === 'en_route' ? 'pl-2' : ''}`}>
            {labelOf(visit, drawing.label)}
          </span>
          {broken.parts && <PackageX size={12} aria-hidden className="shrink-0 text-warn" />}
          {width >= MARKS_WIDTH && <Marks visit={visit} />}
          {visit.state === 'done' && <Tick />}
        </>
      )}
    </button>
  );
});

/** On the right edge, under the pointer: here it is drawn longer or shorter. */
const Grip = () => (
  <span
    aria-hidden
    data-grip
    className="absolute inset-y-0 right-0 hidden w-1.5 cursor-ew-resize border-r-4 border-double border-current group-hover/visit:block"
  />
);

function Marks({ visit }: { visit: BoardVisit }) {
  return (
    <span aria-hidden className="flex shrink-0 items-center gap-0.5">
      {visit.crew > 1 && <Users size={11} />}
      {visit.linked && <SequenceSign size={11} />}
      {visit.pinned && <Lock size={11} />}
      {visit.noted && <StickyNote size={11} />}
    </span>
  );
}

function describe(visit: BoardVisit, broken: Broken): string {
  const span = shownSpan(visit);
  return [
    `${visit.number} ${visit.title}, ${visit.site}`,
    visit.duration_seconds === null
      ? `from ${clockTime(span.start)}, no duration yet`
      : `${clockTime(span.start)} to ${clockTime(span.end)}, ${length(span.end - span.start)}`,
    STATE_WORDS[visit.state],
    visit.promise ? `promised ${window_(visit.promise, isoDay(span.start))}` : 'no promise',
    ...(visit.crew > 1 ? [`crew of ${visit.crew}`] : []),
    ...(visit.linked ? ['linked to another visit'] : []),
    ...(visit.pinned ? ['locked'] : []),
    ...(visit.noted ? ['has a note'] : []),
    ...(broken.parts ? ['parts missing'] : []),
    ...broken.sentences,
  ].join('. ');
}
