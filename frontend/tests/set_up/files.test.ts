import { describe, expect, it } from 'vitest';
import { KINDS, refusedFirst } from '@/features/set_up/files/kinds';

describe('rows of a set-up file', () => {
  it('that are refused come first, each in the order of the file', () => {
    const row = (line: number, becomes: 'new' | 'refused') => ({ line, becomes, what: '', problems: [] });
    const rows = [row(2, 'new'), row(3, 'refused'), row(4, 'new'), row(5, 'refused')];
    expect(refusedFirst(rows).map(({ line }) => line)).toEqual([3, 5, 2, 4]);
    expect(rows.map(({ line }) => line)).toEqual([2, 3, 4, 5]);
  });

  it('are of kinds that build on each other in the order in which they are offered', () => {
    const kinds = KINDS.map(({ kind }) => kind);
    expect(kinds).toEqual([
      'depots',
      'skills',
      'vehicles',
      'people',
      'shifts',
      'tax-codes',
      'items',
      'list-prices',
      'discounts',
      'rates',
      'surcharges',
      'suppliers',
      'parts',
      'levels',
    ]);
  });
});
