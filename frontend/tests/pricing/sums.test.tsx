import { screen } from '@testing-library/react';
import { describe, expect, it } from 'vitest';
import type { SchemaSumsOut } from '@/api/types';
import { SumsBox } from '@/features/pricing';
import { draw } from '../drawn';
import { serve } from '../server';

const SUMS = {
  totals: {
    ...{ lines: 25_000, off: 0, charges: 0, net: 25_000, tax: 0, gross: 25_000, paid: 0, due: 25_000 },
    ...{
      discounts: [],
      taxes: [{ category: 'outside scope', percent: '0', base: 25_000, tax: 0, reason: '' }],
    },
  },
  effort: {
    hours: 0,
    per_hour: null,
    wanted: null,
    missing: null,
    count: 0,
    suffices: null,
    hours_at_80: null,
  },
  ...{ lines: [], margin: null, ended: [], unpriced: 0 },
} as unknown as SchemaSumsOut;
const CODE = { id: 1, key: 'full', name: 'Full', category: 'standard', rates: [], reason: '', version: 1 };

describe('what lines come to', () => {
  const show = (codes: unknown[]) => {
    serve({ 'GET /api/v1/pricing/tax-codes': codes, 'GET /api/v1/company/settings': { settings: [] } });
    return draw(<SumsBox sums={SUMS} />, { may: ['use', 'change_settings'] });
  };

  it('says where nobody has said anything of tax, and leads there', async () => {
    await show([{ ...CODE, retired: true }]);
    expect(await screen.findByText(/No tax code is set up/)).toBeVisible();
    expect(screen.getByRole('link', { name: 'Set one up' })).toHaveAttribute('href', '/set-up/prices');
  });

  it('says nothing of it where there is one', async () => {
    await show([{ ...CODE, retired: false }]);
    expect(await screen.findByRole('table', { name: 'Totals' })).toBeVisible();
    expect(screen.queryByText(/No tax code is set up/)).toBeNull();
  });
});
