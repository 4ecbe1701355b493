import { beforeEach, describe, expect, it } from 'vitest';
import {
  copyOf,
  newOptionKey,
  quoteIn,
  shelve,
  shelved,
  wrongInQuote,
  type TypedQuote,
} from '@/features/quotes/model';

const OPTION = { key: 'a', name: 'Repair', summary: '', length: '1:30', crew: '', lines: [], discounts: [] };
const QUOTE: TypedQuote = {
  ...{ title: 'Door drive', siteId: 1, assetId: null, jobTypeId: null, contactName: '', contactEmail: '' },
  ...{ contactPhone: '', note: '', chance: 50, extraWork: false, scope: '', introduction: '', closing: '' },
  ...{ terms: '', technicianNote: '', days: '30', depositBy: 'percent', deposit: '', pictures: [] },
  options: [OPTION],
};

describe('a quote that is typed', () => {
  beforeEach(() => sessionStorage.clear());

  it('is sent with its lengths and deposit as figures', () => {
    expect(quoteIn({ ...QUOTE, deposit: '12,5' }, 3, 'EUR')).toMatchObject({
      version: 3,
      content: {
        days: 30,
        deposit_percent: '12.5',
        deposit_amount: 0,
        options: [{ duration_seconds: 5400, crew: null }],
      },
    });
    expect(quoteIn({ ...QUOTE, depositBy: 'amount', deposit: '500' }, 3, 'EUR').content).toMatchObject({
      deposit_percent: '0',
      deposit_amount: 50_000,
    });
  });

  it.each([
    [{ title: ' ' }, 'A quote needs a title.'],
    [{ days: '0' }, 'Say for how many days it is valid.'],
    [{ deposit: '120' }, 'The deposit is no figure.'],
    [{ options: [{ ...OPTION, length: 'long' }] }, 'The length is no time: 45, or 1:30.'],
    [{ options: [{ ...OPTION, crew: '9' }] }, 'A crew has 1 to 8 members.'],
  ])('says what is wrong with %o', (more, words) => {
    expect(wrongInQuote({ ...QUOTE, ...more }, 'EUR')).toBe(words);
    expect(wrongInQuote(QUOTE, 'EUR')).toBe('');
  });

  it('has another way begin as a copy under a key of its own', () => {
    const made = copyOf(OPTION, [OPTION, { ...OPTION, key: 'c' }]);
    expect([made.key, made.name, made.length]).toEqual(['b', '', '1:30']);
    expect(newOptionKey([])).toBe('a');
  });

  it('outlives a reload, on the version it was typed on', () => {
    shelve(7, 2, QUOTE);
    expect(shelved(7, 2)).toEqual(QUOTE);
    expect(shelved(7, 3)).toBeNull();
    shelve(7, 2, null);
    expect(shelved(7, 2)).toBeNull();
    sessionStorage.setItem('iron-relay.quote.7', 'no json');
    expect(shelved(7, 2)).toBeNull();
  });
});
