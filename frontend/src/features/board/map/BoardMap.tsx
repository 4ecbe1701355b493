import { useQueries, useQuery } from '@tanstack/react-query';
import { memo, useMemo, useState, type PointerEvent } from 'react';
import { api, data } from '@/api/client';
import type { SchemaGapOut } from '@/api/types';
import { useSitesOnMap } from '@/features/customers';
import { RouteMap, type Dot } from '@/features/roads';
import { dayName, isoDay } from '@/shared/time';
import type { Drawing } from '../lanes/drawing';
import { setLineFinder } from '../lanes/lineUnder';
import type { AnyVisit, BacklogVisit, Board, BoardVisit } from '../model';
import { gapQuery, nextQuery, roundsQuery, toursQuery } from '../queries';
import type { Ghosts } from '@/features/scheduling';
import type { Gap, WaitingSearch } from '../search';
import { useSigns } from './signs';
import { SiteCard } from './SiteCard';
import { driving, inGroups, proposedTours, roundLines, tourLines, type Round } from './rounds';

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
  /** A gap that is to be filled: what fits there wears its rank. */
  gap: Gap | null;
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
const NO_DOTS: Dot[] = [];

/** More rounds than these are drawn straight while a proposal is read: nobody tells so many apart. */
const MOST_TOURS = 60;

/** What is ticked on the map. */
function useLayers() {
  const [traffic, setTraffic] = useState(false);
  const [people, setPeople] = useState(true);
  const [sites, setSites] = useState(false);
  return { traffic, setTraffic, people, setPeople, sites, setSites };
}

/** The same days on the map: visits with state and lamp, roads taken, where everybody was last. */
export const BoardMap = memo(function BoardMap(props: Props) {
  const { board, waiting, selected, personId, ghosts, now } = props;
  const [day, setDay] = useShownDay(board, props.day);
  const layers = useLayers();
  const [measuring, setMeasuring] = useState(false);
  const [siteId, setSiteId] = useState<number | null>(null);
  const sites = useSitesOnMap(layers.sites).data;
  const site = layers.sites ? (sites?.find((row) => row.id === siteId) ?? null) : null;
  const gap = useGap(props.gap);
  const who = gap?.technician_id ?? selected?.technician_id ?? personId;
  const rounds = useRounds(board, day, ghosts === null);
  const lines = useLines(props, rounds, who);
  const traffic = useTraffic(layers.traffic, now);
  // Where somebody was last says nothing of another day.
  const isToday = day === isoDay(now);
  const people = useLastSeen(layers.people && isToday);
  const signs = useSigns(props, day, gap, people);
  const driven = who === null || ghosts ? null : driving(rounds, who);
  const nearTo = ({ lon, lat }: { lon: number; lat: number }) =>
    props.onWaiting({ ...waiting, lon, lat, metres: waiting.metres ?? RADIUS_METRES, sort: 'nearest' });
  const circle = circleOf(waiting);
  return (
    <div className="relative h-full w-full">
      <RouteMap
        label="Map of the board"
        signs={signs}
        lines={lines}
        traffic={traffic?.shares ?? null}
        circle={circle}
        dots={(layers.sites && sites) || NO_DOTS}
        onDot={setSiteId}
        onGround={(point) => {
          if (!measuring) return;
          setMeasuring(false);
          nearTo(point);
        }}
        onReady={setLineFinder}
      />
      <fieldset className="absolute top-2 left-2 flex flex-wrap gap-x-3 gap-y-1 rounded-sm border border-hairline bg-sheet px-2 py-1 text-xs">
        <legend className="sr-only">On the map</legend>
        {board.days.length > 1 && <DayOnMap board={board} day={day} onDay={setDay} />}
        <Ticks layers={layers} isToday={isToday} period={traffic?.period} />
        <Measure
          circle={circle !== null}
          measuring={measuring}
          onMeasure={setMeasuring}
          onNowhere={() => props.onWaiting({ ...waiting, ...NOWHERE })}
        />
      </fieldset>
      {ghosts && <RoundsKey />}
      {site && <SiteCard site={site} onClose={() => setSiteId(null)} onNear={() => nearTo(site)} />}
      {driven && (
        <Driven name={board.lanes.find((lane) => lane.technician_id === who)?.name} driven={driven} />
      )}
    </div>
  );
});

const Driven = ({
  name,
  driven,
}: {
  name: string | undefined;
  driven: NonNullable<ReturnType<typeof driving>>;
}) => (
  <p className="absolute bottom-2 left-2 rounded-sm border border-hairline bg-sheet px-2 py-1 text-xs">
    {name}: {driven.minutes} min of driving in {driven.drives} drives
  </p>
);

interface TicksProps {
  layers: ReturnType<typeof useLayers>;
  isToday: boolean;
  period: string | undefined;
}

const Ticks = ({ layers, isToday, period }: TicksProps) => (
  <>
    {isToday && <Tick on={layers.people} words="technicians" onChange={layers.setPeople} />}
    <Tick on={layers.sites} words="sites" onChange={layers.setSites} />
    <Tick
      on={layers.traffic}
      words={period ? `traffic: ${period}` : 'traffic'}
      onChange={layers.setTraffic}
    />
  </>
);

const NOWHERE = { lon: undefined, lat: undefined, metres: undefined, sort: undefined };

const circleOf = ({ lon, lat, metres }: WaitingSearch) =>
  lon !== undefined && lat !== undefined ? { lon, lat, metres: metres ?? RADIUS_METRES } : null;

/** The roads that are drawn: everybody's rounds, or, while a proposal is read, those now and as proposed. */
function useLines({ board, visitsOf, ghosts, lookedAt }: Props, rounds: Round[], who: number | null) {
  const tours = useMemo(
    () => (ghosts ? proposedTours(ghosts, board, visitsOf, lookedAt) : []),
    [board, visitsOf, ghosts, lookedAt],
  );
  const roads = useQuery({
    ...toursQuery(tours.slice(0, MOST_TOURS).map(({ at, points }) => ({ at, points }))),
    enabled: tours.length > 0,
  }).data;
  return useMemo(
    () => (ghosts ? tourLines(tours, roads) : roundLines(rounds, who)),
    [tours, roads, rounds, who, ghosts],
  );
}

function useTraffic(wanted: boolean, now: number) {
  const found = useQuery({
    queryKey: ['roads', 'traffic', Math.floor(now / 900)],
    enabled: wanted,
    queryFn: () => data(api.GET('/api/v1/roads/traffic', { params: { query: { at: Math.floor(now) } } })),
  });
  return wanted ? found.data : undefined;
}

function useLastSeen(wanted: boolean) {
  const found = useQuery({
    queryKey: ['schedule', 'last-seen'],
    enabled: wanted,
    queryFn: () => data(api.GET('/api/v1/board/last-seen')),
    refetchInterval: 60_000,
  });
  return wanted ? found.data : undefined;
}

function DayOnMap({ board, day, onDay }: { board: Board; day: string; onDay: (day: string) => void }) {
  return (
    <select
      aria-label="Day on the map"
      className="rounded-sm border border-hairline bg-sheet"
      value={day}
      onChange={(event) => onDay(event.target.value)}
    >
      {board.days.map((row) => (
        <option key={row.day} value={row.day}>
          {dayName(row.start)}
        </option>
      ))}
    </select>
  );
}

interface MeasureProps {
  circle: boolean;
  measuring: boolean;
  onMeasure: (on: boolean) => void;
  onNowhere: () => void;
}

/** To ask what waits near a point: the next click on the map says where. */
function Measure({ circle, measuring, onMeasure, onNowhere }: MeasureProps) {
  return (
    <button
      type="button"
      aria-pressed={measuring}
      className={`underline ${measuring ? 'font-semibold text-copper' : ''}`}
      onClick={() => (circle ? onNowhere() : onMeasure(!measuring))}
    >
      {circle ? 'take the circle away' : measuring ? 'click a point…' : 'what waits near a point'}
    </button>
  );
}

const RoundsKey = () => (
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
);

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

/** What fits into the gap that is looked at beside the board. */
function useGap(gap: Gap | null): SchemaGapOut | null {
  const after = gap && 'after' in gap ? gap.after : null;
  const stretch = gap && 'who' in gap ? gap : null;
  const next = useQuery({ ...nextQuery(after ?? 0), enabled: after !== null }).data;
  const found = useQuery({
    ...gapQuery(stretch ?? { who: 0, start: 0, end: 0 }),
    enabled: stretch !== null,
  }).data;
  return (after !== null ? next : found) ?? null;
}
