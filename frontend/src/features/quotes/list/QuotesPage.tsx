import { Link, useNavigate, useSearch } from '@tanstack/react-router';
import { useCallback, useEffect, useMemo, useState } from 'react';
import { sentenceOf } from '@/api/client';
import type { SchemaQuoteRowOut, SchemaQuotesOut } from '@/api/types';
import { Button } from '@/design/Button';
import { DataTable, type Column } from '@/design/DataTable';
import { Notice } from '@/design/Notice';
import { Views } from '@/features/orders';
import { may, useSession } from '@/features/people';
import { useCurrency } from '@/features/pricing';
import { price } from '@/shared/money';
import { rowsOf } from '@/shared/pages';
import { dayOfAnyYear, moment } from '@/shared/time';
import { MARKS } from '../model';
import { useQuotes } from '../queries';
import { Filters } from './Filters';
import { Pipeline } from './Pipeline';
import { quotesSearch, toFilters, type QuotesSearch } from './search';

const SORTS: [string, string][] = [
  ['newest', 'newest first'],
  ['value', 'largest first'],
  ['chance', 'likeliest first'],
  ['runs out', 'by what runs out'],
  ['customer', 'by customer'],
];

/** All quotes: what each is worth, what it waits for, and how they come through. */
export function QuotesPage() {
  const search = useSearch({ from: '/office/quotes' }) as QuotesSearch;
  const navigate = useNavigate({ from: '/quotes' });
  const set = (changes: Partial<QuotesSearch>) =>
    void navigate({ search: (old: QuotesSearch) => ({ ...old, ...changes }), replace: true });
  const quotes = useQuotes(toFilters(search), search.sort ?? SORTS[0]![0]);
  const first = quotes.data?.pages[0];
  const rows = useMemo(() => rowsOf(quotes.data), [quotes.data]);
  const { fetchNextPage, hasNextPage, isFetching } = quotes;
  const onNearEnd = useCallback(() => {
    if (hasNextPage && !isFetching) void fetchNextPage();
  }, [fetchNextPage, hasNextPage, isFetching]);
  return (
    <div className="grid h-full min-h-0 grid-cols-[13.5rem_minmax(0,1fr)]">
      <aside className="min-h-0 overflow-y-auto border-r border-hairline bg-sheet p-3" aria-label="Filters">
        <Views
          page="quotes"
          all="All quotes"
          query={search}
          onShow={(found) => void navigate({ search: quotesSearch.parse(found) })}
        />
        <Filters search={search} onChange={set} />
        {first && <Reasons found={first} />}
      </aside>
      <div className="flex min-h-0 flex-col">
        <Head search={search} set={set} total={first ? (first.total ?? 0) : null} />
        {quotes.isError && <Notice tone="bad">{sentenceOf(quotes.error)}</Notice>}
        {first && <Pipeline sums={first.sums} search={search} onChange={set} />}
        {search.as === 'columns' ? (
          <Board rows={rows} onMore={hasNextPage ? onNearEnd : null} />
        ) : (
          <Table rows={rows} onNearEnd={onNearEnd} isEmpty={quotes.isSuccess && rows.length === 0} />
        )}
      </div>
    </div>
  );
}

interface HeadProps {
  search: QuotesSearch;
  set: (changes: Partial<QuotesSearch>) => void;
  total: number | null;
}

function Head({ search, set, total }: HeadProps) {
  const canMake = may(useSession(), 'make_quotes');
  const [text, setText] = useState(search.text ?? '');
  useEffect(() => {
    const timer = setTimeout(() => text !== (search.text ?? '') && set({ text: text || undefined }), 250);
    return () => clearTimeout(timer);
  });
  return (
    <header className="flex items-center gap-2 border-b border-hairline px-3 py-2">
      <h1 className="text-lg font-semibold">Quotes</h1>
      <span className="figures text-sm text-ink-soft" role="status">
        {total === null ? '…' : total.toLocaleString('en-GB')}
      </span>
      <input
        type="search"
        aria-label="Search quotes"
        placeholder="number, title, customer, site"
        className="w-64 rounded-sm border border-hairline bg-sheet px-2 py-1.5 text-sm"
        value={text}
        onChange={(event) => setText(event.target.value)}
      />
      <select
        aria-label="Sort"
        className="rounded-sm border border-hairline bg-sheet px-2 py-1.5 text-sm"
        value={search.sort ?? 'newest'}
        onChange={(event) => set({ sort: event.target.value })}
      >
        {SORTS.map(([value, words]) => (
          <option key={value} value={value}>
            {words}
          </option>
        ))}
      </select>
      <Button
        aria-pressed={search.as === 'columns'}
        onClick={() => set({ as: search.as === 'columns' ? undefined : 'columns' })}
      >
        By state
      </Button>
      {canMake && (
        <Link
          to="/quotes/new"
          className="ml-auto inline-flex min-h-8 items-center rounded-sm border border-copper bg-copper px-3 text-sm text-copper-ink"
        >
          New quote
        </Link>
      )}
    </header>
  );
}

const day = (at: number | null | undefined) => (at ? dayOfAnyYear(at) : '');
const waitsFor = (row: SchemaQuoteRowOut) =>
  [...row.waits, row.reminder ? `⚑ ${dayOfAnyYear(row.reminder.at)} ${row.reminder.text}` : '', row.why]
    .filter(Boolean)
    .join(', ');

const columns = (currency: string): Column<SchemaQuoteRowOut>[] => [
  {
    key: 'number',
    title: 'Quote',
    width: 5,
    words: (row) => row.number,
    draw: (row) => <NumberLink row={row} />,
  },
  {
    key: 'state',
    title: 'State',
    width: 6,
    words: (row) => `${MARKS[row.state]} ${row.state}${row.revising ? ' (new version)' : ''}`,
  },
  { key: 'title', title: 'Title', width: 10, words: (row) => row.title },
  {
    key: 'customer',
    title: 'Customer',
    width: 9,
    words: (row) => [row.customer, row.site].filter(Boolean).join(', '),
  },
  { key: 'gross', title: 'With tax', width: 5.5, words: (row) => price(row.gross, currency) },
  { key: 'chance', title: 'Chance', width: 4, words: (row) => `${row.chance} %` },
  { key: 'author', title: 'Author', width: 5.5, words: (row) => row.author },
  { key: 'sent', title: 'Sent', width: 6, words: (row) => day(row.sent) },
  {
    key: 'valid',
    title: 'Valid until',
    width: 6,
    words: (row) => (row.valid_until ? dayOfAnyYear(moment(row.valid_until, 720)) : ''),
  },
  { key: 'waits', title: 'Waits for, or why', width: 9, words: waitsFor },
];

const NumberLink = ({ row }: { row: SchemaQuoteRowOut }) => (
  <Link
    to="/quotes/$quoteId"
    params={{ quoteId: String(row.id) }}
    className="figures font-semibold underline"
  >
    {row.number}
  </Link>
);

interface TableProps {
  rows: SchemaQuoteRowOut[];
  onNearEnd: () => void;
  isEmpty: boolean;
}

function Table({ rows, onNearEnd, isEmpty }: TableProps) {
  const currency = useCurrency();
  const drawn = useMemo(() => columns(currency), [currency]);
  return (
    <DataTable
      label="Quotes"
      columns={drawn}
      rows={rows}
      keyOf={(row) => row.id}
      onNearEnd={onNearEnd}
      below={
        isEmpty && (
          <p className="p-4 text-ink-soft">
            No quote here. A quote begins with “New quote”, from a request, or on a customer’s or an order’s
            page.
          </p>
        )
      }
    />
  );
}

/** The same quotes in a column for each state. */
function Board({ rows, onMore }: { rows: SchemaQuoteRowOut[]; onMore: (() => void) | null }) {
  const currency = useCurrency();
  const states = ['draft', 'sent', 'approved', 'refused', 'expired', 'withdrawn'] as const;
  return (
    <div className="grid min-h-0 flex-1 grid-cols-6 divide-x divide-hairline overflow-y-auto">
      {states.map((state) => (
        <ul key={state} aria-label={state} className="divide-y divide-hairline text-sm">
          {rows
            .filter((row) => row.state === state)
            .map((row) => (
              <li key={row.id} className="p-2">
                <NumberLink row={row} />{' '}
                <span className="figures float-right">{price(row.gross, currency)}</span>
                <p className="truncate">{row.title}</p>
                <p className="truncate text-ink-soft">{row.customer}</p>
                {waitsFor(row) && <p className="truncate text-xs">{waitsFor(row)}</p>}
              </li>
            ))}
        </ul>
      ))}
      {onMore && (
        <div className="col-span-6 p-2">
          <Button onClick={onMore}>Older ones</Button>
        </div>
      )}
    </div>
  );
}

/** Why quotes came to something, or to nothing. */
function Reasons({ found }: { found: SchemaQuotesOut }) {
  const currency = useCurrency();
  if (found.lost.length === 0) return null;
  return (
    <section aria-label="Lost for" className="mt-4 text-sm">
      <h2 className="text-xs font-semibold text-ink-soft">Lost for</h2>
      <ul>
        {found.lost.slice(0, 8).map((row) => (
          <li key={row.why} className="flex gap-1">
            <span className="flex-1 truncate">{row.why || 'no reason noted'}</span>
            <span className="figures">{row.count}</span>
            <span className="figures w-20 text-right text-ink-soft">
              {price(row.net, currency).split('.')[0]}
            </span>
          </li>
        ))}
      </ul>
    </section>
  );
}
