import type { ComponentType, KeyboardEvent, PointerEvent } from 'react';
import { daysBetween, isoDay } from '@/shared/time';
import { Backlog } from '../backlog/Backlog';
import { Details } from '../details/Details';
import { GapPanel } from '../gap/GapPanel';
import { ManyPanel } from '../many/ManyPanel';
import type { ManyWish } from '../many/wish';
import type { AnyVisit, Board, BoardVisit } from '../model';
import type { Shown } from '@/features/scheduling';
import { PersonPanel } from '../person/PersonPanel';
import { useStartRun } from '@/features/scheduling';
import { Planner } from '@/features/scheduling';
import type { BoardSearch, WaitingSearch } from '../search';
import { BacklogFoot } from './Slips';

interface Props {
  board: Board;
  day: string;
  search: BoardSearch;
  change: (changes: Partial<BoardSearch>) => void;
  canPlan: boolean;
  visitsOf: Map<number, BoardVisit[]>;
  selected: BoardVisit | null;
  chosen: ReadonlySet<number>;
  /** The chosen visits, and what was wanted of them by dropping them. */
  many: AnyVisit[];
  wish: ManyWish | null;
  onNone: () => void;
  /** Changes of the proposal that were unticked. */
  left: ReadonlySet<number>;
  onLeft: (left: ReadonlySet<number>) => void;
  heldId: number | null;
  aimed: boolean;
  waiting: WaitingSearch;
  onText: (text: string) => void;
  onWaiting: (waiting: WaitingSearch) => void;
  onShow: (placement: Shown | null) => void;
  onPress: (event: PointerEvent<HTMLElement>, visit: AnyVisit) => void;
  onKey: (event: KeyboardEvent<HTMLElement>, visit: AnyVisit) => void;
}

const NEAR_METRES = 3000;
/** The planner looks at so many days at once. */
const MOST_DAYS = 14;
const NO_VISITS: BoardVisit[] = [];
/** What lies beside the board besides the backlog, put away. */
const NOTHING = {
  visit: undefined,
  person: undefined,
  run: undefined,
  gap: undefined,
  only: undefined,
  ask: undefined,
};

/** Beside the board: what is selected, what is asked, or the backlog. */
export function SidePanel(props: Props) {
  const { day, search, change, selected } = props;
  const panel = panelOf(props);
  const Beside = PANELS[panel];
  return (
    <aside className="flex w-[330px] shrink-0 flex-col border-l border-hairline bg-sheet">
      {Beside && <Beside {...props} />}
      <div className={panel === 'backlog' ? 'contents' : 'hidden'}>
        <Backlog
          day={day}
          text={search.text ?? ''}
          waiting={props.waiting}
          near={selected ? { lon: selected.lon, lat: selected.lat, label: selected.site } : null}
          chosen={props.chosen}
          selectedId={search.visit ?? null}
          liftedId={props.heldId}
          aimed={props.aimed}
          onText={props.onText}
          onWaiting={props.onWaiting}
          onPress={props.onPress}
          onKey={props.onKey}
        />
      </div>
      {panel !== 'backlog' && (
        <BacklogFoot
          aimed={props.aimed}
          onOpen={() => {
            props.onNone();
            change(NOTHING);
          }}
        />
      )}
    </aside>
  );
}

function Many({ board, many, wish, onNone, change }: Props) {
  const on = (changes: Partial<BoardSearch>) => {
    onNone();
    change({ ...NOTHING, ...changes });
  };
  return (
    <ManyPanel
      key={JSON.stringify(wish)}
      visits={many}
      board={board}
      wish={wish}
      onPlan={(only) => on({ run: 0, only })}
      onRun={(run) => on({ run })}
      onClose={onNone}
    />
  );
}

function Gap({ board, search, change, canPlan, onShow }: Props) {
  return (
    <GapPanel
      key={JSON.stringify(search.gap)}
      board={board}
      gap={search.gap!}
      canPlan={canPlan}
      onShow={onShow}
      onVisit={(visit) => change({ ...NOTHING, visit })}
      onClose={() => {
        onShow(null);
        change({ gap: undefined });
      }}
    />
  );
}

function Person({ board, day, search, change, canPlan, selected, visitsOf }: Props) {
  const start = useStartRun();
  const lane = board.lanes.find((row) => row.technician_id === search.person);
  if (!lane) return null;
  /** Somebody is away: straight to a plan for exactly what was theirs, with what it costs and who is to be called. */
  const absent = (visits: BoardVisit[]) =>
    start.mutate(repairOf(visits, day), { onSuccess: (run) => change({ ...NOTHING, run: run.id }) });
  return (
    <PersonPanel
      key={lane.technician_id}
      lane={lane}
      board={board}
      day={selected?.start ? isoDay(selected.start) : day}
      visits={visitsOf.get(lane.technician_id) ?? NO_VISITS}
      canPlan={canPlan}
      onLeft={absent}
      onVisit={(visit) => change({ ...NOTHING, visit })}
      onClose={() => change({ person: undefined })}
    />
  );
}

function repairOf(visits: BoardVisit[], day: string) {
  const days = visits.flatMap(({ start: at }) => (at === null ? [] : [isoDay(at)])).sort();
  const [first, last] = [days[0] ?? day, days.at(-1) ?? day];
  return {
    kind: 'repair' as const,
    day: first,
    days: Math.min(MOST_DAYS, daysBetween(first, last) + 1),
    visit_ids: visits.map(({ id }) => id),
    seconds: 3,
  };
}

function Selected({ board, search, change, canPlan, onShow }: Props) {
  return (
    <Details
      key={search.visit}
      visitId={search.visit!}
      board={board}
      canPlan={canPlan}
      onClose={() => change({ visit: undefined })}
      onDay={(value) => change({ day: value })}
      onShow={onShow}
      onGap={(gap) => change({ gap })}
      onRepair={() => change({ ...NOTHING, run: 0, ask: 'repair' })}
      onNear={({ lon, lat }) =>
        change({ visit: undefined, waiting: { lon, lat, metres: NEAR_METRES, sort: 'nearest' } })
      }
    />
  );
}

function Planning({ board, day, search, change, left, onLeft, onShow }: Props) {
  return (
    <Planner
      board={board}
      day={day}
      runId={search.run!}
      who={search.who}
      wanted={search.ask}
      only={search.only}
      left={left}
      onLeft={onLeft}
      onRun={(run) => change({ run, who: undefined, only: undefined, ask: undefined })}
      onShow={onShow}
      onVisit={(visit) => change({ visit })}
    />
  );
}

type Panel = 'many' | 'gap' | 'details' | 'person' | 'planner' | 'backlog';

function panelOf({ many, search, canPlan, board }: Props): Panel {
  if (many.length > 0) return 'many';
  if (search.gap) return 'gap';
  if (search.visit !== undefined) return 'details';
  if (board.lanes.some((lane) => lane.technician_id === search.person)) return 'person';
  return canPlan && search.run !== undefined ? 'planner' : 'backlog';
}

const PANELS: Record<Panel, ComponentType<Props> | null> = {
  many: Many,
  gap: Gap,
  details: Selected,
  person: Person,
  planner: Planning,
  backlog: null,
};
