import 'fake-indexeddb/auto';
import { beforeEach, expect, test } from 'vitest';
import type { Outcome } from '@/features/field/sync/deeds';
import { Journal } from '@/features/field/sync/journal';
import { keyFrom, sealedWith } from '@/features/field/sync/sealing';
import { Sender } from '@/features/field/sync/sender';
import { FieldDatabase, storeOf } from '@/features/field/sync/store';

const KEY = new Uint8Array(32).fill(7);
const NOBODY = new Set<string>();
let account = 0;

beforeEach(() => {
  account += 1; // a database of its own
});

async function open(bytes = KEY) {
  const database = new FieldDatabase(account);
  const store = storeOf(database, sealedWith(await keyFrom(bytes)));
  return { database, store, journal: new Journal(store, () => ({ deviceAt: 1_000, happenedAt: 2_000 })) };
}

const draft = (visitId: number | null, body: unknown) => ({
  kind: 'note',
  visitId,
  body,
  basedOn: null,
  where: { lon: -25.1, lat: 37.7, accuracyMetres: 12 },
});

test('what was written is there when the phone is opened again, in order and by lane', async () => {
  const first = await open();
  const one = await first.journal.write(draft(12, 'door'));
  const two = await first.journal.write(draft(null, 'break'));
  first.database.close();
  const again = await open();
  const three = await again.journal.write(draft(12, 'roller'));
  expect([one.number, two.number, three.number]).toEqual([1, 2, 3]);
  expect([one.previous, two.previous, three.previous]).toEqual([null, null, one.id]);
  expect(await again.journal.unsent(10, NOBODY)).toEqual([one, two, three]);
  expect(await again.journal.unsent(1, new Set(['visit 12']))).toEqual([two]);
  expect(one.id < two.id && two.id < three.id).toBe(true);
  expect(one).toMatchObject({ deviceAt: 1_000, happenedAt: 2_000, lane: 'visit 12' });
});

test('numbers go on without gaps when what was sent has been cleared away', async () => {
  const { database, journal } = await open();
  const { id } = await journal.write(draft(12, 'door'));
  await database.deeds.clear();
  expect(await journal.write(draft(12, 'roller'))).toMatchObject({ number: 2, previous: id });
});

test('many written at once are all there, each with a number of its own', async () => {
  const { journal } = await open();
  const written = await Promise.all(
    Array.from({ length: 40 }, (_, index) => journal.write(draft(index % 3, index))),
  );
  expect(written.map(({ number }) => number).sort((one, other) => one - other)).toEqual(
    Array.from({ length: 40 }, (_, index) => index + 1),
  );
  const lane = (await journal.unsent(99, NOBODY)).filter(({ visitId }) => visitId === 1);
  lane.forEach((deed, index) => expect(deed.previous).toBe(lane[index - 1]?.id ?? null));
});

test('what the server said is kept beside the deed', async () => {
  const { journal } = await open();
  const one = await journal.write(draft(12, 'door'));
  const two = await journal.write(draft(12, 'roller'));
  await journal.settle([
    { id: one.id, outcome: 'waiting', sentence: 'It is Milo’s now.' },
    { id: two.id, outcome: 'again', sentence: '' },
    { id: 'nobody', outcome: 'applied', sentence: '' },
  ]);
  expect((await journal.all()).map(({ fate, sentence }) => [fate, sentence])).toEqual([
    ['waiting', 'It is Milo’s now.'],
    ['unsent', ''],
  ]);
  // A server that was set back asks for what it had.
  await journal.settle([{ id: two.id, outcome: 'again', sentence: '', missing: one.id }]);
  expect(await journal.unsent(10, NOBODY)).toEqual([one, two]);
});

test('what waits is asked about again, until somebody has decided', async () => {
  const { journal } = await open();
  const { id } = await journal.write(draft(12, 'door'));
  await journal.settle([{ id, outcome: 'waiting', sentence: 'It is Milo’s now.' }]);
  const answers: Outcome[] = ['waiting', 'kept'];
  const asked: string[][] = [];
  const sender = new Sender(journal, (deeds) => {
    asked.push(deeds.map((deed) => deed.id));
    return Promise.resolve([{ id, outcome: answers.shift()!, sentence: 'decided' }]);
  });
  await sender.ask();
  expect((await journal.all())[0]).toMatchObject({ fate: 'waiting', sentence: 'It is Milo’s now.' });
  await sender.ask();
  expect((await journal.all())[0]).toMatchObject({ fate: 'kept', sentence: 'decided' });
  await sender.ask();
  expect(asked).toEqual([[id], [id]]);
});

test('what is old and has come to an end is cleared away, and nothing else', async () => {
  const { journal } = await open();
  const deeds = [];
  for (const body of ['sent', 'waits', 'here']) deeds.push(await journal.write(draft(12, body)));
  await journal.settle([
    { id: deeds[0]!.id, outcome: 'applied', sentence: '' },
    { id: deeds[1]!.id, outcome: 'waiting', sentence: '' },
  ]);
  await journal.clear(Date.now() - 60_000);
  expect(await journal.all()).toHaveLength(3);
  await journal.clear(Date.now() + 60_000);
  expect((await journal.all()).map(({ fate }) => fate)).toEqual(['waiting', 'unsent']);
});

test('nobody reads it without the key', async () => {
  const { database, journal } = await open();
  await journal.write(draft(12, 'the door code is 4711'));
  const rows = await database.deeds.toArray();
  const text = rows.map((row) => new TextDecoder('latin1').decode(row.sealed)).join('');
  expect(text).not.toContain('4711');
  expect(text).not.toContain('door');
  database.close();
  const stranger = await open(new Uint8Array(32).fill(8));
  await expect(stranger.journal.unsent(10, NOBODY)).rejects.toThrow();
  await expect(crypto.subtle.exportKey('raw', await keyFrom(KEY))).rejects.toThrow();
});

test('when it cannot be written nothing is said to be', async () => {
  const { database, journal } = await open();
  let told = 0;
  journal.subscribe(() => (told += 1));
  database.close();
  await expect(journal.write(draft(12, 'door'))).rejects.toThrow();
  expect(told).toBe(0);
  await database.open();
  expect(await journal.all()).toEqual([]);
});
