import 'fake-indexeddb/auto';
import { beforeEach, expect, test } from 'vitest';
import { PIECE, Pictures, type PieceAnswer } from '@/features/field/sync/pictures';
import { keyFrom, sealedWith, type Sealed } from '@/features/field/sync/sealing';
import { FieldDatabase } from '@/features/field/sync/store';

let account = 20_000;
let answer: ((id: string, at: number, piece: Sealed) => PieceAnswer) | null;
/** What the office has of each. */
let office: Map<string, number[]>;
let clock = 0;
const HOUR = 3_600_000;

beforeEach(() => {
  account += 1;
  office = new Map();
  answer = null;
});

const take = (id: string, at: number, piece: Sealed): PieceAnswer => {
  const there = office.get(id) ?? [];
  if (at > there.length) return { from: there.length };
  office.set(id, [...there, ...piece.slice(there.length - at)]);
  return { length: office.get(id)!.length };
};

async function open() {
  const database = new FieldDatabase(account);
  const seal = sealedWith(await keyFrom(new Uint8Array(32).fill(3)));
  const post = (id: string, at: number, piece: Sealed) => Promise.resolve((answer ?? take)(id, at, piece));
  return { database, pictures: new Pictures(database, seal, post, () => ++clock) };
}
const bytes = (size: number) => new Uint8Array(size).map((_, index) => (index * 31) % 251);
async function all(pictures: Pictures) {
  for (let rounds = 0; rounds < 50; rounds++) if ((await pictures.round()) !== 'sent a piece') return;
}

test('the smallest goes first, in pieces, and arrives as it was taken', async () => {
  const { pictures } = await open();
  const [large, small] = [bytes(PIECE * 2 + 7), bytes(40)];
  await pictures.keep('large', large);
  await pictures.keep('small', small);
  const order: string[] = [];
  answer = (id, at, piece) => {
    order.push(id);
    return take(id, at, piece);
  };
  await all(pictures);
  expect(order).toEqual(['small', 'large', 'large', 'large']);
  expect(office.get('large')).toEqual([...large]);
  expect(await pictures.waiting()).toEqual([]);
});

test('a signal that breaks off, and a phone that dies, go on where it was', async () => {
  const first = await open();
  await first.pictures.keep('large', bytes(PIECE * 3));
  expect(await first.pictures.round()).toBe('sent a piece');
  answer = () => {
    throw new Error('no signal');
  };
  expect(await first.pictures.round()).toBe('no answer');
  first.database.close();
  answer = null;
  const again = await open();
  expect(await again.pictures.waiting()).toEqual([
    { id: 'large', size: PIECE * 3, sent: PIECE, refused: '' },
  ]);
  await all(again.pictures);
  expect(office.get('large')).toEqual([...bytes(PIECE * 3)]);
});

test('what the server has lost is sent again from there, and what arrived unheard is not sent twice', async () => {
  const { pictures } = await open();
  await pictures.keep('one', bytes(PIECE * 2));
  await pictures.round();
  office.clear();
  await all(pictures);
  expect(office.get('one')).toEqual([...bytes(PIECE * 2)]);
});

test('one that the office does not know of yet holds nothing up, and one that it refuses is kept here', async () => {
  const { pictures } = await open();
  await pictures.keep('early', bytes(10));
  await pictures.keep('spoiled', bytes(20));
  await pictures.keep('good', bytes(30));
  answer = (id, at, piece) => {
    if (id === 'early') return 'later';
    return id === 'spoiled' ? { refused: 'This is no picture.' } : take(id, at, piece);
  };
  await all(pictures);
  expect(office.get('good')).toHaveLength(30);
  expect(await pictures.round()).not.toBe('nothing to send');
  expect((await pictures.waiting()).map(({ id, refused }) => [id, refused])).toEqual([
    ['early', ''],
    ['spoiled', 'This is no picture.'],
  ]);
  expect(await pictures.content('spoiled')).toEqual(bytes(20));
});

test('room is made from the oldest that have arrived, never from what is only here', async () => {
  const { pictures } = await open();
  for (const name of ['a', 'b']) await pictures.keep(name, bytes(100));
  await all(pictures);
  await pictures.keep('c', bytes(100));
  expect(await pictures.makeRoom(1)).toBe(100);
  expect([await pictures.content('a'), await pictures.content('b')]).toEqual([null, bytes(100)]);
  expect(await pictures.makeRoom(10_000)).toBe(100);
  expect(await pictures.content('c')).toEqual(bytes(100));
});

test('one that no deed tells of is let go, but neither too soon nor when its deed may have been cleared away', async () => {
  const { pictures } = await open();
  clock = 1_000 * HOUR;
  for (const name of ['told', 'stray']) await pictures.keep(name, bytes(10));
  const left = async () => (await pictures.waiting()).map(({ id }) => id).sort();
  for (const hours of [0, 400]) {
    clock = (1_000 + hours) * HOUR;
    await pictures.clearStray(new Set(['told']));
    expect(await left()).toEqual(['stray', 'told']);
  }
  clock = 1_002 * HOUR;
  await pictures.clearStray(new Set(['told']));
  expect(await left()).toEqual(['told']);
  expect(await pictures.content('stray')).toBeNull();
});

test('what lies on the disk is no picture to anybody else', async () => {
  const { database, pictures } = await open();
  await pictures.keep('a', bytes(500));
  const { sealed } = (await database.contents.get('a'))!;
  expect([...sealed].join()).not.toContain([...bytes(20)].join());
});
