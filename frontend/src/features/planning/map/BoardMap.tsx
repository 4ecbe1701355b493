import { useQuery } from '@tanstack/react-query';
import { memo, useMemo, useState, type PointerEvent } from 'react';
import { api, data } from '@/api/client';
import { Lamp } from '@/design/Lamp';
import { STATE_LOOK } from '@/design/StateSign';
import { Portrait } from '@/features/people';
import { RouteMap, type PlacedSign, type RouteLine } from '@/features/roads';
import { STATE_WORDS } from '@/shared/signs';
import { clockTime, window_ } from '@/shared/time';
import type { Drawing } from '../board/Lane';
import { setLineFinder } from '../board/lineUnder';
import type { AnyVisit, BacklogVisit, Board, BoardVisit } from '../model';
import { toursOf, type Ghosts } from '../runs/ghosts';
import type { WaitingSearch } from '../search';

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

/** The same days on the map: visits with state and lamp, roads taken, where everybody was last. */
export const BoardMap = memo(function BoardMap(props: Props) {
  const { board, day, visitsOf, waiting, selected, personId, ghosts, lookedAt, now } = props;
  const [withTraffic, setWithTraffic] = useState(false);
  const [withPeople, setWithPeople] = useState(true);
  const [measuring, setMeasuring] = useState(false);
  const who = selected?.technician_id ?? personId;
  const route = useQuery({
    queryKey: ['planning', 'route', who, day],
    enabled: who !== null,
    queryFn: () => data(api.GET('/api/planning/route', { params: { query: { technician_id: who!, day } } })),
  });
  const traffic = useQuery({
    queryKey: ['roads', 'traffic', Math.floor(now / 900)],
    enabled: withTraffic,
    queryFn: () => data(api.GET('/api/roads/traffic', { params: { query: { at: Math.floor(now) } } })),
  });
  const people = useQuery({
    queryKey: ['planning', 'last-seen'],
    enabled: withPeople,
    queryFn: () => data(api.GET('/api/planning/last-seen')),
    refetchInterval: 60_000,
  });
  const legs = route.data;
  const lines = useMemo(
    () =>
      ghosts ? proposedLines(ghosts, board, visitsOf, lookedAt) : roundLines(board, visitsOf, who, legs),
    [board, visitsOf, legs, who, ghosts, lookedAt],
  );
  const signs = useSigns(props, withPeople ? people.data : undefined);
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
        <Tick on={withPeople} words="technicians" onChange={setWithPeople} />
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
      {!ghosts && who !== null && route.data && (
        <p className="absolute bottom-2 left-2 rounded-sm border border-hairline bg-sheet px-2 py-1 text-xs">
          {board.lanes.find((lane) => lane.technician_id === who)?.name}:{' '}
          {Math.round(route.data.reduce((sum, leg) => sum + leg.seconds, 0) / 60)} min of driving in{' '}
          {route.data.length} drives
        </p>
      )}
    </div>
  );
});

interface Leg {
  points: number[][];
  seconds: number;
}

/** Everybody's round as straight lines; the one looked at along the roads, with its minutes. */
function roundLines(
  board: Board,
  visitsOf: Map<number, BoardVisit[]>,
  who: number | null,
  legs: Leg[] | undefined,
): RouteLine[] {
  const found: RouteLine[] = [];
  for (const lane of board.lanes) {
    if (lane.technician_id === who && legs) continue;
    const points = (visitsOf.get(lane.technician_id) ?? []).map(
      (visit) => [visit.lon, visit.lat] as [number, number],
    );
    if (points.length > 1) found.push({ id: lane.technician_id, points, strong: false });
  }
  for (const leg of legs ?? []) {
    if (who === null || leg.points.length < 2) continue;
    const points = leg.points as [number, number][];
    found.push({ id: who, points, strong: true, label: `${Math.round(leg.seconds / 60)}` });
  }
  return found;
}

/** While a proposal is read, only the rounds that it changes are drawn: as they are, and as they would be. */
function proposedLines(
  ghosts: Ghosts,
  board: Board,
  visitsOf: Map<number, BoardVisit[]>,
  only: number | null,
): RouteLine[] {
  return toursOf(ghosts, visitsOf, board).flatMap((tour) => {
    const lines: RouteLine[] = [];
    const id = tour.technicianId;
    if (only !== null && id !== only) return lines;
    if (tour.before.length > 1) lines.push({ id, points: tour.before, strong: false, look: 'before' });
    if (tour.after.length > 1) lines.push({ id, points: tour.after, strong: false, look: 'after' });
    return lines;
  });
}

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

function useSigns(props: Props, people: Seen[] | undefined): PlacedSign[] {
  const { board, waitingVisits, selectedId, drawing, onPress, onVisit, onPerson } = props;
  return useMemo(() => {
    const placed = board.visits.slice(0, MOST_SIGNS).map((visit): PlacedSign => ({
      id: `visit ${visit.id}`,
      lon: visit.lon,
      lat: visit.lat,
      words: `${visit.number} ${visit.title}, ${visit.site}. ${STATE_WORDS[visit.state]}${visit.start ? `, ${clockTime(visit.start)}` : ''}`,
      sign: <VisitSign visit={visit} hue={drawing.hueOf(visit)} selected={visit.id === selectedId} />,
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
  }, [board.visits, waitingVisits, selectedId, drawing, people, onPress, onVisit, onPerson]);
}

interface VisitSignProps {
  visit: BoardVisit;
  hue: string | undefined;
  selected: boolean;
}

/** A visit on the map wears the signs it wears on the board. */
function VisitSign({ visit, hue, selected }: VisitSignProps) {
  return (
    <span
      className={`relative block h-3.5 w-5 rounded-sm ${STATE_LOOK[visit.state]} ${selected ? 'ring-2 ring-copper' : ''}`}
    >
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
