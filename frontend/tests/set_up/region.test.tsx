import { screen, waitFor, within } from '@testing-library/react';
import { describe, expect, it } from 'vitest';
import { RegionPage } from '@/features/set_up/region/RegionPage';
import { draw } from '../drawn';
import { askedOf, Refusal, serve } from '../server';

const NOW = 'GET /api/v1/roads/region';
const BRING = 'POST /api/v1/roads/region';
const REGION = {
  is_own: true,
  can_change: true,
  kilometres: 1234.5,
  streets: 321,
  houses: 4567,
  boundaries: [
    { number: 0, name: 'Eastford', level: 8 },
    { number: 1, name: 'Westford', level: 8 },
  ],
  last: null,
};
const FILE = {
  id: 1,
  name: 'towns.osm.pbf',
  state: 'running',
  step: 'reading roads',
  share: 0.15,
  report: [],
  failure: '',
  asked_at: 1795438800,
  asked_by: 'Ada Reyne',
};
const show = (more: Record<string, unknown> = {}) => {
  serve({
    [NOW]: REGION,
    'GET /api/v1/sites/off-the-map': { count: 0, sites: [] },
    ...more,
  });
  return draw(<RegionPage />, { may: ['use', 'manage_accounts', 'import', 'change_settings'] });
};

describe('the region', () => {
  it('says what there is of it, and how far another one is', async () => {
    await show({ [NOW]: { ...REGION, last: FILE } });
    expect(await screen.findByText(/1,235 km of road, 321 streets, 4,567 house numbers/)).toBeVisible();
    expect(screen.getByText('reading roads, 15 %')).toBeVisible();
    expect(screen.getByRole('button', { name: 'Bring it in' })).toBeDisabled();
  });

  it('is brought in from the server by its path, and refused in words that leave the path', async () => {
    const { user } = await show({
      [BRING]: () => {
        throw new Refusal(422, { code: 'rejected', title: 'There is no file /x.osm.pbf.', field: 'path' });
      },
    });
    await user.type(await screen.findByLabelText(/path of one/), '/x.osm.pbf');
    await user.click(screen.getByRole('button', { name: 'Bring it in' }));
    expect(await screen.findByText('There is no file /x.osm.pbf.')).toBeVisible();
    expect(screen.getByLabelText(/path of one/)).toHaveValue('/x.osm.pbf');
    expect(askedOf(BRING)[0]!.body).toEqual({ path: '/x.osm.pbf', key: '', name: '' });
  });

  it('of the demo is not changed', async () => {
    await show({ [NOW]: { ...REGION, can_change: false, is_own: false } });
    expect(await screen.findByText(/The demo lives in its own city/)).toBeVisible();
    expect(screen.queryByText('Choose an extract')).toBeNull();
  });

  it('gives the outlines of its towns as areas', async () => {
    const make = 'POST /api/v1/areas/from-boundaries';
    const { user } = await show({ [make]: { made: 1, problems: [] } });
    await user.type(await screen.findByLabelText('Find by name'), 'west');
    const list = within(screen.getByRole('list', { name: 'Boundaries' }));
    expect(list.queryByText('Eastford')).toBeNull();
    await user.click(list.getByRole('checkbox'));
    await user.click(screen.getByRole('button', { name: 'Make the area' }));
    await waitFor(() => expect(askedOf(make)[0]?.body).toEqual({ numbers: [1] }));
  });

  it('lists the sites to which no road leads', async () => {
    const lost = {
      id: 5,
      customer_id: 7,
      customer: 'Marram Ferries',
      name: 'Pier',
      address: 'Mill Lane 4',
      kilometres: 12.5,
      suggestion: 'Mill Lane 4, 7001 Westford',
    };
    await show({ 'GET /api/v1/sites/off-the-map': { count: 3, sites: [lost] } });
    expect(await screen.findByText('12.5 km off')).toBeVisible();
    expect(screen.getByText('perhaps Mill Lane 4, 7001 Westford')).toBeVisible();
    expect(screen.getByText(/3 sites lie more than a kilometre/)).toBeVisible();
  });
});
