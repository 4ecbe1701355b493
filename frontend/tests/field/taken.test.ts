import 'fake-indexeddb/auto';
import { QueryClient } from '@tanstack/react-query';
import { beforeEach, expect, test } from 'vitest';
import type { SchemaFieldDayOut } from '@/api/types';
import { dayQuery, ownDayQuery, ownVisitQuery } from '@/features/field/queries';
import { megabytes, short } from '@/features/field/room';
import type { Answer } from '@/features/field/sync/deeds';
import { FieldPhone, PhoneSignedOut, type FieldServer } from '@/features/field/sync/phone';
import { FieldDatabase } from '@/features/field/sync/store';
import type { News } from '@/features/field/sync/taken';
import { runningDay, show } from '@/features/field/takenAlong';
import { setServerNow } from '@/shared/clock';
import { setTimeZone } from '@/shared/time';

const DAY = 86_400_000;
const clocks = { wall: () => 1_795_780_000_000, running: () => 0 };
let account = 9_000;
let office: News & { asked: Record<string, string>[] };
let lost = false;

const server: FieldServer = {
  register: (id) => Promise.resolve({ key: new Uint8Array(32).fill(id.length), now: clocks.wall() }),
  post: () => Promise.resolve({ answers: [] as Answer[], now: clocks.wall() }),
  piece: () => Promise.resolve({ length: 0 }),
  along: (_, known) => {
    if (lost) return Promise.reject(new PhoneSignedOut());
    office.asked.push(known);
    const news = office.news.filter(({ name, mark }) => known[name] !== mark);
    return Promise.resolve({ names: office.names, news });
  },
};
const item = (name: string, mark: string, content: unknown = { name, mark }) => ({ name, mark, content });
const open = () => FieldPhone.open(new FieldDatabase(account), server, clocks);

beforeEach(() => {
  account += 1;
  lost = false;
  office = { names: ['day 1', 'visit 7'], news: [item('day 1', 'a'), item('visit 7', 'b')], asked: [] };
});

test('what is taken along is there when the phone is opened again, and only news are fetched', async () => {
  const phone = await open();
  expect(await phone.takenAt()).toBeNull();
  await phone.takeAlong();
  office.names = ['day 1', 'visit 8'];
  office.news = [item('day 1', 'a'), item('visit 8', 'c')];
  expect(await phone.takeAlong()).toEqual([item('visit 8', 'c')]);
  expect(office.asked[1]).toEqual({ 'day 1': 'a', 'visit 7': 'b' });
  const again = await open();
  expect(await again.taken.all()).toEqual([item('day 1', 'a'), item('visit 8', 'c')]);
  expect((await again.taken.size()).things).toBe(2);
  expect(await again.takenAt()).toBe(clocks.wall());
});

test('what was looked at is kept until the server is asked again, which then sends it whole', async () => {
  const phone = await open();
  await phone.taken.add('visit 7', { seen: true });
  expect(await phone.taken.all()).toEqual([item('visit 7', '', { seen: true })]);
  await phone.takeAlong();
  expect(await phone.taken.all()).toContainEqual(item('visit 7', 'b'));
});

test('what an older version took along is fetched anew, and not shown', async () => {
  const phone = await open();
  await phone.takeAlong();
  const database = new FieldDatabase(account);
  await database.taken.update('visit 7', { mark: '2 b' });
  expect((await phone.taken.all()).map(({ name }) => name)).toEqual(['day 1']);
  expect(await phone.takeAlong()).toEqual([item('visit 7', 'b')]);
});

test('what lies on the disk cannot be read there', async () => {
  const phone = await open();
  await phone.taken.add('visit 7', { site: 'Longmoor Hall' });
  const database = new FieldDatabase(account);
  const [row] = await database.taken.toArray();
  expect(new TextDecoder().decode(row!.sealed)).not.toContain('Longmoor');
});

test('a phone that was signed out throws its key away when it asks for anything', async () => {
  const phone = await open();
  lost = true;
  await expect(phone.takeAlong()).rejects.toThrow(PhoneSignedOut);
  expect(phone.closed).toBe(true);
  expect(await new FieldDatabase(account).keys.count()).toBe(0);
});

const day = (name: string) => ({ technician_id: 1, day: name, visits: [] }) as SchemaFieldDayOut;

test('the running day is the last that has begun, or the first there is', () => {
  const days = [day('2026-11-28'), day('2026-11-27'), day('2026-11-30')];
  expect(runningDay(days, '2026-11-29')?.day).toBe('2026-11-28');
  expect(runningDay(days, '2026-11-01')?.day).toBe('2026-11-27');
  expect(runningDay([], '2026-11-01')).toBeUndefined();
});

test('shows what is on the phone where nothing was fetched, and what has just come over what is older', () => {
  setTimeZone('Atlantic/Azores');
  setServerNow(Date.parse('2026-11-27T12:00:00Z') / 1000);
  const client = new QueryClient();
  const fetched = { id: 7, title: 'fetched' };
  client.setQueryData(ownVisitQuery(7).queryKey, fetched as never);
  const items = [
    item('day 2026-11-27', 'a', day('2026-11-27')),
    item('visit 7', 'b', { id: 7, title: 'kept' }),
  ];
  show(client, items);
  expect(client.getQueryData(ownVisitQuery(7).queryKey)).toEqual(fetched);
  expect(client.getQueryData(ownDayQuery.queryKey)).toEqual(day('2026-11-27'));
  expect(client.getQueryData(dayQuery('2026-11-27').queryKey)).toEqual(day('2026-11-27'));
  const names = new Set(['visit 7']);
  show(client, items, { names, at: Date.now() - DAY });
  expect(client.getQueryData(ownVisitQuery(7).queryKey)).toEqual(fetched);
  show(client, items, { names, at: Date.now() + DAY });
  expect(client.getQueryData(ownVisitQuery(7).queryKey)).toMatchObject({ title: 'kept' });
});

test('says sizes in short words, and when room gets short', () => {
  expect([900, 450_000, 12_400_000, 10_700_000_000].map(megabytes)).toEqual([
    '1 kB',
    '0.5 MB',
    '12 MB',
    '10.7 GB',
  ]);
  expect([short({ used: 79, all: 100 }), short({ used: 80, all: 100 }), short({ used: 0, all: 0 })]).toEqual([
    false,
    true,
    false,
  ]);
});
