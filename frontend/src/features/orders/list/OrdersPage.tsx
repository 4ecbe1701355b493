import { Link, useNavigate, useSearch } from '@tanstack/react-router';
import { Download } from 'lucide-react';
import { useCallback, useEffect, useMemo, useState } from 'react';
import { toast } from 'sonner';
import { api, sentenceOf } from '@/api/client';
import type { SchemaOrderLineOut } from '@/api/types';
import { Button } from '@/design/Button';
import { DataTable, type Column } from '@/design/DataTable';
import { Notice } from '@/design/Notice';
import { may, useSession } from '@/features/people';
import { rowsOf } from '@/shared/pages';
import { clockTime, dayName, stamp, window_ } from '@/shared/time';
import { useOrders } from '../queries';
import { ByTag } from './ByTag';
import { Filters } from './Filters';
import { ordersSearch, COLUMNS, toFilters, type OrdersSearch } from './search';
import { Views } from './Views';

const SORTS: [string, string][] = [
  ['newest', 'newest first'],
  ['oldest', 'oldest first'],
  ['promise', 'by promise'],
  ['due', 'by deadline'],
  ['priority', 'by priority'],
  ['customer', 'by customer'],
];

/** In rem; what is not named has six. */
const WIDTHS: Record<string, number> = {
  title: 10,
  customer: 9.5,
  site: 9,
  address: 12,
  tags: 8,
  technicians: 8,
  job_type: 9,
  promise: 11.5,
  planned: 9,
  due: 9,
  made: 9,
  priority: 4,
  state: 5,
  number: 4.5,
};
const NO_TITLES: Record<string, string> = {};
const keyOf = (row: SchemaOrderLineOut) => row.id;

function columnOf(key: string, titles: Record<string, string>): Column<SchemaOrderLineOut> {
  return {
    key,
    title: titles[key] ?? key,
    width: WIDTHS[key] ?? 6,
    words: (row) => cell(row, key),
    ...(key === 'number' && { draw: (row: SchemaOrderLineOut) => <NumberLink row={row} /> }),
  };
}

const NumberLink = ({ row }: { row: SchemaOrderLineOut }) => (
  <Link
    to="/orders/$orderId"
    params={{ orderId: String(row.id) }}
    className="figures font-semibold underline"
  >
    {row.number}
  </Link>
);

interface ListProps {
  search: OrdersSearch;
  set: (changes: Partial<OrdersSearch>) => void;
}

/** All orders: search, filters, columns, saved views, and what is shown as a file. */
export function OrdersPage() {
  const search = useSearch({ from: '/office/orders' }) as OrdersSearch;
  const navigate = useNavigate({ from: '/orders' });
  const set = (changes: Partial<OrdersSearch>) =>
    void navigate({ search: (old: OrdersSearch) => ({ ...old, ...changes }), replace: true });
  const columns = search.columns ?? COLUMNS;
  const orders = useOrders(toFilters(search), search.sort ?? SORTS[0]![0]);
  const first = orders.data?.pages[0];
  const titles = first?.columns ?? NO_TITLES;
  const drawn = useMemo(() => columns.map((key) => columnOf(key, titles)), [columns, titles]);
  const { fetchNextPage, hasNextPage, isFetching } = orders;
  const onNearEnd = useCallback(() => {
    if (hasNextPage && !isFetching) void fetchNextPage();
  }, [fetchNextPage, hasNextPage, isFetching]);
  const rows = useMemo(() => rowsOf(orders.data), [orders.data]);
  const isEmpty = orders.isSuccess && rows.length === 0;
  return (
    <div className="grid h-full min-h-0 grid-cols-[13.5rem_minmax(0,1fr)]">
      <aside className="min-h-0 overflow-y-auto border-r border-hairline bg-sheet p-3" aria-label="Filters">
        <Views
          page="orders"
          all="All orders"
          query={search}
          onShow={(found) => void navigate({ search: ordersSearch.parse(found) })}
        />
        <Filters search={search} onChange={set} />
      </aside>
      <div className="flex min-h-0 flex-col">
        <Head search={search} set={set} total={first ? (first.total ?? 0) : null} titles={titles} />
        {search.amounts && <ByTag filters={toFilters(search)} />}
        {orders.isError && <Notice tone="bad">{sentenceOf(orders.error)}</Notice>}
        <DataTable
          label="Orders"
          columns={drawn}
          rows={rows}
          keyOf={keyOf}
          onNearEnd={onNearEnd}
          below={
            <>
              {orders.isFetchingNextPage && <p className="p-2 text-sm text-ink-soft">fetching more…</p>}
              {isEmpty && <Nothing narrowed={Object.keys(search).length > 0} />}
            </>
          }
        />
      </div>
    </div>
  );
}

const Nothing = ({ narrowed }: { narrowed: boolean }) => (
  <p className="p-4 text-ink-soft">
    {narrowed
      ? 'No order matches. Remove a filter.'
      : 'No order yet. The first one is made on the intake page, or as a one-off job.'}
  </p>
);

interface HeadProps extends ListProps {
  /** How many orders there are; null: not known yet. */
  total: number | null;
  titles: Record<string, string>;
}

function Head({ search, set, total, titles }: HeadProps) {
  const sort = search.sort ?? SORTS[0]![0];
  const columns = search.columns ?? COLUMNS;
  const canMake = may(useSession(), 'make_orders');
  return (
    <header className="flex items-center gap-2 border-b border-hairline px-3 py-2">
      <h1 className="text-lg font-semibold">Orders</h1>
      <span className="figures text-sm text-ink-soft" role="status">
        {total === null ? '…' : total.toLocaleString('en-GB')}
      </span>
      <SearchField search={search} set={set} />
      <select
        aria-label="Sort"
        className="rounded-sm border border-hairline bg-sheet px-2 py-1.5 text-sm"
        value={sort}
        onChange={(event) => set({ sort: event.target.value })}
      >
        {SORTS.map(([value, words]) => (
          <option key={value} value={value}>
            {words}
          </option>
        ))}
      </select>
      <ColumnChoice titles={titles} columns={columns} onChange={(chosen) => set({ columns: chosen })} />
      <Button
        icon={<Download size={15} />}
        onClick={() => void download(search, sort, columns).catch((error) => toast.error(sentenceOf(error)))}
      >
        CSV
      </Button>
      <Button
        aria-expanded={search.amounts === true}
        onClick={() => set({ amounts: search.amounts ? undefined : true })}
      >
        By tag
      </Button>
      {canMake && (
        <Link
          to="/orders/new"
          className="inline-flex min-h-8 items-center whitespace-nowrap rounded-sm border border-copper bg-copper px-3 text-sm text-copper-ink"
        >
          One-off job
        </Link>
      )}
    </header>
  );
}

/** Searches once one has stopped typing. */
function SearchField({ search, set }: ListProps) {
  const [text, setText] = useState(search.text ?? '');
  useEffect(() => {
    const timer = window.setTimeout(() => {
      if (text !== (search.text ?? '')) set({ text: text || undefined });
    }, 200);
    return () => window.clearTimeout(timer);
  });
  return (
    <input
      type="search"
      aria-label="Search orders"
      placeholder="number, customer, address, title, PO number, serial"
      className="min-w-0 flex-1 rounded-sm border border-hairline bg-sheet px-2 py-1.5"
      value={text}
      onChange={(event) => setText(event.target.value)}
    />
  );
}

function cell(row: SchemaOrderLineOut, column: string): string {
  if (column === 'promise')
    return row.promise_start && row.promise_end
      ? window_({ start: row.promise_start, end: row.promise_end })
      : '';
  if (column === 'due') return row.due ? stamp(row.due) : '';
  if (column === 'planned') return row.planned ? `${dayName(row.planned)} ${clockTime(row.planned)}` : '';
  if (column === 'technicians') return row.technicians.join(', ');
  if (column === 'made') return stamp(row.made);
  if (column === 'state') return row.state.replace('_', ' ');
  if (column === 'tags') return row.tags.join(', ');
  if (column.startsWith('extra.')) return String(row.extra[column.slice(6)] ?? '');
  return String((row as unknown as Record<string, unknown>)[column] ?? '');
}

async function download(search: OrdersSearch, sort: string, columns: string[]) {
  const answer = await api.POST('/api/v1/orders/export', {
    body: { filters: toFilters(search), sort, columns },
    parseAs: 'blob',
  });
  const link = document.createElement('a');
  link.href = URL.createObjectURL(answer.data as unknown as Blob);
  link.download = 'orders.csv';
  link.click();
  URL.revokeObjectURL(link.href);
}

function ColumnChoice({
  titles,
  columns,
  onChange,
}: {
  titles: Record<string, string>;
  columns: string[];
  onChange: (columns: string[]) => void;
}) {
  return (
    <details className="relative text-sm">
      <summary className="flex min-h-8 cursor-pointer items-center rounded-sm border border-hairline bg-sheet px-3">
        Columns
      </summary>
      <div className="absolute right-0 z-10 mt-1 w-52 space-y-0.5 border border-ink bg-sheet p-2">
        {Object.entries(titles).map(([column, title]) => (
          <label key={column} className="flex items-center gap-1.5">
            <input
              type="checkbox"
              checked={columns.includes(column)}
              disabled={columns.length === 1 && columns.includes(column)}
              onChange={(event) =>
                onChange(
                  event.target.checked ? [...columns, column] : columns.filter((other) => other !== column),
                )
              }
            />
            {title}
          </label>
        ))}
      </div>
    </details>
  );
}
