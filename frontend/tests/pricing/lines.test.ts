import { describe, expect, it } from 'vitest';
import type { SchemaItemOut } from '@/api/types';
import {
  discountIn,
  foundItems,
  isWhole,
  lineIn,
  lineOfItem,
  lineOfWords,
  moved,
  newKey,
  noDiscount,
  reached,
  typedLine,
  wrongIn,
  type TypedLine,
} from '@/features/pricing/lines/model';

const item = (wording: string, more: Partial<SchemaItemOut> = {}) =>
  ({
    key: wording.toLowerCase(),
    wording,
    unit: 'HUR',
    tax: 'full',
    retired: false,
    ...more,
  }) as SchemaItemOut;
const line = (more: Partial<TypedLine> = {}): TypedLine => ({
  ...lineOfItem(item('Hour'), []),
  ...more,
});

describe('a line that is typed', () => {
  it('has a key that no other has, also after one was removed', () => {
    expect(newKey([])).toBe('l1');
    expect(newKey([{ key: 'l1' }, { key: 'l3' }, { key: 'labour' }])).toBe('l4');
  });

  it('costs what the list says until somebody types a price', () => {
    expect(lineIn(line(), 'EUR')).toMatchObject({
      item: 'hour',
      quantity: '1',
      unit_price: null,
      cost: null,
    });
    expect(lineIn(line({ price: '1.234,50', quantity: '1,5' }), 'EUR')).toMatchObject({
      quantity: '1.5',
      unit_price: 123450,
    });
  });

  it('is sent as it was kept', () => {
    const kept = {
      ...{ key: 'l1', item: '', kind: 'fixed price', wording: 'Crane', quantity: '2.500', unit: 'HUR' },
      ...{
        unit_price: 30000,
        price: 30000,
        source: '',
        cost: 21000,
        effort: 1500,
        tax: 'full',
        tag: 'warranty',
      },
      ...{ discount: { name: 'You', percent: '10', amount: 0, key: '' }, optional: true, chosen: true },
    };
    const sent = Object.fromEntries(
      Object.entries(kept).filter(([name]) => !['kind', 'price', 'source'].includes(name)),
    );
    expect(lineIn(typedLine(kept as never, 'EUR'), 'EUR')).toEqual({
      ...sent,
      quantity: '2.5',
      discount: { name: 'You', percent: '10', amount: 0, valid_until: null, key: '' },
    });
  });

  it.each([
    [{ quantity: '' }, 'quantity'],
    [{ quantity: '0' }, 'quantity'],
    [{ quantity: 'two' }, 'quantity'],
    [{ price: '1,2,3x' }, 'price'],
    [{ effort: '-1' }, 'effort'],
    [{ discount: { ...noDiscount(), much: '101' } }, 'discount'],
  ])('is not counted with %o', (more, field) => {
    expect(Object.keys(wrongIn(line(more), 'EUR'))).toEqual([field]);
    expect(isWhole({ lines: [line(more)], discounts: [] }, 'EUR')).toBe(false);
  });

  it('takes nothing off with a discount that says nothing yet', () => {
    expect(discountIn(noDiscount(), 'EUR')).toBeNull();
    expect(discountIn({ ...noDiscount(), by: 'amount', much: '25' }, 'EUR')).toMatchObject({ amount: 2500 });
  });

  it('takes over what would reach the wanted', () => {
    const set = { lines: [line(), line({ key: 'l2' })], discounts: [] };
    const rows = [
      { key: 'l1', unit_price: 7200, effort: null },
      { key: 'l2', unit_price: null, effort: 750 },
    ];
    expect(reached(set, rows, 'EUR').lines.map(({ price, effort }) => [price, effort])).toEqual([
      ['72.00', ''],
      ['', '0.75'],
    ]);
  });

  it('is words where it is no item', () => {
    expect(lineOfWords('  Crane ', [], 'full')).toMatchObject({ item: '', wording: 'Crane', tax: 'full' });
  });
});

describe('finding an item', () => {
  const items = [
    item('Door roller'),
    item('Hour of a fitter'),
    item('Roller of a gate'),
    item('Old roller', { retired: true }),
  ];
  it('takes three letters', () => {
    expect(foundItems(items, 'ro')).toEqual([]);
  });
  it('begins with those that begin so, and leaves out what is retired', () => {
    expect(foundItems(items, 'roller').map((row) => row.wording)).toEqual([
      'Roller of a gate',
      'Door roller',
    ]);
  });
  it('wants every word', () => {
    expect(foundItems(items, 'fit hour').map((row) => row.wording)).toEqual(['Hour of a fitter']);
  });
});

describe('the order of lines', () => {
  it('moves one and stops at the ends', () => {
    expect(moved(['a', 'b', 'c'], 0, 1)).toEqual(['b', 'a', 'c']);
    expect(moved(['a', 'b', 'c'], 0, -1)).toEqual(['a', 'b', 'c']);
    expect(moved(['a', 'b', 'c'], 1, 5)).toEqual(['a', 'c', 'b']);
  });
});
