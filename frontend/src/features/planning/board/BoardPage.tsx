import { useQuery } from '@tanstack/react-query';
import { useNavigate, useSearch } from '@tanstack/react-router';
import { useCallback, useEffect, useMemo, useState } from 'react';
import { sentenceOf } from '@/api/client';
import { may, useSession } from '@/features/people';
import { serverNow, useNow } from '@/shared/clock';
import { addDays, isoDay } from '@/shared/time';
import { axisOf } from '../axis';
import { Backlog } from '../backlog/Backlog';
import {
  usePlace,
  usePlaceBest,
  usePlaceFirst,
  useRedo,
  useSendDay,
  useStretch,
  useUndo,
  useUnplace,
  type Asked,
} from '../commands';
import { Details } from '../details/Details';
import { GapPanel } from '../gap/GapPanel';
import { freeStretches } from '../gap/gaps';
import { hueValue, huesOf } from '../hues';
import { MonthView } from '../list/MonthView';
import { VisitList } from '../list/VisitList';
import { ManyPanel } from '../many/ManyPanel';
import { BoardMap } from '../map/BoardMap';
import type { AnyVisit, BacklogVisit, Board } from '../model';
import type { Shown } from '../openings/Openings';
import { backlogQuery, useFits, useMarks, useLivePlanning, useVerdict } from '../queries';
import { rowsOf } from '../rows';
import { Planner } from '../runs/Planner';
import { leave, type BoardSearch, type WaitingSearch } from '../search';
import { BoardBar } from './BoardBar';
import { BoardKey } from './BoardKey';
import { CommandField } from './CommandField';
import { visitsWithin } from './focus';
import { aimOfState, heldBy, laneAim, type Deed } from './interaction';
import { LABEL_WIDTH } from './measures';
import type { Drawing } from './Lane';
import { Lanes } from './Lanes';
import { aimWords, BacklogFoot, Box, Failed, scrollTo, StretchSlip } from './Slips';
import { useBoard, visitsByTechnician } from './useBoard';
import { useBoardInteraction } from './useBoardInteraction';
import { useBoardShortcuts } from './useBoardShortcuts';
import { VerdictSlip } from './VerdictSlip';
import { WhyDialog } from './WhyDialog';

type Change = (changes: Partial<BoardSearch>) => void;

/** The dispatcher's home. */
export function BoardPage() {
  useLivePlanning();
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
const NEAR_METRES = 3000;
const NO_VISITS: BacklogVisit[] = [];

function LoadedBoard({ board, day, search, change, stale }: LoadedProps) {
  const canPlan = may(useSession(), 'plan');
  const now = useNow();
  const [keyOpen, setKeyOpen] = useState(false);
  const [commandOpen, setCommandOpen] = useState(false);
  const [asked, setAsked] = useState<Asked | null>(null);
  const [chosen, setChosen] = useState<ReadonlySet<number>>(NONE);
  const [scroller, setScroller] = useState<HTMLDivElement | null>(null);
  const view = search.view ?? 'lanes';
  const column = search.column ?? null;
  const width = useWidth(scroller) - LABEL_WIDTH - 4;
  const axis = useMemo(
    () => axisOf(board.days, board.lanes, width, column),
    [board.days, board.lanes, width, column],
  );
  const selectedId = search.visit ?? null;
  const visitsOf = useMemo(() => visitsByTechnician(board), [board]);
  const selected = board.visits.find((visit) => visit.id === selectedId) ?? null;
  const rows = useMemo(
    () =>
      rowsOf(board.lanes, visitsOf, {
        group: search.group ?? 'none',
        sort: search.sort ?? 'name',
        near: selected,
      }),
    [board.lanes, visitsOf, search.group, search.sort, selected],
  );
  const inOrder = useMemo(() => rows.flatMap((row) => (row.kind === 'lane' ? [row.lane] : [])), [rows]);
  const hues = useMemo(() => huesOf(board.visits, search.hue ?? 'none'), [board.visits, search.hue]);
  const drawing = useMemo<Drawing>(
    () => ({
      label: search.label ?? 'site',
      hueOf: (visit) => hues.get(hueValue(visit, search.hue ?? 'none') ?? ''),
    }),
    [search.label, search.hue, hues],
  );
  const deeds = useDeeds(setAsked);
  const { place, unplace, first, best, stretch, sendDay, undo, redo } = deeds;

  const onDeed = useCallback(
    (deed: NonNullable<Deed>) => {
      switch (deed.kind) {
        case 'open':
          setChosen(NONE);
          return change({ visit: deed.visit.id, gap: undefined });
        case 'toggle':
          return setChosen((old) => toggled(old, [deed.visit.id]));
        case 'choose': {
          const within = visitsWithin(deed.from, deed.to);
          return setChosen((old) => (deed.adds ? new Set([...old, ...within]) : new Set(within)));
        }
        case 'unplace':
          return unplace({ visit: deed.visit });
        case 'first':
          return first({ ...deed, day });
        case 'best':
          return best(deed);
        case 'stretch':
          return stretch(deed);
        case 'place':
          return place(deed);
      }
    },
    [change, place, unplace, first, best, stretch, day],
  );
  const { state, press, ground, key } = useBoardInteraction({ axis, lanes: inOrder, now, canPlan, onDeed });
  // What one looks at in a list of openings or changes, drawn on the line as if it were held there.
  const [shown, setShown] = useState<Shown | null>(null);
  const held = heldBy(state);
  const aim = aimOfState(state);
  const here = shown && shown.start >= board.start && shown.start < board.end ? shown : null;
  const placing = laneAim(state) ?? (held ? null : here);
  const { verdict, error } = useVerdict(held?.id ?? here?.visitId ?? null, placing);
  const aimedDay = placing ? isoDay(placing.start) : day;
  const fits = useFits(held?.id ?? null, aimedDay);
  const marks = useMarks(held?.id ?? null, day, board.days.length);
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
  const onOpenDay = useCallback((value: string) => change({ day: value, span: undefined }), [change]);
  const onPlan = useCallback(
    (who: number) => change({ run: 0, who, visit: undefined, gap: undefined }),
    [change],
  );
  const sendShown = () => sendDay({ day, days: board.days.length });
  const onText = useCallback((text: string) => change({ text: text || undefined }), [change]);
  const onVisit = useCallback((visit: number) => change({ visit, gap: undefined }), [change]);
  const onToggle = useCallback((id: number) => setChosen((old) => toggled(old, [id])), []);
  const onWaiting = useCallback((value: WaitingSearch) => change({ waiting: value }), [change]);
  const waiting = search.waiting ?? NOTHING;
  const near = useMemo(
    () => (selected ? { lon: selected.lon, lat: selected.lat, label: selected.site } : null),
    [selected],
  );
  const goToGap = (by: number) => {
    const gaps = freeStretches(inOrder, now);
    const current = search.gap && 'who' in search.gap ? search.gap : null;
    const index = gaps.findIndex((gap) => gap.who === current?.who && gap.start === current.start);
    const found = gaps[(index + by + gaps.length) % gaps.length];
    if (found) change({ gap: found, visit: undefined, run: undefined });
  };
  const close = () => {
    if (chosen.size > 0) setChosen(NONE);
    else if (search.gap) change({ gap: undefined });
    else if (selectedId !== null) change({ visit: undefined });
    else change({ run: undefined, who: undefined, only: undefined });
  };
  const onDay = (by: number) => change({ day: by === 0 ? undefined : addDays(day, by * (search.span ?? 1)) });

  useBoardShortcuts({
    onDay,
    onUndo: () => canPlan && undo(),
    onRedo: () => canPlan && redo(),
    onKey: () => setKeyOpen(true),
    onCommand: () => setCommandOpen(true),
    onGap: goToGap,
    onNext: () => selectedId !== null && change({ gap: { after: selectedId } }),
    onClose: close,
  });

  const open = useQuery(backlogQuery(search.text ?? '', waiting)).data?.visits;
  const many = useMemo(() => {
    const known = new Map<number, AnyVisit>();
    for (const visit of [...(open ?? []), ...board.visits])
      if (chosen.has(visit.id)) known.set(visit.id, visit);
    return [...known.values()];
  }, [open, board.visits, chosen]);
  const panel =
    many.length > 0
      ? 'many'
      : search.gap
        ? 'gap'
        : selectedId !== null
          ? 'details'
          : canPlan && search.run !== undefined
            ? 'planner'
            : 'backlog';
  const toBacklog = aim?.kind === 'backlog';
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
        onSendDay={sendShown}
        onKey={() => setKeyOpen(true)}
        onCommand={() => setCommandOpen(true)}
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
              column={column}
              now={now}
              drawing={drawing}
              selectedId={selectedId}
              chosen={chosen}
              liftedId={liftedId}
              aimedId={placing?.technicianId ?? (aim?.kind === 'head' ? aim.technicianId : null)}
              preview={preview}
              aimedDay={aim?.kind === 'day' ? aim.day : null}
              fits={held ? (fits.data ?? null) : null}
              marks={held ? (marks.data ?? null) : null}
              onPress={press}
              onKey={key}
              onDay={onOpenDay}
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
              drawing={drawing}
              now={now}
              onPress={press}
              onVisit={onVisit}
              onWaiting={onWaiting}
            />
          </div>
        )}
        {view === 'list' && (
          <div className="min-w-0 flex-1">
            <VisitList
              board={board}
              selectedId={selectedId}
              chosen={chosen}
              onVisit={onVisit}
              onToggle={onToggle}
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
        <aside className="flex w-[330px] shrink-0 flex-col border-l border-hairline bg-sheet">
          {panel === 'many' && (
            <ManyPanel
              visits={many}
              board={board}
              onPlan={(only) => {
                setChosen(NONE);
                change({ run: 0, only, visit: undefined, gap: undefined });
              }}
              onClose={() => setChosen(NONE)}
            />
          )}
          {panel === 'gap' && (
            <GapPanel
              key={JSON.stringify(search.gap)}
              board={board}
              gap={search.gap!}
              canPlan={canPlan}
              onShow={setShown}
              onVisit={(visit) => change({ visit, gap: undefined })}
              onClose={() => {
                setShown(null);
                change({ gap: undefined });
              }}
            />
          )}
          {panel === 'details' && (
            <Details
              key={selectedId}
              visitId={selectedId!}
              board={board}
              canPlan={canPlan}
              onClose={() => change({ visit: undefined })}
              onDay={(value) => change({ day: value })}
              onShow={setShown}
              onGap={(gap) => change({ gap })}
              onNear={({ lon, lat }) =>
                change({ visit: undefined, waiting: { lon, lat, metres: NEAR_METRES, sort: 'nearest' } })
              }
            />
          )}
          {panel === 'planner' && (
            <Planner
              board={board}
              day={day}
              runId={search.run!}
              who={search.who}
              only={search.only}
              onRun={(run) => change({ run, who: undefined, only: undefined })}
              onShow={setShown}
              onVisit={(visit) => change({ visit })}
            />
          )}
          <div className={panel === 'backlog' ? 'contents' : 'hidden'}>
            <Backlog
              day={day}
              text={search.text ?? ''}
              waiting={waiting}
              near={near}
              chosen={chosen}
              selectedId={selectedId}
              liftedId={held?.id ?? null}
              aimed={toBacklog}
              onText={onText}
              onWaiting={onWaiting}
              onPress={press}
              onKey={key}
            />
          </div>
          {panel !== 'backlog' && (
            <BacklogFoot
              aimed={toBacklog}
              onOpen={() => {
                setChosen(NONE);
                change({ visit: undefined, run: undefined, gap: undefined, only: undefined });
              }}
            />
          )}
        </aside>
      </div>
      {held && (
        <VerdictSlip
          who={aimWords(board, aim ?? (placing ? { kind: 'lane', ...placing } : null))}
          start={placing?.start ?? null}
          several={board.days.length > 1}
          verdict={verdict}
          error={error ? sentenceOf(error) : null}
          at={state.mode === 'dragging' ? { x: state.x, y: state.y } : null}
          hint={
            state.mode === 'placing'
              ? '↑↓ who · ←→ when (Shift: 5 min) · [ ] day · Enter places · Esc lets go'
              : undefined
          }
        />
      )}
      {state.mode === 'stretching' && <StretchSlip seconds={state.seconds} keyboard={state.keyboard} />}
      {state.mode === 'boxing' && <Box from={state.from} to={state.to} />}
      {asked && (
        <WhyDialog
          reasons={asked.reasons}
          onSay={(because) => {
            place({ ...asked.placement, because });
            setAsked(null);
          }}
          onClose={() => setAsked(null)}
        />
      )}
      <CommandField
        open={commandOpen}
        onOpenChange={setCommandOpen}
        onDay={(value) => change({ day: value })}
        onTechnician={(who) => scrollTo(who)}
        onVisit={(visit) => change({ visit, gap: undefined })}
        acts={[
          { words: 'Today', keys: 'T', run: () => onDay(0) },
          { words: 'Show one day', run: () => change({ span: undefined }) },
          { words: 'Show a week', run: () => change({ span: 7 }) },
          { words: 'Show two weeks', run: () => change({ span: 14 }) },
          { words: 'Show lanes', run: () => change({ view: undefined }) },
          { words: 'Show lanes and map', run: () => change({ view: 'both' }) },
          { words: 'Show the map', run: () => change({ view: 'map' }) },
          { words: 'Show a list', run: () => change({ view: 'list' }) },
          {
            words: 'Print the route sheets of this day',
            run: () => window.open(`/api/planning/route-sheet?day=${day}`, '_blank'),
          },
          { words: 'Show five weeks', run: () => change({ view: 'month' }) },
          { words: 'Next gap to fill', keys: 'G', run: () => goToGap(1) },
          { words: 'Key to the signs and keys', keys: '?', run: () => setKeyOpen(true) },
          ...(canPlan
            ? [
                { words: 'Undo', keys: 'Ctrl Z', run: undo },
                { words: 'Redo', keys: 'Ctrl Shift Z', run: redo },
                { words: 'Ask the planner', run: () => change({ run: 0, visit: undefined, gap: undefined }) },
                { words: 'Send everything that is shown', run: sendShown },
              ]
            : []),
        ]}
      />
      <BoardKey open={keyOpen} onOpenChange={setKeyOpen} hues={hues} />
    </div>
  );
}

function toggled(old: ReadonlySet<number>, ids: number[]): ReadonlySet<number> {
  const found = new Set(old);
  for (const id of ids) if (!found.delete(id)) found.add(id);
  return found;
}

function useDeeds(onAsk: (asked: Asked) => void) {
  const { mutate: place } = usePlace(onAsk);
  const { mutate: unplace } = useUnplace();
  const { mutate: first } = usePlaceFirst();
  const { mutate: best } = usePlaceBest();
  const { mutate: stretch } = useStretch();
  const { mutate: sendDay } = useSendDay();
  const { mutate: back } = useUndo();
  const { mutate: forth } = useRedo();
  const undo = useCallback(() => back(), [back]);
  const redo = useCallback(() => forth(), [forth]);
  return { place, unplace, first, best, stretch, sendDay, undo, redo };
}

function useWidth(element: HTMLElement | null): number {
  const [width, setWidth] = useState(900);
  useEffect(() => {
    if (!element) return;
    const observer = new ResizeObserver(([entry]) => entry && setWidth(Math.floor(entry.contentRect.width)));
    observer.observe(element);
    return () => observer.disconnect();
  }, [element]);
  return width;
}
