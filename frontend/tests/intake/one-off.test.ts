import { describe, expect, it } from 'vitest';
import {
  EMPTY_JOB,
  jobSchema,
  lengthFor,
  oneOffIn,
  askedOf,
  type Said,
} from '@/features/intake/one_off/model';
import { NO_DETAILS } from '@/features/intake/model';
import { setTimeZone } from '@/shared/time';

const SAID: Said = {
  ...{ siteId: 4, assetId: null, jobTypeId: 2, details: NO_DETAILS, lines: null, currency: 'EUR' },
  typed: { ...EMPTY_JOB, title: ' New drive ', duration_seconds: '16h', crew: '2', days: '3' },
};
const LINE = {
  ...{
    key: 'l1',
    item: '',
    wording: 'Crane',
    quantity: '1',
    unit: 'C62',
    price: '300',
    cost: '',
    effort: '',
  },
  ...{ tax: '', tag: '', discount: null, optional: false, chosen: false },
};

describe('a one-off job that is typed', () => {
  it('is sent with figures for its length, people and days', () => {
    expect(oneOffIn(SAID)).toMatchObject({
      ...{ site_id: 4, title: 'New drive', duration_seconds: 57_600, crew: 2, days: 3, priority: 3 },
      ...{ lines: null, discounts: [], earliest: null, due: null },
    });
  });

  it('has its days begin and end by the company’s clock', () => {
    setTimeZone('Atlantic/Azores');
    const typed = { ...SAID.typed, earliest: '2026-11-30', due: '2026-12-04' };
    const body = oneOffIn({ ...SAID, typed });
    expect(new Date(body!.earliest! * 1000).toISOString()).toBe('2026-11-30T01:00:00.000Z');
    expect(new Date(body!.due! * 1000).toISOString()).toBe('2026-12-04T18:00:00.000Z');
  });

  it('goes with the lines that were typed, and without when nobody typed any', () => {
    const lines = { lines: [LINE], discounts: [] };
    expect(oneOffIn({ ...SAID, lines })?.lines).toMatchObject([{ wording: 'Crane', unit_price: 30_000 }]);
  });

  it.each([{ crew: '0' }, { crew: '9' }, { days: '11' }, { days: 'two' }, { duration_seconds: 'long' }])(
    'is not sent with %o',
    (wrong) => {
      const typed = { ...SAID.typed, ...wrong };
      expect(oneOffIn({ ...SAID, typed })).toBeNull();
      expect(jobSchema.safeParse(typed).success).toBe(false);
    },
  );

  it('asks what becomes of it without the words', () => {
    const typed = { ...SAID.typed, description: 'long', contact_name: 'Marta' };
    expect(askedOf(oneOffIn({ ...SAID, typed }))).toEqual(askedOf(oneOffIn(SAID)));
    expect(askedOf(null)).toBeNull();
  });

  it('takes its length from the labour of its lines', () => {
    expect(lengthFor(16, '2')).toBe('8:00');
    expect(lengthFor(1.75, '1')).toBe('1:45');
    expect(lengthFor(1.01, '')).toBe('1:05');
  });
});
