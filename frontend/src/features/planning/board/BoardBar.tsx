import { ChevronLeft, ChevronRight, KeyRound, Route, Send, Undo2, ZoomIn, ZoomOut } from 'lucide-react';
import { Button } from '@/design/Button';
import { Lamp } from '@/design/Lamp';
import { addDays, dayName, isoDay, moment } from '@/shared/time';
import { serverNow } from '@/shared/clock';
import { summary, type Board } from '../model';
import { useUndoable } from '../queries';

interface Props {
  board: Board;
  day: string;
  zoom: 1 | 2 | 3;
  canPlan: boolean;
  stale: boolean;
  onDay: (day: string | undefined) => void;
  onZoom: (zoom: 1 | 2 | 3) => void;
  onUndo: () => void;
  onSendDay: () => void;
  onKey: () => void;
  onPlanner: () => void;
}

export function BoardBar({
  board,
  day,
  zoom,
  canPlan,
  stale,
  onDay,
  onZoom,
  onUndo,
  onSendDay,
  onKey,
  onPlanner,
}: Props) {
  const counts = summary(board);
  const today = isoDay(serverNow());
  const lastChange = useUndoable(canPlan).data?.[0]?.sentence;
  return (
    <div className="flex h-11 shrink-0 items-center gap-2 border-b border-hairline px-2">
      <Button
        rank="quiet"
        icon={<ChevronLeft size={16} />}
        aria-label="Day before"
        title="Day before  ["
        onClick={() => onDay(addDays(day, -1))}
      />
      <h1 className="w-28 text-center text-base font-semibold" aria-live="polite">
        {dayName(moment(day, 12 * 60))}
      </h1>
      <Button
        rank="quiet"
        icon={<ChevronRight size={16} />}
        aria-label="Day after"
        title="Day after  ]"
        onClick={() => onDay(addDays(day, 1))}
      />
      <Button disabled={day === today} title="Today  T" onClick={() => onDay(undefined)}>
        Today
      </Button>
      <p className="ml-2 flex items-center gap-3 text-sm whitespace-nowrap text-ink-soft" role="status">
        <span>
          <b className="figures text-ink">{counts.visits}</b> visits
        </span>
        <span className="flex items-center gap-1">
          <Lamp lamp="broken" /> <b className="figures text-ink">{counts.broken}</b> broken
        </span>
        <span className="flex items-center gap-1">
          <Lamp lamp="watch" /> <b className="figures text-ink">{counts.watch}</b> tight
        </span>
        {stale && <span>fetching…</span>}
      </p>
      <div className="ml-auto flex items-center gap-1.5">
        <Button
          rank="quiet"
          disabled={zoom === 1}
          icon={<ZoomOut size={16} />}
          aria-label="Show more hours"
          onClick={() => onZoom((zoom - 1) as 1 | 2)}
        />
        <Button
          rank="quiet"
          disabled={zoom === 3}
          icon={<ZoomIn size={16} />}
          aria-label="Show fewer hours, larger"
          onClick={() => onZoom((zoom + 1) as 2 | 3)}
        />
        <Button rank="quiet" icon={<KeyRound size={16} />} title="Key to the signs  ?" onClick={onKey}>
          Key
        </Button>
        {canPlan && (
          <>
            <Button icon={<Route size={16} />} title="Fill, plan, repair, put in order" onClick={onPlanner}>
              Planner
            </Button>
            <Button
              icon={<Undo2 size={16} />}
              disabled={lastChange === undefined}
              title={lastChange ? `Undo: ${lastChange}  (Ctrl Z)` : 'Nothing to undo'}
              onClick={onUndo}
            >
              Undo
            </Button>
            <Button rank="main" icon={<Send size={15} />} disabled={counts.unsent === 0} onClick={onSendDay}>
              {counts.unsent === 0 ? 'All sent' : `Send ${counts.unsent}`}
            </Button>
          </>
        )}
      </div>
    </div>
  );
}
