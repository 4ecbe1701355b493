import { screen, waitFor } from '@testing-library/react';
import { describe, expect, it, vi } from 'vitest';
import type { SchemaSiteWithAssetsOut } from '@/api/types';
import { SiteForm } from '@/features/customers/page/SiteForm';
import { draw } from '../../drawn';
import { askedOf, Refusal, serve } from '../../server';

const KEEP = 'PUT /api/v1/sites/9';
const SITE = {
  id: 9,
  version: 2,
  name: 'Seagate Hall',
  address: 'Millrace Road 60',
  lon: -24.6,
  lat: 47.2,
  area: 'Millrace',
  access_notes: '',
  opening: [],
  preferred: [{ id: 1, name: 'Ines Falk' }],
  refused: [],
  required: [],
  extra: {},
  assets: [],
} as unknown as SchemaSiteWithAssetsOut;

const show = async (answer: unknown = SITE) => {
  serve({
    [KEEP]: answer,
    'GET /api/v1/company/fields': [],
    'GET /api/v1/technicians': [
      { id: 1, name: 'Ines Falk' },
      { id: 2, name: 'Ivor Larkin' },
    ],
  });
  const onDone = vi.fn();
  return { onDone, ...(await draw(<SiteForm site={SITE} onDone={onDone} />)) };
};
const keep = () => screen.getByRole('button', { name: 'Save changes' });
const body = () => askedOf(KEEP)[0]?.body as Record<string, unknown> | undefined;

describe('a site', () => {
  it('is changed with its hours, and who is wanted there and who is not', async () => {
    const { user, onDone } = await show();
    await user.type(await screen.findByLabelText('Mon'), '08:00-17:00');
    await user.selectOptions(await screen.findByLabelText('Ivor Larkin at Seagate Hall'), 'refused');
    await user.type(screen.getByLabelText('Access'), 'Ring twice');
    await user.click(keep());
    await waitFor(() => expect(onDone).toHaveBeenCalled());
    expect(body()).toMatchObject({
      version: 2,
      name: 'Seagate Hall',
      address: 'Millrace Road 60',
      lon: -24.6,
      access_notes: 'Ring twice',
      opening: ['08:00-17:00', '', '', '', '', '', ''],
      preferred: [1],
      refused: [2],
      required: [],
    });
  });

  it('leads to the hours that cannot be read', async () => {
    const { user, onDone } = await show(() => {
      throw new Refusal(422, { code: 'rejected', title: 'Monday: 8 to 5 is no span.', field: 'opening' });
    });
    await user.type(await screen.findByLabelText('Mon'), '8 to 5');
    await user.click(keep());
    expect(await screen.findByText('Monday: 8 to 5 is no span.')).toBeVisible();
    await waitFor(() => expect(screen.getByLabelText('Mon')).toHaveFocus());
    expect(onDone).not.toHaveBeenCalled();
  });
});
