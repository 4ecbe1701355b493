import { useQuery } from '@tanstack/react-query';
import { useNavigate, useSearch } from '@tanstack/react-router';
import { useCallback, useEffect, useMemo, useState } from 'react';
import { sentenceOf } from '@/api/client';
import { may, useSession } from '@/features/people';
import { serverNow, useNow } from '@/shared/clock';
import { addDays, isoDay } from '@/shared/time';
import { ask, useAsked } from '../asking';
import { axisOf } from '../axis';
import { CrewsDialog } from '../crews/CrewsDialog';
import { freeStretches } from '../gap/gaps';
import { MonthView } from '../list/MonthView';
import { VisitList } from '../list/VisitList';
import { useBulk } from '../commands';
import type { ManyWish } from '../many/wish';
import { BoardMap } from '../map/BoardMap';
import type { BacklogVisit, Board } from '../model';
import type { Shown } from '@/features/scheduling';
import { useLockDays } from '../person/commands';
import { backlogQuery, useFits, useLiveSchedule, useMarks, useVerdict } from '../queries';
import { slotsOf } from '../rows';
import { leave, type BoardSearch, type ListSearch, type WaitingSearch } from '../search';
import { BoardBar } from './BoardBar';
import { Legend } from './Legend';
import { useCommandField } from '@/shared/command';
import { CommandField } from './CommandField';
import { commandActs } from './commandActs';
import { aimOfState, heldBy, holding, laneAim } from './interaction';
import { LengthDialog } from './LengthDialog';
import { HEAD_WIDTHS, ROOM_FOR_WIDE } from './measures';
import { Lanes } from './Lanes';
import { holidaysOf, useDrawing, useGhosts, useRows, useWidth } from './shown';
import { SidePanel } from './SidePanel';
import { aimWords, Box, Failed, placingHint, scrollTo, StretchSlip, toAbsence, toOpenings } from './Slips';
import { useChosen } from './useChosen';
import { useBoard, visitsByTechnician } from './useBoard';
import { useBoardInteraction } from './useBoardInteraction';
import { useBoardShortcuts } from './useBoardShortcuts';
import { useDeeds } from './useDeeds';
import { VerdictSlip } from './VerdictSlip';
import { WhyDialog } from './WhyDialog';

type Change = (changes: Partial<BoardSearch>) => void;

/** The dispatcher's home. */
export function BoardPage() {
  useLiveSchedule();
  const search = useSearch({ strict: false }) as BoardSearch;
  const navigate = useNavigate();
  const account = useSession().account?.email ?? '';
  const change = useCallback<Change>(
    (changes) =>
      void navigate({
        to: '/board',
        search: (old: BoardSearch) => {
          const found = { ...old, ...changes };
          leave(account, isoDay(serverNow()), found);
          return found;
        },
        replace: true,
      }),
    [navigate, account],
  );
  const day = search.day ?? isoDay(serverNow());
  const { board, stale, error, retry } = useBoard(day, search.span ?? 1);
  if (error && !board) return <Failed error={error} onRetry={retry} />;
  if (!board) return <p className="p-6 text-ink-soft">Fetching the board…</p>;
  return <LoadedBoard board={board} day={day} search={search} change={change} stale={stale} />;
}

interface LoadedProps {
  board: Board;
  day: string;
  search: BoardSearch;
  change: Change;
  stale: boolean;
}

const NONE: ReadonlySet<number> = new Set();
const NOTHING: WaitingSearch = {};
const NO_FILTER: ListSearch = {};
const NO_VISITS: BacklogVisit[] = [];

function LoadedBoard({ board, day, search, change, stale }: LoadedProps) {
  const canPlan = may(useSession(), 'plan');
  const now = useNow();
  const [legendOpen, setLegendOpen] = useState(false);
  const [commandOpen, setCommandOpen] = useState(false);
  useCommandField(() => setCommandOpen(true));
  const [crewsOpen, setCrewsOpen] = useState(false);
  const [chosen, setChosen] = useState<ReadonlySet<number>>(NONE);
  const [wish, setWish] = useState<ManyWish | null>(null);
  const [scroller, setScroller] = useState<HTMLDivElement | null>(null);
  const view = search.view ?? 'lanes';
  const column = search.column ?? null;
  const heads = search.heads ?? (window.innerWidth >= ROOM_FOR_WIDE ? 'wide' : 'narrow');
  const width = useWidth(scroller) - HEAD_WIDTHS[heads] - 4;
  const axis = useMemo(
    () => axisOf(board.days, board.lanes, width, column),
    [board.days, board.lanes, width, column],
  );
  const selectedId = search.visit ?? null;
  const visitsOf = useMemo(() => visitsByTechnician(board), [board]);
  const selected = board.visits.find((visit) => visit.id === selectedId) ?? null;
  const rows = useRows(board, visitsOf, search, selected);
  const inOrder = useMemo(() => rows.flatMap((row) => (row.kind === 'lane' ? [row.lane] : [])), [rows]);
  const slots = useMemo(() => slotsOf(rows), [rows]);
  const { drawing, hues } = useDrawing(board, search, heads, canPlan);
  const { onDeed, place, sendDay, undo, redo } = useDeeds({ day, change, setChosen, setWish });
  const { mutate: lockDays } = useLockDays();
  const { mutate: bulk } = useBulk();
  const navigate = useNavigate();
  const asked = useAsked();
  const { state, press, ground, key, take, offer } = useBoardInteraction({
    axis,
    lanes: inOrder,
    slots,
    chosen,
    now,
    canPlan,
    onDeed,
  });
  // What one looks at in a list of openings or changes, drawn on the line as if it were held there.
  const [shown, setShown] = useState<Shown | null>(null);
  const held = heldBy(state);
  const together = holding(state)?.together.length ?? 0;
  const aim = aimOfState(state);
  const here = shown && shown.start >= board.start && shown.start < board.end ? shown : null;
  const placing = laneAim(state) ?? (held ? null : here);
  const judged = together > 1 ? null : (held?.id ?? here?.visitId ?? null);
  const { verdict, error } = useVerdict(judged, placing);
  const aimedDay = placing ? isoDay(placing.start) : day;
  const fits = useFits(held?.id ?? null, aimedDay);
  const marks = useMarks(held?.id ?? null, day, board.days.length);
  useEffect(() => {
    if (held && marks.data) offer(held.id, marks.data.places);
  }, [held, marks.data, offer]);
  const previewDay = board.days.find((row) => row.day === aimedDay)?.start;
  const preview = useMemo(
    () =>
      verdict && placing && previewDay !== undefined
        ? { day: previewDay, timetable: verdict.timetable }
        : null,
    // A timetable belongs to the aim it was asked for.
    // eslint-disable-next-line react-hooks/exhaustive-deps
    [verdict, previewDay],
  );
  const { ghosts, left, setLeft } = useGhosts(search.run);
  const onOpenDay = useCallback((value: string) => change({ day: value, span: undefined }), [change]);
  const onPerson = useCallback(
    (person: number) => {
      setChosen(NONE);
      change({ person, visit: undefined, gap: undefined });
    },
    [change],
  );
  const onPlan = useCallback(
    (who: number) =>
      change({ run: 0, who, ask: undefined, visit: undefined, gap: undefined, person: undefined }),
    [change],
  );
  const onText = useCallback((text: string) => change({ text: text || undefined }), [change]);
  const onVisit = useCallback((visit: number) => change({ visit, gap: undefined }), [change]);
  const onChoose = useCallback(
    (ids: number[], on: boolean) =>
      setChosen((old) => new Set(on ? [...old, ...ids] : [...old].filter((id) => !ids.includes(id)))),
    [],
  );
  const list = search.list ?? NO_FILTER;
  const onList = useCallback(
    (changes: Partial<ListSearch>) => change({ list: { ...list, ...changes } }),
    [change, list],
  );
  const onWaiting = useCallback((value: WaitingSearch) => change({ waiting: value }), [change]);
  /** What waits near a point of the map is read in the backlog. */
  const onNear = useCallback(
    (value: WaitingSearch) =>
      change(
        value.lon === undefined
          ? { waiting: value }
          : { waiting: value, visit: undefined, gap: undefined, person: undefined, run: undefined },
      ),
    [change],
  );
  const onNone = useCallback(() => {
    setChosen(NONE);
    setWish(null);
  }, []);
  const waiting = search.waiting ?? NOTHING;
  const goToGap = (by: number) => {
    const gaps = freeStretches(inOrder);
    const current = search.gap && 'who' in search.gap ? search.gap : null;
    const index = gaps.findIndex((gap) => gap.who === current?.who && gap.start === current.start);
    const found = gaps[(index + by + gaps.length) % gaps.length];
    if (found) change({ gap: found, visit: undefined, run: undefined, person: undefined });
  };
  const close = () => {
    if (chosen.size > 0) onNone();
    else if (search.gap) change({ gap: undefined });
    else if (selectedId !== null) change({ visit: undefined });
    else if (search.person !== undefined) change({ person: undefined });
    else change({ run: undefined, who: undefined, only: undefined, ask: undefined });
  };
  const onDay = (by: number) => change({ day: by === 0 ? undefined : addDays(day, by * (search.span ?? 1)) });

  useBoardShortcuts({
    onDay,
    onUndo: () => canPlan && undo(),
    onRedo: () => canPlan && redo(),
    onLegend: () => setLegendOpen(true),
    onGap: goToGap,
    onNext: () => selectedId !== null && change({ gap: { after: selectedId } }),
    onOpenings: toOpenings,
    onClose: close,
  });

  const open = useQuery(backlogQuery(search.text ?? '', waiting)).data?.visits;
  const many = useChosen(open, board.visits, chosen);
  const holidays = useMemo(() => holidaysOf(board), [board]);
  const liftedId = held?.id ?? here?.visitId ?? null;

  return (
    <div className="flex h-full min-h-0 flex-col">
      <BoardBar
        board={board}
        day={day}
        search={search}
        change={change}
        canPlan={canPlan}
        stale={stale}
        onUndo={undo}
        onRedo={redo}
        onCrews={() => setCrewsOpen(true)}
        onLegend={() => setLegendOpen(true)}
      />
      <div className="flex min-h-0 flex-1">
        {(view === 'lanes' || view === 'both') && (
          <div
            ref={setScroller}
            className="min-w-0 flex-1 overflow-auto"
            data-testid="board"
            onPointerDown={ground}
          >
            <Lanes
              scroller={scroller}
              rows={rows}
              visitsOf={visitsOf}
              axis={axis}
              headWidth={HEAD_WIDTHS[heads]}
              column={column}
              now={now}
              holidays={holidays}
              drawing={drawing}
              selectedId={selectedId}
              chosen={chosen}
              liftedId={liftedId}
              aimedId={placing?.technicianId ?? (aim?.kind === 'head' ? aim.technicianId : null)}
              aimedMates={laneAim(state)?.mates?.join() ?? ''}
              preview={preview}
              ghosts={ghosts}
              aimedDay={aim?.kind === 'day' ? aim.day : null}
              fits={held ? (fits.data ?? null) : null}
              marks={held ? (marks.data?.starts ?? null) : null}
              onPress={press}
              onKey={key}
              onDay={onOpenDay}
              onPerson={onPerson}
              onPlan={canPlan ? onPlan : undefined}
            />
          </div>
        )}
        {(view === 'map' || view === 'both') && (
          <div className="min-w-0 flex-1 border-l border-hairline">
            <BoardMap
              board={board}
              day={selected?.start ? isoDay(selected.start) : day}
              visitsOf={visitsOf}
              waitingVisits={open ?? NO_VISITS}
              waiting={waiting}
              selected={selected}
              selectedId={selectedId}
              personId={search.person ?? null}
              gap={search.gap ?? null}
              ghosts={ghosts}
              lookedAt={here?.technicianId ?? null}
              drawing={drawing}
              now={now}
              onPress={press}
              onVisit={onVisit}
              onPerson={onPerson}
              onWaiting={onNear}
            />
          </div>
        )}
        {view === 'list' && (
          <div className="min-w-0 flex-1">
            <VisitList
              board={board}
              search={list}
              change={onList}
              selectedId={selectedId}
              chosen={chosen}
              onVisit={onVisit}
              onChoose={onChoose}
            />
          </div>
        )}
        {view === 'month' && (
          <div className="min-w-0 flex-1">
            <MonthView
              day={day}
              onDay={(value) => change({ day: value, view: undefined, span: undefined })}
            />
          </div>
        )}
        <SidePanel
          board={board}
          day={day}
          search={search}
          change={change}
          canPlan={canPlan}
          visitsOf={visitsOf}
          selected={selected}
          chosen={chosen}
          many={many}
          wish={wish}
          onNone={onNone}
          left={left}
          onLeft={setLeft}
          heldId={held?.id ?? null}
          aimed={aim?.kind === 'backlog'}
          waiting={waiting}
          onText={onText}
          onWaiting={onWaiting}
          onShow={setShown}
          onPress={press}
          onKey={key}
        />
      </div>
      {held && (
        <VerdictSlip
          who={aimWords(board, aim ?? (placing ? { kind: 'lane', ...placing } : null))}
          start={placing?.start ?? null}
          several={board.days.length > 1}
          together={together}
          verdict={verdict}
          error={error ? sentenceOf(error) : null}
          at={state.mode === 'dragging' ? { x: state.x, y: state.y } : null}
          hint={state.mode === 'placing' ? placingHint(state, marks) : undefined}
        />
      )}
      {state.mode === 'stretching' && <StretchSlip seconds={state.seconds} keyboard={state.keyboard} />}
      {state.mode === 'boxing' && <Box from={state.from} to={state.to} />}
      {asked && (
        <WhyDialog
          reasons={asked.reasons}
          onSay={(because) => {
            place({ ...asked.placement, because });
            ask(null);
          }}
          onClose={() => ask(null)}
        />
      )}
      <LengthDialog />
      <CommandField
        open={commandOpen}
        onOpenChange={setCommandOpen}
        onDay={(value) => change({ day: value })}
        onTechnician={(who) => {
          scrollTo(who);
          onPerson(who);
        }}
        onAbsent={
          canPlan
            ? (who) => {
                onPerson(who);
                toAbsence();
              }
            : undefined
        }
        onVisit={(visit) => change({ visit, gap: undefined, person: undefined })}
        acts={commandActs({
          day,
          canPlan,
          change,
          visit: selected ?? open?.find((visit) => visit.id === selectedId) ?? null,
          onTake: take,
          onOpenings: toOpenings,
          onDeed,
          onBulk: (kind, { id, version }) =>
            bulk({ visits: [{ id, version }], kind, seconds: 0, because: '', preview: false }),
          onOrder: (orderId) =>
            void navigate({ to: '/orders/$orderId', params: { orderId: String(orderId) } }),
          onToday: () => onDay(0),
          onGap: () => goToGap(1),
          onLegend: () => setLegendOpen(true),
          onCrews: () => setCrewsOpen(true),
          onUndo: undo,
          onRedo: redo,
          onSend: () => sendDay({ day, days: board.days.length }),
          onLock: (pinned) => lockDays({ day, days: board.days.length, pinned }),
        })}
      />
      <Legend open={legendOpen} onOpenChange={setLegendOpen} hues={hues} />
      <CrewsDialog open={crewsOpen} onOpenChange={setCrewsOpen} />
    </div>
  );
}
