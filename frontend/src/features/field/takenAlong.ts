import { useQuery, type Query, type QueryClient } from '@tanstack/react-query';
import type { SchemaFieldDayOut } from '@/api/types';
import { deviceNow, serverNow } from '@/shared/clock';
import { onChange } from '@/shared/live';
import { isoDay } from '@/shared/time';
import {
  dayQuery,
  fieldKey,
  itemsQuery,
  logQuery,
  ownDayQuery,
  ownLogQuery,
  ownVisitQuery,
  partsQuery,
  vanQuery,
} from './queries';
import type { FieldPhone } from './sync/phone';
import type { Item } from './sync/taken';

/** Changes come in bunches; the office's is asked for when they have calmed down. */
const CALM = 1_500;
const EVERY = 10 * 60_000;
const CONCERNED = new Set(['visit', 'resync', 'phone', 'stock', 'day log']);
export const takenKey = ['taken'] as const;

/** Lists to look things up in; each is there once. */
const LISTS: Record<string, readonly unknown[]> = {
  parts: partsQuery.queryKey,
  van: vanQuery.queryKey,
  items: itemsQuery.queryKey,
};

/** Where a thing that was taken along belongs among what pages ask for. */
function queryOf({ name }: Item) {
  const [kind, key] = name.split(' ') as [string, string];
  if (kind in LISTS) return LISTS[kind]!;
  if (kind === 'day') return dayQuery(key).queryKey;
  if (kind === 'log') return logQuery(key).queryKey;
  return kind === 'visit' ? ownVisitQuery(Number(key)).queryKey : null;
}

/** What a page asked for, as it is called among what was taken along. */
function nameOf([feature, kind, key]: readonly unknown[]): string | null {
  if (feature !== fieldKey[0] || key === null) return null;
  if (typeof kind === 'string' && kind in LISTS) return kind;
  return kind === 'day' || kind === 'log' || kind === 'visit' ? `${kind} ${String(key)}` : null;
}

/** Of the days on the phone the one that is running: the last that has begun, else the first. */
export function runningDay(days: readonly SchemaFieldDayOut[], today: string): SchemaFieldDayOut | undefined {
  const sorted = [...days].sort((one, other) => one.day.localeCompare(other.day));
  return sorted.filter(({ day }) => day <= today).at(-1) ?? sorted[0];
}

/**
 * Shows what is on the phone.
 *
 * @param items all of it
 * @param fresh which of it has just come, and when it was asked for (milliseconds): newer than what is shown, unless
 *   that was fetched since. Of the rest only what is not shown yet is.
 */
export function show(
  client: QueryClient,
  items: readonly Item[],
  fresh?: { names: Set<string>; at: number },
) {
  const put = (queryKey: readonly unknown[], { name, content }: Item) => {
    const known = client.getQueryState(queryKey);
    const newer = fresh?.names.has(name) && (known?.dataUpdatedAt ?? 0) < fresh.at;
    // What was taken along before gives way to whatever is fetched.
    if (newer) client.setQueryData(queryKey, content);
    else if (known?.data === undefined) client.setQueryData(queryKey, content, { updatedAt: 1 });
  };
  for (const item of items) {
    const queryKey = queryOf(item);
    if (queryKey) put(queryKey, item);
  }
  const days = items.filter(({ name }) => name.startsWith('day '));
  const running = runningDay(
    days.map(({ content }) => content as SchemaFieldDayOut),
    isoDay(serverNow()),
  );
  const item = days.find(({ content }) => content === running);
  if (item) put(ownDayQuery.queryKey, item);
  // Of days only the running one has its log here.
  const log = items.find(({ name }) => name.startsWith('log '));
  if (log) put(ownLogQuery.queryKey, log);
}

/** What somebody has looked at is there again without a signal, also if it was not taken along yet. */
function keepLookedAt(phone: FieldPhone, client: QueryClient): () => void {
  const keep = ({ queryKey, state }: Query) => {
    const name = nameOf(queryKey);
    // Not to be kept is no reason not to be shown: what is fetched next is kept again.
    if (name && state.data) void phone.taken.add(name, state.data).catch(() => undefined);
  };
  const cache = client.getQueryCache();
  cache.findAll({ queryKey: fieldKey }).forEach(keep);
  return cache.subscribe((event) => {
    if (event.type === 'updated' && event.action.type === 'success' && !event.action.manual)
      keep(event.query);
  });
}

/**
 * Shows what is on this phone at once, and keeps it fresh in the background while there is a signal.
 *
 * @returns what ends it
 */
export function keepFresh(phone: FieldPhone, client: QueryClient, whenClosed: () => void): () => void {
  let over = false;
  let timer = 0;
  client.setQueryDefaults(fieldKey, { gcTime: Infinity });
  const shown = async (fresh?: { names: Set<string>; at: number }) => {
    const items = await phone.taken.all();
    if (!over) show(client, items, fresh);
    await client.invalidateQueries({ queryKey: takenKey });
  };
  const refresh = async () => {
    const at = deviceNow();
    const names = new Set((await phone.takeAlong()).map(({ name }) => name));
    await shown({ names, at });
  };
  const soon = () => {
    window.clearTimeout(timer);
    // Without a signal, what is here stays as it is.
    timer = window.setTimeout(() => void refresh().catch(() => phone.closed && whenClosed()), CALM);
  };
  const unwatch = keepLookedAt(phone, client);
  void shown().then(soon);
  const unhear = onChange(({ topic }) => CONCERNED.has(topic) && soon());
  window.addEventListener('online', soon);
  const often = window.setInterval(soon, EVERY);
  return () => {
    over = true;
    unhear();
    unwatch();
    window.clearTimeout(timer);
    window.clearInterval(often);
    window.removeEventListener('online', soon);
  };
}

/** How much was taken along, and when it was last fresh (epoch seconds). */
export function useTakenSize(phone: FieldPhone | undefined) {
  return useQuery({
    queryKey: takenKey,
    queryFn: async () => {
      const [size, at] = await Promise.all([phone!.taken.size(), phone!.takenAt()]);
      return { ...size, at: at === null ? null : Math.floor(at / 1000) };
    },
    enabled: phone !== undefined,
    networkMode: 'always',
  });
}
