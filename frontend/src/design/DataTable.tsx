import { createColumnHelper, tableFeatures, useTable } from '@tanstack/react-table';
import { useVirtualizer } from '@tanstack/react-virtual';
import { useEffect, useMemo, useRef, type KeyboardEvent, type ReactNode } from 'react';

export interface Column<Row> {
  key: string;
  title: string;
  /** How wide it is at least, in rem; what is over is shared. */
  width: number;
  /** As it is read; cut short where there is no room, and said whole under the pointer. */
  words: (row: Row) => string;
  /** As it is drawn, where that is more than the words. */
  draw?: (row: Row) => ReactNode;
}

interface Props<Row> {
  label: string;
  columns: Column<Row>[];
  rows: Row[];
  keyOf: (row: Row) => string | number;
  /** The last row is near: fetch more, if there are. */
  onNearEnd?: () => void;
  /** What stands below the last row, such as "fetching…" or that there is nothing. */
  below?: ReactNode;
}

const ROW_HEIGHT = 32;
/** So many rows before the end the next ones are asked for. */
const NEAR = 20;
const features = tableFeatures({});

function useRows<Row extends object>({ columns, rows, keyOf }: Props<Row>) {
  const helper = useMemo(() => createColumnHelper<typeof features, Row>(), []);
  const defined = useMemo(
    () =>
      columns.map((column) =>
        helper.display({
          id: column.key,
          header: column.title,
          cell: ({ row }) => column.draw?.(row.original) ?? column.words(row.original),
        }),
      ),
    [columns, helper],
  );
  return useTable({ features, columns: defined, data: rows, getRowId: (row) => String(keyOf(row)) });
}

/** Rows in columns, however many: only those that can be seen are drawn. Up and down go from row to row. */
export function DataTable<Row extends object>(props: Props<Row>) {
  const { label, columns, rows, onNearEnd, below } = props;
  const frame = useRef<HTMLDivElement>(null);
  const table = useRows(props);
  const found = table.getRowModel().rows;
  const virtual = useVirtualizer({
    count: found.length,
    getScrollElement: () => frame.current,
    estimateSize: () => ROW_HEIGHT,
    getItemKey: (index) => found[index]!.id,
    overscan: 10,
  });
  const shown = virtual.getVirtualItems();
  const last = shown.at(-1)?.index ?? -1;
  useEffect(() => {
    if (last >= 0 && last >= found.length - NEAR) onNearEnd?.();
  }, [last, found.length, onNearEnd]);
  const onKeyDown = (event: KeyboardEvent) => {
    const next = besideFocused(event, frame.current);
    if (!next) return;
    event.preventDefault();
    virtual.scrollToIndex(next.index);
    next.element.focus();
  };
  const width = widthOf(columns);
  return (
    <div ref={frame} className="min-h-0 flex-1 overflow-auto">
      <table
        className="w-full table-fixed text-left text-sm"
        style={{ minWidth: `${width}rem` }}
        aria-label={label}
        aria-rowcount={rows.length + 1}
      >
        <Head columns={columns} width={width} />
        <tbody onKeyDown={onKeyDown}>
          <Gap height={shown[0]?.start ?? 0} />
          {shown.map(({ index }) => (
            <tr
              key={found[index]!.id}
              data-index={index}
              aria-rowindex={index + 2}
              className="border-b border-hairline hover:bg-wash"
              style={{ height: ROW_HEIGHT }}
            >
              {found[index]!.getAllCells().map((cell, place) => (
                <td key={cell.id} className="truncate px-2" title={columns[place]!.words(rows[index]!)}>
                  <table.FlexRender cell={cell} />
                </td>
              ))}
            </tr>
          ))}
          <Gap height={virtual.getTotalSize() - (shown.at(-1)?.end ?? 0)} />
        </tbody>
      </table>
      {below}
    </div>
  );
}

const widthOf = (columns: readonly { width: number }[]) =>
  columns.reduce((sum, column) => sum + column.width, 0);

interface HeadProps {
  columns: readonly { key: string; title: string; width: number }[];
  width: number;
}

const Head = ({ columns, width }: HeadProps) => (
  <>
    <colgroup>
      {columns.map((column) => (
        <col key={column.key} style={{ width: `${(100 * column.width) / width}%` }} />
      ))}
    </colgroup>
    <thead className="sticky top-0 z-10 bg-wash text-xs text-ink-soft">
      <tr>
        {columns.map((column) => (
          <th key={column.key} scope="col" className="truncate px-2 py-1 font-semibold">
            {column.title}
          </th>
        ))}
      </tr>
    </thead>
  </>
);

/** What up or down leads to from the row in which the focus is. */
function besideFocused(event: KeyboardEvent, frame: HTMLElement | null) {
  const step = event.key === 'ArrowDown' ? 1 : event.key === 'ArrowUp' ? -1 : 0;
  const row = (event.target as Element).closest<HTMLElement>('tr[data-index]');
  if (!step || !row) return null;
  const index = Number(row.dataset.index) + step;
  const element = frame?.querySelector<HTMLElement>(`tr[data-index="${index}"] :is(a, button)`);
  return element ? { index, element } : null;
}

/** The place of rows that are not drawn. */
const Gap = ({ height }: { height: number }) => (height > 0 ? <tr aria-hidden style={{ height }} /> : null);
