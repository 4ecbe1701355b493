import { useQuery } from '@tanstack/react-query';
import { useNavigate, useSearch } from '@tanstack/react-router';
import { useCallback, useState } from 'react';
import { may, useSession } from '@/features/people';
import { serverNow, useNow } from '@/shared/clock';
import { isoDay } from '@/shared/time';
import { CrewsDialog } from '../crews/CrewsDialog';
import type { ManyWish } from '../many/wish';
import type { BacklogVisit, Board } from '../model';
import { backlogQuery, useLiveSchedule } from '../queries';
import { leave, type BoardSearch, type WaitingSearch } from '../search';
import { BoardBar } from './BoardBar';
import { BoardCommands } from './BoardCommands';
import { BoardSlips } from './BoardSlips';
import { BoardViews } from './BoardViews';
import { Legend } from './Legend';
import { useGhosts } from './shown';
import { SidePanel } from './SidePanel';
import { Failed, toOpenings } from './Slips';
import { useBoard } from './useBoard';
import { useBoardShortcuts } from './useBoardShortcuts';
import { useChosen } from './useChosen';
import { useDeeds } from './useDeeds';
import { closing, gapBeside, useGoing, type Change } from './useGoing';
import { useHolding } from './useHolding';
import { useShownDays } from './useShownDays';

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

/** Nothing changes where there is no gap. */
const toGap = (gap: BoardSearch['gap']) =>
  gap ? { gap, visit: undefined, run: undefined, person: undefined } : {};

const NONE: ReadonlySet<number> = new Set();
const NOTHING: WaitingSearch = {};
const NO_VISITS: BacklogVisit[] = [];

/** Visits that were chosen, and what is wanted of them. */
function useChoice() {
  const [chosen, setChosen] = useState<ReadonlySet<number>>(NONE);
  const [wish, setWish] = useState<ManyWish | null>(null);
  const onNone = useCallback(() => {
    setChosen(NONE);
    setWish(null);
  }, []);
  const onChoose = useCallback(
    (ids: number[], on: boolean) =>
      setChosen((old) => new Set(on ? [...old, ...ids] : [...old].filter((id) => !ids.includes(id)))),
    [],
  );
  return { chosen, setChosen, wish, setWish, onNone, onChoose };
}

/** What lies over the board: the legend, and the crews. */
function useSheets() {
  const [legend, setLegend] = useState(false);
  const [crews, setCrews] = useState(false);
  return {
    on: { onLegend: () => setLegend(true), onCrews: () => setCrews(true) },
    legend: { open: legend, onOpenChange: setLegend },
    crews: { open: crews, onOpenChange: setCrews },
  };
}

type Keys = Omit<Parameters<typeof useBoardShortcuts>[0], 'onNext' | 'onOpenings'>;

/** The keys of the board; who may not plan has nothing to take back. */
function useKeys(keys: Keys, canPlan: boolean, selectedId: number | null, change: Change) {
  useBoardShortcuts({
    ...keys,
    onUndo: () => canPlan && keys.onUndo(),
    onRedo: () => canPlan && keys.onRedo(),
    onNext: () => selectedId !== null && change({ gap: { after: selectedId } }),
    onOpenings: toOpenings,
  });
}

function LoadedBoard({ board, day, search, change, stale }: LoadedProps) {
  const canPlan = may(useSession(), 'plan');
  const now = useNow();
  const sheets = useSheets();
  const [scroller, setScroller] = useState<HTMLDivElement | null>(null);
  const { chosen, setChosen, wish, setWish, onNone, onChoose } = useChoice();
  const going = useGoing(change, search, day, onNone);
  const days = useShownDays(board, search, scroller, canPlan);
  const { onDeed, place, sendDay, undo, redo } = useDeeds({ day, change, setChosen, setWish });
  const on = { onUndo: undo, onRedo: redo, ...sheets.on };
  const holding = useHolding({ board, day, days, chosen, now, canPlan, onDeed });
  const { ghosts, left, setLeft } = useGhosts(search.run);
  const waiting = search.waiting ?? NOTHING;
  const open = useQuery(backlogQuery(search.text ?? '', waiting)).data?.visits;
  const many = useChosen(open, board.visits, chosen);
  const goToGap = (by: number) => change(toGap(gapBeside(days.inOrder, search.gap, by)));
  const onClose = () => (chosen.size > 0 ? onNone() : change(closing(search)));
  useKeys({ ...on, onDay: going.onDay, onGap: goToGap, onClose }, canPlan, days.selectedId, change);
  const beside = { board, day, search, change, canPlan };
  return (
    <div className="flex h-full min-h-0 flex-col">
      <BoardBar {...beside} {...on} stale={stale} />
      <div className="flex min-h-0 flex-1">
        <BoardViews
          {...{ board, day, search, days, holding, going, now, canPlan, ghosts, chosen, onChoose, waiting }}
          open={open ?? NO_VISITS}
          scroller={scroller}
          onScroller={setScroller}
        />
        <SidePanel
          {...beside}
          {...{ chosen, many, wish, onNone, left, waiting }}
          visitsOf={days.visitsOf}
          selected={days.selected}
          onLeft={setLeft}
          heldId={holding.held?.id ?? null}
          aimed={holding.aim?.kind === 'backlog'}
          onText={going.onText}
          onWaiting={going.onWaiting}
          onShow={holding.setShown}
          onPress={holding.press}
          onKey={holding.key}
        />
      </div>
      <BoardSlips board={board} holding={holding} onPlace={place} />
      <BoardCommands
        {...{ day, canPlan, change, going, onDeed }}
        {...on}
        days={board.days.length}
        visit={days.selected ?? open?.find((visit) => visit.id === days.selectedId) ?? null}
        onTake={holding.take}
        onGap={() => goToGap(1)}
        onSend={sendDay}
      />
      <Legend {...sheets.legend} hues={days.hues} />
      <CrewsDialog {...sheets.crews} />
    </div>
  );
}
