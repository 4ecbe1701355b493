import { describe, expect, it } from 'vitest';
import type { SchemaPickOut } from '@/api/types';
import { emptyBasket, isWhole, picked, scanned } from '@/features/supply/tonight/basket';

const row = (code: string, more: Partial<SchemaPickOut> = {}): SchemaPickOut => ({
  code,
  part: code,
  number: 'P-1',
  barcode: 'P-1',
  quantity: 2,
  shelf: 'A 1',
  lies: 9,
  note: '',
  tracking: 'plain',
  transfer_id: null,
  ...more,
});
const drive = row('drive', { tracking: 'serial number' });
const list = [row('roller'), drive, row('lamp', { transfer_id: 7 })];

describe('a basket', () => {
  it('has one more with each scan, and no more than are wanted', () => {
    const one = scanned(emptyBasket, list, 'roller', '');
    expect(one).toMatchObject({ problem: '', basket: { roller: { quantity: 1 } } });
    expect(isWhole(one.basket, list[0]!)).toBe(false);
    const two = scanned(one.basket, list, 'roller', '');
    expect(isWhole(two.basket, list[0]!)).toBe(true);
    expect(scanned(two.basket, list, 'roller', '')).toEqual({ basket: two.basket, problem: '2 are enough' });
  });

  it('leaves alone what is not on the list', () => {
    expect(scanned(emptyBasket, list, 'belt', '')).toEqual({
      basket: emptyBasket,
      problem: 'not on this list',
    });
  });

  it('wants the number of a piece that has one, each once', () => {
    expect(scanned(emptyBasket, list, 'drive', '').problem).toBe('scan its serial number');
    const one = scanned(emptyBasket, list, 'drive', 'S1').basket;
    expect(one.drive).toEqual({ quantity: 1, serials: ['S1'], batch: '' });
    expect(scanned(one, list, 'drive', 'S1').problem).toBe('scanned already');
  });

  it('is booked with what is in it; of what was promised only the whole', () => {
    const one = scanned(scanned(emptyBasket, list, 'roller', '').basket, list, 'lamp', '').basket;
    expect(picked(one, list).map((row) => [row.code, row.quantity])).toEqual([['roller', 1]]);
    const two = scanned(one, list, 'lamp', '').basket;
    expect(picked(two, list).map((row) => [row.code, row.quantity, row.transfer_id])).toEqual([
      ['roller', 1, null],
      ['lamp', 2, 7],
    ]);
  });
});
