import { useQueries, useQuery } from '@tanstack/react-query';
import { memo, useMemo, useState, type PointerEvent } from 'react';
import { api, data } from '@/api/client';
import { Lamp } from '@/design/Lamp';
import { STATE_LOOK } from '@/design/StateSign';
import { Portrait } from '@/features/people';
import { RouteMap, type PlacedSign } from '@/features/roads';
import { STATE_WORDS } from '@/shared/signs';
import { clockTime, dayName, isoDay, window_ } from '@/shared/time';
import type { Drawing } from '../board/Lane';
import { setLineFinder } from '../board/lineUnder';
import type { AnyVisit, BacklogVisit, Board, BoardVisit } from '../model';
import { roundsQuery, toursQuery } from '../queries';
import type { Ghosts } from '../runs/ghosts';
import type { WaitingSearch } from '../search';
import { driving, inGroups, placesInDay, proposedTours, roundLines, tourLines, type Round } from './rounds';

interface Props {
  board: Board;
  day: string;
  visitsOf: Map<number, BoardVisit[]>;
  waitingVisits: BacklogVisit[];
  waiting: WaitingSearch;
  selected: BoardVisit | null;
  selectedId: number | null;
  /** The technician whose panel is open: that day's road is drawn too. */
  personId: number | null;
  ghosts: Ghosts | null;
  /** Whose proposed round alone is looked at; null: all of them are drawn. */
  lookedAt: number | null;
  drawing: Drawing;
  now: number;
  onPress: (event: PointerEvent<HTMLElement>, visit: AnyVisit) => void;
  onVisit: (id: number) => void;
  onPerson: (technicianId: number) => void;
  onWaiting: (waiting: WaitingSearch) => void;
}

const RADIUS_METRES = 3000;
/** Signs are elements of the page: more of them than this would make the map heavy. */
const MOST_SIGNS = 400;

/** More rounds than these are drawn straight while a proposal is read: nobody tells so many apart. */
const MOST_TOURS = 60;

/** The same days on the map: visits with state and lamp, roads taken, where everybody was last. */
export const BoardMap = memo(function BoardMap(props: Props) {
  const { board, visitsOf, waiting, selected, personId, ghosts, lookedAt, now } = props;
  const [day, setDay] = useShownDay(board, props.day);
  const [withTraffic, setWithTraffic] = useState(false);
  const [withPeople, setWithPeople] = useState(true);
  const [measuring, setMeasuring] = useState(false);
  const who = selected?.technician_id ?? personId;
  const rounds = useRounds(board, day, ghosts === null);
  const traffic = useQuery({
    queryKey: ['roads', 'traffic', Math.floor(now / 900)],
    enabled: withTraffic,
    queryFn: () => data(api.GET('/api/roads/traffic', { params: { query: { at: Math.floor(now) } } })),
  });
  // Where somebody was last says nothing of another day.
  const isToday = day === isoDay(now);
  const people = useQuery({
    queryKey: ['planning', 'last-seen'],
    enabled: withPeople && isToday,
    queryFn: () => data(api.GET('/api/planning/last-seen')),
    refetchInterval: 60_000,
  });
  const tours = useMemo(
    () => (ghosts ? proposedTours(ghosts, board, visitsOf, lookedAt) : []),
    [board, visitsOf, ghosts, lookedAt],
  );
  const roads = useQuery({
    ...toursQuery(tours.slice(0, MOST_TOURS).map(({ at, points }) => ({ at, points }))),
    enabled: tours.length > 0,
  }).data;
  const lines = useMemo(
    () => (ghosts ? tourLines(tours, roads) : roundLines(rounds, who)),
    [tours, roads, rounds, who, ghosts],
  );
  const signs = useSigns(props, day, withPeople && isToday ? people.data : undefined);
  const driven = who === null || ghosts ? null : driving(rounds, who);
  const circle =
    waiting.lon !== undefined && waiting.lat !== undefined
      ? { lon: waiting.lon, lat: waiting.lat, metres: waiting.metres ?? RADIUS_METRES }
      : null;
  return (
    <div className="relative h-full w-full">
      <RouteMap
        label="Map of the board"
        signs={signs}
        lines={lines}
        traffic={withTraffic ? (traffic.data?.shares ?? null) : null}
        circle={circle}
        onGround={(point) => {
          if (!measuring) return;
          setMeasuring(false);
          props.onWaiting({ ...waiting, ...point, metres: waiting.metres ?? RADIUS_METRES, sort: 'nearest' });
        }}
        onReady={setLineFinder}
      />
      <fieldset className="absolute top-2 left-2 flex flex-wrap gap-x-3 gap-y-1 rounded-sm border border-hairline bg-sheet px-2 py-1 text-xs">
        <legend className="sr-only">On the map</legend>
        {board.days.length > 1 && (
          <select
            aria-label="Day on the map"
            className="rounded-sm border border-hairline bg-sheet"
            value={day}
            onChange={(event) => setDay(event.target.value)}
          >
            {board.days.map((row) => (
              <option key={row.day} value={row.day}>
                {dayName(row.start)}
              </option>
            ))}
          </select>
        )}
        {isToday && <Tick on={withPeople} words="technicians" onChange={setWithPeople} />}
        <Tick
          on={withTraffic}
          words={withTraffic && traffic.data ? `traffic: ${traffic.data.period}` : 'traffic'}
          onChange={setWithTraffic}
        />
        <button
          type="button"
          aria-pressed={measuring}
          className={`underline ${measuring ? 'font-semibold text-copper' : ''}`}
          onClick={() => {
            if (circle) {
              const nowhere = { lon: undefined, lat: undefined, metres: undefined, sort: undefined };
              props.onWaiting({ ...waiting, ...nowhere });
            } else setMeasuring(!measuring);
          }}
        >
          {circle ? 'take the circle away' : measuring ? 'click a point…' : 'what waits near a point'}
        </button>
      </fieldset>
      {ghosts && (
        <p className="absolute bottom-2 left-2 rounded-sm border border-hairline bg-sheet px-2 py-1 text-xs">
          <svg width="26" height="8" className="mr-1 inline" aria-hidden>
            <path d="M0 4H26" stroke="var(--ink)" strokeWidth="2" strokeDasharray="2 3" />
          </svg>
          the round now
          <svg width="26" height="8" className="mr-1 ml-3 inline" aria-hidden>
            <path d="M0 4H26" stroke="var(--copper)" strokeWidth="3" />
          </svg>
          as proposed
        </p>
      )}
      {driven && (
        <p className="absolute bottom-2 left-2 rounded-sm border border-hairline bg-sheet px-2 py-1 text-xs">
          {board.lanes.find((lane) => lane.technician_id === who)?.name}: {driven.minutes} min of driving in{' '}
          {driven.drives} drives
        </p>
      )}
    </div>
  );
});

/** A map shows one day: the one that is looked at on the board, until another one is picked. */
function useShownDay(board: Board, wanted: string): [string, (day: string) => void] {
  const [picked, setPicked] = useState<{ day: string; instead: string } | null>(null);
  const valid = picked?.instead === wanted && board.days.some((row) => row.day === picked.day);
  return [valid ? picked.day : wanted, (day) => setPicked({ day, instead: wanted })];
}

/** Everybody's drives of a day along the roads, a group of technicians at a time. */
function useRounds(board: Board, day: string, wanted: boolean): Round[] {
  // The same lanes are the same questions, however often the board looks again.
  const ids = board.lanes.map((lane) => lane.technician_id).join();
  const groups = useMemo(() => inGroups(ids.split(',').map(Number)), [ids]);
  return useQueries({
    queries: groups.map((group) => ({ ...roundsQuery(day, group), enabled: wanted })),
    combine: together,
  });
}

const together = (results: { data: Round[] | undefined }[]) => results.flatMap((result) => result.data ?? []);

function Tick({ on, words, onChange }: { on: boolean; words: string; onChange: (on: boolean) => void }) {
  return (
    <label className="flex items-center gap-1">
      <input type="checkbox" checked={on} onChange={(event) => onChange(event.target.checked)} /> {words}
    </label>
  );
}

interface Seen {
  technician_id: number;
  name: string;
  lon: number;
  lat: number;
  at: number | null;
  doing: string;
}

function useSigns(props: Props, day: string, people: Seen[] | undefined): PlacedSign[] {
  const { board, visitsOf, waitingVisits, selectedId, drawing, onPress, onVisit, onPerson } = props;
  return useMemo(() => {
    const within = board.days.find((row) => row.day === day) ?? board;
    const places = placesInDay(visitsOf, within);
    const shown = board.visits.filter((visit) => places.has(visit.id));
    const placed = shown.slice(0, MOST_SIGNS).map((visit): PlacedSign => ({
      id: `visit ${visit.id}`,
      lon: visit.lon,
      lat: visit.lat,
      words: `${visit.number} ${visit.title}, ${visit.site}. ${STATE_WORDS[visit.state]}${visit.start ? `, ${clockTime(visit.start)}` : ''}`,
      sign: (
        <VisitSign
          visit={visit}
          place={places.get(visit.id)!}
          hue={drawing.hueOf(visit)}
          selected={visit.id === selectedId}
        />
      ),
      front: visit.id === selectedId,
      onOpen: () => onVisit(visit.id),
    }));
    const open = waitingVisits
      .filter((visit) => visit.technician_id === null)
      .slice(0, MOST_SIGNS)
      .map((visit): PlacedSign => ({
        id: `open ${visit.id}`,
        lon: visit.lon,
        lat: visit.lat,
        words: `${visit.number} ${visit.title}, ${visit.site}. No place yet${visit.promise ? `, promised ${window_(visit.promise)}` : ''}. Drag it onto a route`,
        sign: <OpenSign loud={visit.promise !== null} selected={visit.id === selectedId} />,
        front: true,
        onPress: (event) => onPress(event, visit),
        onOpen: () => onVisit(visit.id),
      }));
    const seen = (people ?? []).map((row): PlacedSign => ({
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
    }));
    return [...placed, ...seen, ...open];
  }, [board, day, visitsOf, waitingVisits, selectedId, drawing, people, onPress, onVisit, onPerson]);
}

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

/** Work without a place: a diamond, so that it is told apart without its colour. */
function OpenSign({ loud, selected }: { loud: boolean; selected: boolean }) {
  return (
    <span
      className={`block size-3 rotate-45 border-2 ${loud ? 'border-bad bg-bad-wash' : 'border-ink bg-sheet'} ${selected ? 'ring-2 ring-copper' : ''}`}
    />
  );
}
