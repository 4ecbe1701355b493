// The signs of the board's map: visits, what waits, what fits a gap, and where everybody was last.

import { useMemo, type PointerEvent } from 'react';
import type { SchemaGapOut } from '@/api/types';
import { Lamp } from '@/design/Lamp';
import { STATE_LOOK } from '@/design/StateSign';
import { Portrait } from '@/features/people';
import type { PlacedSign } from '@/features/roads';
import { STATE_WORDS } from '@/shared/signs';
import { clockTime, window_ } from '@/shared/time';
import type { Drawing } from '../lanes/drawing';
import type { AnyVisit, BacklogVisit, Board, BoardVisit } from '../model';
import { placesInDay } from './rounds';

/** Signs are elements of the page: more of them than this would make the map heavy. */
const MOST_SIGNS = 400;

interface Shown {
  board: Board;
  visitsOf: Map<number, BoardVisit[]>;
  waitingVisits: BacklogVisit[];
  selectedId: number | null;
  drawing: Drawing;
  onPress: (event: PointerEvent<HTMLElement>, visit: AnyVisit) => void;
  onVisit: (id: number) => void;
  onPerson: (technicianId: number) => void;
}

/** Where a technician was seen last. */
export interface Seen {
  technician_id: number;
  name: string;
  lon: number;
  lat: number;
  at: number | null;
  doing: string;
}

export function useSigns(
  props: Shown,
  day: string,
  gap: SchemaGapOut | null,
  people: Seen[] | undefined,
): PlacedSign[] {
  const { board, visitsOf, waitingVisits, selectedId, drawing, onPress, onVisit, onPerson } = props;
  return useMemo(() => {
    const within = board.days.find((row) => row.day === day) ?? board;
    const places = placesInDay(visitsOf, within);
    const fillers = gap?.fillers ?? [];
    const fits = new Set(fillers.map((row) => row.visit.id));
    return [
      ...board.visits
        .filter((visit) => places.has(visit.id))
        .slice(0, MOST_SIGNS)
        .map((visit) => placedSign(visit, places.get(visit.id)!, { selectedId, drawing, onVisit })),
      ...(people ?? []).map((row) => seenSign(row, onPerson)),
      ...waitingVisits
        .filter((visit) => visit.technician_id === null && !fits.has(visit.id))
        .slice(0, MOST_SIGNS)
        .map((visit) => openSign(visit, { selectedId, onPress, onVisit })),
      ...fillers.map((row, index) => fittingSign(row, index + 1, onVisit)),
    ];
  }, [board, day, gap, visitsOf, waitingVisits, selectedId, drawing, people, onPress, onVisit, onPerson]);
}

type Look = Pick<Shown, 'selectedId' | 'drawing' | 'onVisit'>;

const placedSign = (
  visit: BoardVisit,
  place: number,
  { selectedId, drawing, onVisit }: Look,
): PlacedSign => ({
  id: `visit ${visit.id}`,
  lon: visit.lon,
  lat: visit.lat,
  words: `${place}. ${visit.number} ${visit.title}, ${visit.site}. ${STATE_WORDS[visit.state]}${visit.start ? `, ${clockTime(visit.start)}` : ''}`,
  sign: (
    <VisitSign visit={visit} place={place} hue={drawing.hueOf(visit)} selected={visit.id === selectedId} />
  ),
  front: visit.id === selectedId,
  onOpen: () => onVisit(visit.id),
});

const fittingSign = (
  row: SchemaGapOut['fillers'][number],
  rank: number,
  onVisit: Shown['onVisit'],
): PlacedSign => ({
  id: `fits ${row.visit.id}`,
  lon: row.visit.lon,
  lat: row.visit.lat,
  words: `${rank}. ${row.visit.title}, ${row.visit.site}: fits the gap at ${clockTime(row.start)}, ${Math.round(row.drive_seconds / 60)} min to drive there`,
  sign: <FitSign rank={rank} standby={row.standby} />,
  front: true,
  onOpen: () => onVisit(row.visit.id),
});

const openSign = (
  visit: Shown['waitingVisits'][number],
  { selectedId, onPress, onVisit }: Pick<Shown, 'selectedId' | 'onPress' | 'onVisit'>,
): PlacedSign => ({
  id: `open ${visit.id}`,
  lon: visit.lon,
  lat: visit.lat,
  words: `${visit.number} ${visit.title}, ${visit.site}. No place yet${visit.promise ? `, promised ${window_(visit.promise)}` : ''}. Drag it onto a route`,
  sign: <OpenSign loud={visit.promise !== null} selected={visit.id === selectedId} />,
  front: true,
  onPress: (event) => onPress(event, visit),
  onOpen: () => onVisit(visit.id),
});

const seenSign = (row: Seen, onPerson: Shown['onPerson']): PlacedSign => ({
  id: `technician ${row.technician_id}`,
  lon: row.lon,
  lat: row.lat,
  words: `${row.name}, ${row.doing}${row.at ? `, ${clockTime(row.at)}` : ''}`,
  onOpen: () => onPerson(row.technician_id),
  sign: (
    <span className="block overflow-hidden rounded-full border-2 border-ink bg-sheet">
      <Portrait technicianId={row.technician_id} size={20} />
    </span>
  ),
});

interface VisitSignProps {
  visit: BoardVisit;
  /** Which one of its technician's day it is. */
  place: number;
  hue: string | undefined;
  selected: boolean;
}

/** A visit on the map wears the signs it wears on the board, and its place in the day. */
function VisitSign({ visit, place, hue, selected }: VisitSignProps) {
  return (
    <span
      className={`figures relative block h-3.5 w-5 rounded-sm text-center text-[10px] leading-[13px] ${STATE_LOOK[visit.state]} ${selected ? 'ring-2 ring-copper' : ''}`}
    >
      {place}
      {hue && <span className="absolute inset-x-0 bottom-0 h-1" style={{ background: hue }} />}
      {visit.lamp !== 'dark' && (
        <span className="absolute -top-2 -right-2">
          <Lamp lamp={visit.lamp} />
        </span>
      )}
    </span>
  );
}

/** What fits a gap, by its rank beside the board; who would come forward is a ring. */
const FitSign = ({ rank, standby }: { rank: number; standby: boolean }) => (
  <span
    className={`figures flex size-5 items-center justify-center rounded-full border-2 border-copper text-xs font-semibold ${standby ? 'bg-sheet text-ink' : 'bg-copper text-copper-ink'}`}
  >
    {rank}
  </span>
);

/** Work without a place: a diamond, so that it is told apart without its colour. */
function OpenSign({ loud, selected }: { loud: boolean; selected: boolean }) {
  return (
    <span
      className={`block size-3 rotate-45 border-2 ${loud ? 'border-bad bg-bad-wash' : 'border-ink bg-sheet'} ${selected ? 'ring-2 ring-copper' : ''}`}
    />
  );
}
