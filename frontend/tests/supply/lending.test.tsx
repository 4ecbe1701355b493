import { screen, waitFor } from '@testing-library/react';
import { describe, expect, it } from 'vitest';
import { LendForm } from '@/features/supply/loans/LendForm';
import { draw } from '../drawn';
import { askedOf, serve } from '../server';

const LEND = 'POST /api/v1/supply/loans';
const site = (id: number, assets: object[]) => ({ id, name: `Hall ${id}`, address: 'Quay 1', assets });
const customer = (sites: object[]) => ({ id: 3, version: 1, name: 'Seagate Stores', sites, contacts: [] });
const DRIVE = { id: 9, kind: 'Door drive', make: 'Orrin', model: 'M', serial: 'OR-1' };

async function show(sites: object[]) {
  serve({
    [LEND]: { id: 1 },
    'GET /api/v1/parts': [{ code: 'hoist', name: 'Chain hoist', retired: false }],
    'GET /api/v1/parts/hoist': { code: 'hoist', name: 'Chain hoist', tracking: 'plain' },
    'GET /api/v1/stock/places': [{ id: 2, kind: 'depot', name: 'Kilnfield', technician: null }],
    'GET /api/v1/technicians': [{ id: 6, name: 'Ivor Larkin' }],
    'GET /api/v1/customers': [{ customer: { id: 3, name: 'Seagate Stores' }, site: null, asset: null }],
    'GET /api/v1/customers/3': customer(sites),
  });
  const drawn = await draw(<LendForm onDone={() => {}} />, { may: ['use', 'see_stock', 'move_stock'] });
  return { ...drawn, lend: () => drawn.user.click(screen.getByRole('button', { name: 'Lend it' })) };
}

describe('lending', () => {
  it('says everything that is not said, and sends nothing', async () => {
    const { lend } = await show([]);
    await lend();
    for (const words of ['Say what', 'Say from where', 'Say to which site', 'Say when it is due back'])
      expect(await screen.findByText(words)).toBeVisible();
    expect(askedOf(LEND)).toHaveLength(0);
  });

  it('gives a piece of equipment of a customer to a technician', async () => {
    const { user, lend } = await show([site(4, [DRIVE])]);
    await user.selectOptions(screen.getByLabelText('Lend'), 'a piece of equipment');
    await user.type(screen.getByLabelText(/^Whose equipment/), 'seag');
    await user.click(await screen.findByText('Seagate Stores'));
    // The only site is chosen already.
    await user.selectOptions(await screen.findByLabelText('Equipment'), 'Door drive Orrin M OR-1');
    await user.selectOptions(screen.getByLabelText('To'), 'a technician');
    await user.selectOptions(screen.getByLabelText('Whom'), 'Ivor Larkin');
    await user.type(screen.getByLabelText('Due back'), '30.11.{Tab}');
    await lend();
    await waitFor(() => expect(askedOf(LEND)).toHaveLength(1));
    expect(askedOf(LEND)[0]!.body).toMatchObject({
      ...{ asset_id: 9, code: '', source_id: null, technician_id: 6, site_id: null, due: '2026-11-30' },
    });
  });

  it('of a customer with several sites one is chosen first', async () => {
    const { user, lend } = await show([site(4, [DRIVE]), site(5, [])]);
    await user.selectOptions(screen.getByLabelText('Lend'), 'a piece of equipment');
    await user.type(screen.getByLabelText(/^Whose equipment/), 'seag');
    await user.click(await screen.findByText('Seagate Stores'));
    await lend();
    expect(await screen.findByText('Say which equipment')).toBeVisible();
    expect(screen.queryByLabelText('Equipment')).toBeNull();
  });
});
