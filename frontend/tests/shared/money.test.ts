import { describe, expect, it } from 'vitest';
import { amountText, digitsOf, parseAmount, price } from '@/shared/money';

describe('amounts as people type them', () => {
  it.each([
    ['58', 5800],
    ['58.5', 5850],
    ['58,50', 5850],
    ['1,234.50', 123450],
    ['1.234,50', 123450],
    ['1 234,50', 123450],
    ['1,234', 123400],
    ['.5', 50],
    ['-3.10', -310],
    ['', null],
    ['x', null],
    ['1.2345', null],
    ['1.2.3', null],
  ])('%s', (text, amount) => expect(parseAmount(text, 'EUR')).toBe(amount));

  it('follow the currency', () => {
    expect(digitsOf('JPY')).toBe(0);
    expect(parseAmount('1,234', 'JPY')).toBe(1234);
    expect(parseAmount('12.5', 'JPY')).toBeNull();
    expect(price(123450, 'EUR')).toBe('€1,234.50');
  });

  it('are read as what they were written', () => {
    for (const amount of [0, 5, 99, 123450, -310])
      expect(parseAmount(amountText(amount, 'EUR'), 'EUR')).toBe(amount);
  });
});
