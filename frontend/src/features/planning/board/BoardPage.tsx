import { useQuery } from '@tanstack/react-query';
import { useNavigate, useSearch } from '@tanstack/react-router';
import { useCallback, useEffect, useMemo, useRef, useState } from 'react';
import { sentenceOf } from '@/api/client';
import { Button } from '@/design/Button';
import { Notice } from '@/design/Notice';
import { may, useSession } from '@/features/people';
import { serverNow, useNow } from '@/shared/clock';
import { addDays, isoDay } from '@/shared/time';
import { Backlog } from '../backlog/Backlog';
import { usePlace, useSendDay, useUndo, useUnplace } from '../commands';
import { Details } from '../details/Details';
import { axisOf, type Board } from '../model';
import { backlogQuery, boardQuery, useFits, useLivePlanning, useVerdict } from '../queries';
import type { BoardSearch } from '../search';
import { BoardBar } from './BoardBar';
import { BoardKey } from './BoardKey';
import { laneAim, type Deed } from './interaction';
import { LABEL_WIDTH } from './Lane';
import { Lanes } from './Lanes';
import { useBoardInteraction } from './useBoardInteraction';
import { useBoardShortcuts } from './useBoardShortcuts';
import { VerdictSlip } from './VerdictSlip';
import type { Shown } from '../openings/Openings';
import { Planner } from '../runs/Planner';

/** The dispatcher's home. */
export function BoardPage() {
  useLivePlanning();
  const search = useSearch({ strict: false }) as BoardSearch;
  const navigate = useNavigate();
  const change = useCallback(
    (changes: Partial<BoardSearch>) =>
      void navigate({ to: '/board', search: (old: BoardSearch) => ({ ...old, ...changes }), replace: true }),
    [navigate],
  );
  const day = search.day ?? isoDay(serverNow());
  const board = useQuery(boardQuery(day));
  if (board.isError && !board.data)
    return <Failed error={board.error} onRetry={() => void board.refetch()} />;
  if (!board.data) return <p className="p-6 text-ink-soft">Fetching the board…</p>;
  return (
    <LoadedBoard
      board={board.data}
      day={day}
      search={search}
      change={change}
      stale={board.isPlaceholderData}
    />
  );
}

interface LoadedProps {
  board: Board;
  day: string;
  search: BoardSearch;
  change: (changes: Partial<BoardSearch>) => void;
  stale: boolean;
}

function LoadedBoard({ board, day, search, change, stale }: LoadedProps) {
  const session = useSession();
  const canPlan = may(session, 'plan');
  const now = useNow();
  const [keyOpen, setKeyOpen] = useState(false);
  const scroller = useRef<HTMLDivElement>(null);
  const width = useWidth(scroller) - LABEL_WIDTH - 4;
  const zoom = search.zoom ?? 1;
  const axis = useMemo(() => axisOf(board, width, zoom), [board, width, zoom]);
  const selectedId = search.visit ?? null;
  const beside = selectedId !== null || (canPlan && search.run !== undefined);
  const { place, unplace, sendDay, undo } = useDeeds();

  const onDeed = useCallback(
    (deed: NonNullable<Deed>) => {
      if (deed.kind === 'open') change({ visit: deed.visit.id });
      else if (deed.kind === 'unplace') unplace({ visit: deed.visit });
      else place(deed);
    },
    [change, place, unplace],
  );
  const { state, press, key } = useBoardInteraction({ axis, lanes: board.lanes, now, canPlan, onDeed });
  // What one looks at in a list of openings or changes, drawn on the line as if it were held there.
  const [shown, setShown] = useState<Shown | null>(null);
  const held = state.mode === 'dragging' || state.mode === 'placing' ? state.visit : null;
  const aimed = laneAim(state);
  const here = shown && shown.start >= board.start && shown.start < board.end ? shown : null;
  const aim = aimed ?? (held ? null : here);
  const { verdict, error } = useVerdict(held?.id ?? here?.visitId ?? null, aim);
  const fits = useFits(held?.id ?? null, day);
  const toBacklog =
    held !== null && (state.mode === 'dragging' || state.mode === 'placing') && state.aim?.kind === 'backlog';

  useBoardShortcuts({
    onDay: (by) => change({ day: by === 0 ? undefined : addDays(day, by) }),
    onUndo: () => canPlan && undo(),
    onKey: () => setKeyOpen(true),
    onClose: () => change(selectedId !== null ? { visit: undefined } : { run: undefined, who: undefined }),
  });

  return (
    <div className="flex h-full min-h-0 flex-col">
      <BoardBar
        board={board}
        day={day}
        zoom={zoom}
        canPlan={canPlan}
        stale={stale}
        onDay={(value) => change({ day: value })}
        onZoom={(value) => change({ zoom: value === 1 ? undefined : value })}
        onUndo={undo}
        onSendDay={() => sendDay(day)}
        onKey={() => setKeyOpen(true)}
        onPlanner={() => change({ run: 0, visit: undefined })}
      />
      <div className="flex min-h-0 flex-1">
        <div ref={scroller} className="min-w-0 flex-1 overflow-auto" data-testid="board">
          <Lanes
            board={board}
            day={day}
            axis={axis}
            now={now}
            selectedId={selectedId}
            liftedId={held?.id ?? here?.visitId ?? null}
            aim={aim}
            preview={verdict?.timetable ?? null}
            fits={held ? (fits.data ?? null) : null}
            onPress={press}
            onKey={key}
            onPlan={canPlan ? (who) => change({ run: 0, who, visit: undefined }) : undefined}
          />
        </div>
        <aside className="flex w-[330px] shrink-0 flex-col border-l border-hairline bg-sheet">
          {selectedId !== null && (
            <Details
              key={selectedId}
              visitId={selectedId}
              board={board}
              canPlan={canPlan}
              onClose={() => change({ visit: undefined })}
              onDay={(value) => change({ day: value })}
              onShow={setShown}
            />
          )}
          {selectedId === null && canPlan && search.run !== undefined && (
            <Planner
              board={board}
              day={day}
              runId={search.run}
              who={search.who}
              onRun={(run) => change({ run, who: undefined })}
              onShow={setShown}
              onVisit={(visit) => change({ visit })}
            />
          )}
          <div className={beside ? 'hidden' : 'contents'}>
            <Backlog
              day={day}
              text={search.text ?? ''}
              selectedId={selectedId}
              liftedId={held?.id ?? null}
              aimed={toBacklog}
              onText={(text) => change({ text: text || undefined })}
              onPress={press}
              onKey={key}
            />
          </div>
          {beside && (
            <BacklogFoot aimed={toBacklog} onOpen={() => change({ visit: undefined, run: undefined })} />
          )}
        </aside>
      </div>
      {held && (
        <VerdictSlip
          who={toBacklog ? 'Back to the backlog' : aim ? nameOf(board, aim.technicianId) : 'Drop on a line'}
          start={aim?.start ?? null}
          verdict={verdict}
          error={error ? sentenceOf(error) : null}
          at={state.mode === 'dragging' ? { x: state.x, y: state.y } : null}
          hint={
            state.mode === 'placing'
              ? '↑↓ who · ←→ when (Shift: 5 min) · Enter places · Esc lets go'
              : undefined
          }
        />
      )}
      <BoardKey open={keyOpen} onOpenChange={setKeyOpen} />
    </div>
  );
}

function useDeeds() {
  const { mutate: place } = usePlace();
  const { mutate: unplace } = useUnplace();
  const { mutate: sendDay } = useSendDay();
  const { mutate } = useUndo();
  const undo = useCallback(() => mutate(), [mutate]);
  return { place, unplace, sendDay, undo };
}

/** The backlog folded away under the details: still a place to drop on. */
function BacklogFoot({ aimed, onOpen }: { aimed: boolean; onOpen: () => void }) {
  const total = useQuery(backlogQuery('')).data?.total;
  return (
    <button
      type="button"
      data-backlog
      onClick={onOpen}
      className={`border-t border-hairline px-3 py-2 text-left text-sm font-semibold hover:bg-wash ${aimed ? 'bg-copper-wash' : ''}`}
    >
      Backlog{total === undefined ? '' : ` · ${total} open`}
    </button>
  );
}

function Failed({ error, onRetry }: { error: unknown; onRetry: () => void }) {
  return (
    <div className="max-w-lg space-y-3 p-6">
      <Notice tone="bad">The board could not be fetched. {sentenceOf(error)}</Notice>
      <Button onClick={onRetry}>Try again</Button>
    </div>
  );
}

const nameOf = (board: Board, id: number) =>
  board.lanes.find((lane) => lane.technician_id === id)?.name ?? '';

function useWidth(element: React.RefObject<HTMLElement | null>): number {
  const [width, setWidth] = useState(900);
  useEffect(() => {
    if (!element.current) return;
    const observer = new ResizeObserver(([entry]) => entry && setWidth(Math.floor(entry.contentRect.width)));
    observer.observe(element.current);
    return () => observer.disconnect();
  }, [element]);
  return width;
}
