import { describe, expect, it } from 'vitest';
import { counted, fromLines, linesOf } from '@/shared/counted';
import { money } from '@/shared/money';

describe('what is typed as lines', () => {
  it('loses empty lines and blanks around', () => {
    expect(linesOf(' one \n\n  two\n')).toEqual(['one', 'two']);
  });
  it.each([
    ['2 Door roller', 2, 'Door roller'],
    ['2x Door roller', 2, 'Door roller'],
    ['12 × Rope socket', 12, 'Rope socket'],
    ['Light curtain', 1, 'Light curtain'],
    ['3-way valve', 1, '3-way valve'],
  ])('reads “%s” as a count and words', (line, count, words) => {
    expect(counted(line)).toEqual({ count, words });
  });
  it('adds up what comes twice', () => {
    expect(fromLines('2 Lamp\nLamp\n')).toEqual({ Lamp: 3 });
  });
});

describe('money', () => {
  it('is whole and has its sign once the currency is known', () => {
    expect(money(1250, 'EUR')).toBe('€1,250');
    expect(money(1250, undefined)).toBe('1,250');
  });
});
