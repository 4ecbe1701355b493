import 'fake-indexeddb/auto';
import { expect, test, vi } from 'vitest';
import { Drafts } from '@/features/field/sync/drafts';
import { keyFrom, sealedWith } from '@/features/field/sync/sealing';
import { FieldDatabase } from '@/features/field/sync/store';

let account = 40_000;
async function open() {
  const database = new FieldDatabase(++account);
  return { database, drafts: new Drafts(database, sealedWith(await keyFrom(new Uint8Array(32).fill(1)))) };
}

test('a burst of keystrokes ends with the last one, in few writes', async () => {
  const { database, drafts } = await open();
  const put = vi.spyOn(database.drafts, 'put');
  const words = 'gate is broken';
  const all = [...words].map((_, index) => drafts.keep('7 note', words.slice(0, index + 1)));
  await Promise.all(all);
  expect(await drafts.find('7 note')).toBe(words);
  expect(put.mock.calls.length).toBeLessThanOrEqual(2);
});

test('what was dropped after it was typed is gone, and other places are not touched', async () => {
  const { drafts } = await open();
  await Promise.all([
    drafts.keep('a', 'one'),
    drafts.keep('b', 'two'),
    drafts.keep('a', 'three'),
    drafts.drop('a'),
  ]);
  expect([await drafts.find('a'), await drafts.find('b')]).toEqual([null, 'two']);
});

test('a write that fails does not stop the next', async () => {
  const { database, drafts } = await open();
  vi.spyOn(database.drafts, 'put').mockRejectedValueOnce(new Error('no room'));
  await expect(drafts.keep('a', 'one')).rejects.toThrow('no room');
  await drafts.keep('a', 'two');
  expect(await drafts.find('a')).toBe('two');
});
