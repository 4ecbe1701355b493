import { useVirtualizer } from '@tanstack/react-virtual';
import { memo, useMemo, useRef } from 'react';
import { Lamp } from '@/design/Lamp';
import { StateSign } from '@/design/StateSign';
import { clockTime, dayName, isoDay, length, window_ } from '@/shared/time';
import { shownSpan, type Board, type BoardVisit } from '../model';

interface Props {
  board: Board;
  selectedId: number | null;
  chosen: ReadonlySet<number>;
  onVisit: (id: number) => void;
  onToggle: (id: number) => void;
}

const ROW_HEIGHT = 30;
const COLUMNS = 'grid-cols-[2rem_8.5rem_6rem_9rem_minmax(0,1fr)_minmax(0,1fr)_8rem_8rem]';

/** The visits of the days shown as a list, in the order in which they begin. */
export const VisitList = memo(function VisitList({ board, selectedId, chosen, onVisit, onToggle }: Props) {
  const scroller = useRef<HTMLDivElement>(null);
  const visits = useMemo(
    () => [...board.visits].sort((a, b) => shownSpan(a).start - shownSpan(b).start || a.id - b.id),
    [board.visits],
  );
  const names = useMemo(
    () => new Map(board.lanes.map((lane) => [lane.technician_id, lane.name])),
    [board.lanes],
  );
  // Its functions change with what is scrolled to.
  // eslint-disable-next-line react-hooks/incompatible-library
  const virtual = useVirtualizer({
    count: visits.length,
    getScrollElement: () => scroller.current,
    estimateSize: () => ROW_HEIGHT,
    overscan: 8,
  });
  return (
    <div ref={scroller} className="h-full overflow-auto text-sm" data-testid="visit-list">
      <div role="table" aria-label="Visits" aria-rowcount={visits.length + 1} className="min-w-[880px]">
        <div
          role="row"
          className={`sticky top-0 z-10 grid ${COLUMNS} gap-2 border-b border-hairline bg-paper px-2 py-1 text-xs text-ink-soft`}
        >
          {['', 'When', 'Order', 'Technician', 'Job', 'Site', 'Promise', 'State'].map((name) => (
            <span key={name} role="columnheader">
              {name}
            </span>
          ))}
        </div>
        <div className="relative" style={{ height: virtual.getTotalSize() }}>
          {virtual.getVirtualItems().map((item) => {
            const visit = visits[item.index]!;
            return (
              <div
                key={visit.id}
                role="row"
                aria-rowindex={item.index + 2}
                className={`absolute inset-x-0 top-0 grid ${COLUMNS} items-center gap-2 border-b border-hairline px-2 hover:bg-wash ${visit.id === selectedId ? 'bg-copper-wash' : ''}`}
                style={{ height: item.size, transform: `translateY(${item.start}px)` }}
              >
                <Cells
                  visit={visit}
                  technician={names.get(visit.technician_id ?? 0) ?? ''}
                  chosen={chosen.has(visit.id)}
                  onVisit={onVisit}
                  onToggle={onToggle}
                />
              </div>
            );
          })}
        </div>
      </div>
      {visits.length === 0 && <p className="p-6 text-ink-soft">No visit on these days.</p>}
    </div>
  );
});

interface CellsProps extends Pick<Props, 'onVisit' | 'onToggle'> {
  visit: BoardVisit;
  technician: string;
  chosen: boolean;
}

function Cells({ visit, technician, chosen, onVisit, onToggle }: CellsProps) {
  const span = shownSpan(visit);
  return (
    <>
      <span role="cell">
        <input
          type="checkbox"
          aria-label={`Choose ${visit.number}`}
          checked={chosen}
          onChange={() => onToggle(visit.id)}
        />
      </span>
      <span role="cell" className="truncate">
        {dayName(span.start)} <time>{clockTime(span.start)}</time>
      </span>
      <span role="cell">
        <button type="button" className="figures underline" onClick={() => onVisit(visit.id)}>
          {visit.number}
        </button>
      </span>
      <span role="cell" className="truncate">
        {technician}
      </span>
      <span role="cell" className="truncate">
        {visit.title} <span className="text-ink-soft">{length(span.end - span.start)}</span>
      </span>
      <span role="cell" className="truncate">
        {visit.site} <span className="text-ink-soft">{visit.area}</span>
      </span>
      <span role="cell" className="flex items-center gap-1 truncate">
        {visit.lamp !== 'dark' && <Lamp lamp={visit.lamp} />}
        {visit.promise ? (
          window_(visit.promise, isoDay(span.start))
        ) : (
          <span className="text-ink-soft">none</span>
        )}
      </span>
      <span role="cell">
        <StateSign state={visit.state} />
      </span>
    </>
  );
}
