import { useVirtualizer } from '@tanstack/react-virtual';
import { memo, useMemo, useRef, type CSSProperties } from 'react';
import { Lamp } from '@/design/Lamp';
import { StateSign } from '@/design/StateSign';
import { clockTime, dayName, isoDay, length, window_ } from '@/shared/time';
import { shownSpan, type Board } from '../model';
import type { ListSearch } from '../search';
import { between, listed, type ListColumn, type Listed } from './listed';
import { ListFilters } from './ListFilters';

interface Props {
  board: Board;
  search: ListSearch;
  change: (changes: Partial<ListSearch>) => void;
  selectedId: number | null;
  chosen: ReadonlySet<number>;
  onVisit: (id: number) => void;
  onChoose: (ids: number[], on: boolean) => void;
}

const ROW_HEIGHT = 30;
const GRID =
  'grid grid-cols-[1.5rem_var(--when)_4.5rem_7.5rem_minmax(0,1fr)_minmax(0,1fr)_8rem_7rem_minmax(0,1.2fr)] gap-2 px-2';
const HEADS: [ListColumn, string][] = [
  ['when', 'When'],
  ['number', 'Order'],
  ['technician', 'Technician'],
  ['job', 'Job'],
  ['site', 'Site'],
  ['promise', 'Promise'],
  ['state', 'State'],
  ['broken', 'Broken'],
];

/** The visits of the days shown as a list: filtered, sorted by any column, chosen one by one or as a range. */
export const VisitList = memo(function VisitList(props: Props) {
  const { board, search, change, selectedId, chosen, onVisit, onChoose } = props;
  const scroller = useRef<HTMLDivElement>(null);
  const rows = useMemo(() => listed(board, search), [board, search]);
  const last = useRef<number | null>(null);
  const severalDays = board.days.length > 1;
  // Its functions change with what is scrolled to.
  // eslint-disable-next-line react-hooks/incompatible-library
  const virtual = useVirtualizer({
    count: rows.length,
    getScrollElement: () => scroller.current,
    estimateSize: () => ROW_HEIGHT,
    overscan: 8,
  });
  const choose = (id: number, on: boolean, range: boolean) => {
    onChoose(range ? between(rows, last.current, id) : [id], on);
    last.current = id;
  };
  return (
    <div className="flex h-full min-h-0 flex-col">
      <ListFilters board={board} search={search} shown={rows.length} change={change} />
      <div ref={scroller} className="min-h-0 flex-1 overflow-auto text-sm" data-testid="visit-list">
        <div
          role="table"
          aria-label="Visits"
          aria-rowcount={rows.length + 1}
          className="min-w-[900px]"
          style={{ '--when': severalDays ? '8.5rem' : '3rem' } as CSSProperties}
        >
          <Heads rows={rows} search={search} change={change} chosen={chosen} onChoose={onChoose} />
          <div className="relative" style={{ height: virtual.getTotalSize() }}>
            {virtual.getVirtualItems().map((item) => {
              const row = rows[item.index]!;
              return (
                <div
                  key={row.visit.id}
                  role="row"
                  aria-rowindex={item.index + 2}
                  className={`absolute inset-x-0 top-0 items-center border-b border-hairline hover:bg-wash ${GRID} ${row.visit.id === selectedId ? 'bg-copper-wash' : ''}`}
                  style={{ height: item.size, transform: `translateY(${item.start}px)` }}
                >
                  <Cells
                    row={row}
                    dated={severalDays}
                    chosen={chosen.has(row.visit.id)}
                    onVisit={onVisit}
                    onChoose={choose}
                  />
                </div>
              );
            })}
          </div>
        </div>
        {rows.length === 0 && <Nothing none={board.visits.length === 0} />}
      </div>
    </div>
  );
});

const Nothing = ({ none }: { none: boolean }) => (
  <p className="p-6 text-ink-soft">
    {none ? 'No visit on these days.' : 'No visit on these days matches the filter.'}
  </p>
);

type HeadsProps = Pick<Props, 'search' | 'change' | 'chosen' | 'onChoose'> & { rows: Listed[] };

function Heads({ rows, search, change, chosen, onChoose }: HeadsProps) {
  const by = search.by ?? 'when';
  const all = rows.length > 0 && rows.every((row) => chosen.has(row.visit.id));
  return (
    <div
      role="row"
      className={`sticky top-0 z-10 border-b border-hairline bg-paper py-1 text-xs text-ink-soft ${GRID}`}
    >
      <span role="columnheader">
        <input
          type="checkbox"
          aria-label={all ? 'Choose none' : 'Choose all that are listed'}
          checked={all}
          disabled={rows.length === 0}
          onChange={() =>
            onChoose(
              rows.map((row) => row.visit.id),
              !all,
            )
          }
        />
      </span>
      {HEADS.map(([column, name]) => (
        <span
          key={column}
          role="columnheader"
          aria-sort={by === column ? (search.down ? 'descending' : 'ascending') : 'none'}
        >
          <button
            type="button"
            className={`hover:underline ${by === column ? 'font-semibold text-ink' : ''}`}
            onClick={() => change({ by: column, down: by === column && !search.down ? true : undefined })}
          >
            {name}
            {by === column && <span aria-hidden>{search.down ? ' ↓' : ' ↑'}</span>}
          </button>
        </span>
      ))}
    </div>
  );
}

interface CellsProps {
  row: Listed;
  /** With the day, when several are listed. */
  dated: boolean;
  chosen: boolean;
  onVisit: (id: number) => void;
  onChoose: (id: number, on: boolean, range: boolean) => void;
}

function Cells({ row: { visit, technician, broken }, dated, chosen, onVisit, onChoose }: CellsProps) {
  const span = shownSpan(visit);
  return (
    <>
      <span role="cell">
        <input
          type="checkbox"
          aria-label={`Choose ${visit.number}`}
          title="With Shift: all from the last one on"
          checked={chosen}
          onChange={(event) =>
            onChoose(visit.id, event.target.checked, (event.nativeEvent as MouseEvent).shiftKey)
          }
        />
      </span>
      <span role="cell" className="truncate">
        {dated && dayName(span.start)} <time>{clockTime(span.start)}</time>
      </span>
      <span role="cell">
        <button type="button" className="figures underline" onClick={() => onVisit(visit.id)}>
          {visit.number}
        </button>
      </span>
      <span role="cell" className="truncate">
        {technician}
      </span>
      <span role="cell" className="truncate" title={visit.title}>
        {visit.title} <span className="text-ink-soft">{length(span.end - span.start)}</span>
      </span>
      <span role="cell" className="truncate" title={visit.site}>
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
      <span role="cell" className="truncate" title={broken.join('\n')}>
        {broken.length > 1 && <b className="figures">{broken.length} </b>}
        {broken.join('; ')}
      </span>
    </>
  );
}
