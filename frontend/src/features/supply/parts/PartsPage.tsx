import { Link, useNavigate, useSearch } from '@tanstack/react-router';
import { useCallback, useEffect, useMemo, useState } from 'react';
import { sentenceOf, urlOf } from '@/api/client';
import type { SchemaPartLineOut } from '@/api/types';
import { DataTable, type Column } from '@/design/DataTable';
import { Notice } from '@/design/Notice';
import { may, useSession } from '@/features/people';
import { useCurrency } from '@/features/pricing';
import { useStockMatters, useSuppliers } from '@/features/stock';
import { price } from '@/shared/money';
import { rowsOf } from '@/shared/pages';
import { dayName, moment } from '@/shared/time';
import { filtersOf, usePartList } from '../queries';
import type { StockSearch } from '../search';

const ONLY: [NonNullable<StockSearch['only']>, string][] = [
  ['below', 'below their least level'],
  ['untidy', 'to be tidied'],
  ['tracked', 'with serial numbers or batches'],
  ['hazardous', 'hazardous'],
  ['oversized', 'oversized'],
  ['retired', 'no longer used'],
];

/** All parts: what is on hand, spoken for, free and coming. */
export function PartsPage() {
  const search = useSearch({ from: '/office/stock/parts' }) as StockSearch;
  const navigate = useNavigate({ from: '/stock/parts' });
  const set = (changes: Partial<StockSearch>) =>
    void navigate({ search: (old: StockSearch) => ({ ...old, ...changes }), replace: true });
  const list = usePartList(search);
  const rows = useMemo(() => rowsOf(list.data), [list.data]);
  const { fetchNextPage, hasNextPage, isFetching } = list;
  const onNearEnd = useCallback(() => {
    if (hasNextPage && !isFetching) void fetchNextPage();
  }, [fetchNextPage, hasNextPage, isFetching]);
  const currency = useCurrency();
  const seesCosts = may(useSession(), 'see_margin');
  const drawn = useMemo(() => columns(currency, seesCosts), [currency, seesCosts]);
  return (
    <div className="flex h-full min-h-0 flex-col">
      <Head search={search} set={set} total={list.data?.pages[0]?.total ?? null} />
      {list.isError && <Notice tone="bad">{sentenceOf(list.error)}</Notice>}
      <WrongLevels />
      <DataTable
        label="Parts"
        columns={drawn}
        rows={rows}
        keyOf={(row) => row.code}
        onNearEnd={onNearEnd}
        below={
          (list.isPending || (list.isSuccess && rows.length === 0)) && (
            <p className="p-4 text-ink-soft">
              {list.isPending
                ? 'Looking for parts…'
                : 'No part here. Add them one by one with “New part”, or many from a file: Set-up, From files.'}
            </p>
          )
        }
      />
    </div>
  );
}

interface HeadProps {
  search: StockSearch;
  set: (changes: Partial<StockSearch>) => void;
  total: number | null;
}

function Head({ search, set, total }: HeadProps) {
  const canMove = may(useSession(), 'move_stock');
  const [text, setText] = useState(search.text ?? '');
  useEffect(() => {
    const timer = setTimeout(() => text !== (search.text ?? '') && set({ text: text || undefined }), 250);
    return () => clearTimeout(timer);
  });
  return (
    <header className="flex flex-wrap items-center gap-2 border-b border-hairline px-3 py-2">
      <h1 className="text-lg font-semibold">Parts</h1>
      <span className="figures text-sm text-ink-soft" role="status">
        {total === null ? '…' : total.toLocaleString('en-GB')}
      </span>
      <input
        type="search"
        aria-label="Search parts"
        placeholder="name, number, GTIN, model"
        className={`w-64 ${BOX}`}
        value={text}
        onChange={(event) => setText(event.target.value)}
      />
      <Choices search={search} set={set} />
      <a className="ml-auto text-sm underline" href={urlOf('/api/v1/part-list.csv', {}, csvOf(search))}>
        As a table (CSV)
      </a>
      {canMove && (
        <Link
          to="/stock/parts/new"
          className="inline-flex min-h-8 items-center rounded-sm border border-copper bg-copper px-3 text-sm text-copper-ink"
        >
          New part
        </Link>
      )}
    </header>
  );
}

const BOX = 'rounded-sm border border-hairline bg-sheet px-2 py-1.5 text-sm';

/** Which parts, of whom, in which order. */
function Choices({ search, set }: Omit<HeadProps, 'total'>) {
  const suppliers = useSuppliers().data ?? [];
  return (
    <>
      <select
        aria-label="Only parts"
        className={BOX}
        value={search.only ?? ''}
        onChange={(event) => set({ only: (event.target.value || undefined) as StockSearch['only'] })}
      >
        <option value="">all that are used</option>
        {ONLY.map(([value, words]) => (
          <option key={value} value={value}>
            {words}
          </option>
        ))}
      </select>
      <select
        aria-label="Supplier"
        className={BOX}
        value={search.supplier ?? ''}
        onChange={(event) => set({ supplier: Number(event.target.value) || undefined })}
      >
        <option value="">of every supplier</option>
        {suppliers.map((row) => (
          <option key={row.id} value={row.id}>
            {row.name}
          </option>
        ))}
      </select>
      <select
        aria-label="Sort"
        className={BOX}
        value={search.sort ?? 'name'}
        onChange={(event) => set({ sort: event.target.value as StockSearch['sort'] })}
      >
        <option value="name">by name</option>
        <option value="number">by number</option>
        <option value="supplier">by supplier</option>
      </select>
    </>
  );
}

const csvOf = (search: StockSearch) =>
  Object.fromEntries(Object.entries(filtersOf(search)).filter(([, value]) => value !== ''));

/** Levels that are not what their movements come to, or below zero: loud, for they must not be. */
function WrongLevels() {
  const matters = useStockMatters().data?.filter((row) => row.kind !== 'untidy') ?? [];
  if (matters.length === 0) return null;
  return (
    <Notice tone="warn">
      {matters.slice(0, 5).map((row) => (
        <p key={`${row.place_id} ${row.code}`}>
          <b>
            {row.part}, {row.place}:
          </b>{' '}
          {row.sentence}
        </p>
      ))}
    </Notice>
  );
}

const coming = (row: SchemaPartLineOut) => {
  const all = row.figures.coming.reduce((sum, one) => sum + one.quantity, 0);
  const next = row.figures.coming[0]?.expected_on;
  return all ? `${all}${next ? `, ${dayName(moment(next, 720))}` : ''}` : '';
};

const columns = (currency: string, seesCosts: boolean) => [
  ...WHAT,
  ...FIGURES,
  ...(seesCosts ? [costIn(currency)] : []),
  MARKS,
];

const WHAT: Column<SchemaPartLineOut>[] = [
  {
    key: 'number',
    title: 'Number',
    width: 5,
    words: (row) => row.number,
    draw: (row) => <span className="figures text-ink-soft">{row.number}</span>,
  },
  {
    key: 'name',
    title: 'Part',
    width: 14,
    words: (row) => row.name,
    draw: (row) => (
      <Link
        to="/stock/parts/$code"
        params={{ code: row.code }}
        className={`font-semibold underline ${row.retired ? 'text-ink-soft line-through' : ''}`}
      >
        {row.name}
      </Link>
    ),
  },
  { key: 'supplier', title: 'Supplier', width: 9, words: (row) => row.supplier },
];

const FIGURES: Column<SchemaPartLineOut>[] = [
  figure('on_hand', 'On hand', (row) => String(row.figures.on_hand)),
  figure('reserved', 'Reserved', (row) => (row.figures.reserved ? String(row.figures.reserved) : '')),
  {
    key: 'free',
    title: 'Free',
    width: 4,
    words: (row) => String(row.figures.free),
    draw: (row) => (
      <span className={`figures font-semibold ${row.figures.free < 0 ? 'text-bad' : ''}`}>
        {row.figures.free}
      </span>
    ),
  },
  { key: 'coming', title: 'Coming', width: 7, words: coming },
  {
    key: 'below',
    title: 'Least level',
    width: 7,
    words: (row) => (row.below ? `below at ${row.below} place${row.below > 1 ? 's' : ''}` : ''),
    draw: (row) =>
      row.below ? (
        <span className="font-semibold text-warn">
          ▾ below at {row.below} place{row.below > 1 ? 's' : ''}
        </span>
      ) : null,
  },
];

const costIn = (currency: string): Column<SchemaPartLineOut> => ({
  key: 'cost',
  title: 'Cost',
  width: 5,
  words: (row) => (row.cost == null ? '' : price(row.cost, currency)),
  draw: (row) => (
    <span className="figures text-ink-soft">{row.cost == null ? '' : price(row.cost, currency)}</span>
  ),
});

const MARKS: Column<SchemaPartLineOut> = {
  key: 'marks',
  title: '',
  width: 6,
  words: (row) =>
    [row.untidy && 'to be tidied', row.hazardous && 'hazardous', row.oversized && 'oversized']
      .filter(Boolean)
      .join(', '),
};

function figure(
  key: string,
  title: string,
  words: (row: SchemaPartLineOut) => string,
): Column<SchemaPartLineOut> {
  return { key, title, width: 4.5, words, draw: (row) => <span className="figures">{words(row)}</span> };
}
