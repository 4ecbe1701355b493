import 'fake-indexeddb/auto';
import { screen, waitFor, within } from '@testing-library/react';
import { beforeEach, describe, expect, it } from 'vitest';
import { phoneOf } from '@/features/field/usePhone';
import { metresOf } from '@/features/field/work/Charges';
import { fitting } from '@/features/field/work/Lookup';
import { lineOf } from '@/features/field/work/parts/planned';
import { WorkPage } from '@/features/field/work/WorkPage';
import { at, draw, TODAY } from '../../drawn';
import { Refusal, serve } from '../../server';
import { detail } from '../../board/worlds';
import { emptyReport, noEntries } from '../reports';

let account = 5_000;
beforeEach(() => {
  account += 1;
});

const PARTS = [
  { code: 'door-roller', name: 'Door roller', number: 'P-1001', barcode: '4006381333931' },
  { code: 'car-lamp', name: 'Car lamp', number: 'P-1002', barcode: 'P-1002' },
].map((row) => ({ ...row, unit: 'C62', tracking: 'plain' }));
const onVan = (code: string, name: string, quantity: number) => ({
  code,
  name,
  quantity,
  unit: 'C62',
  shelf: 'A3',
  serials: [],
});

/** A page of a visit somebody is at, without a signal. */
function show(kind: string, entries: Parameters<typeof noEntries>[0], more = {}) {
  const visit = detail(7, { state: 'on_site', technician_id: 1, title: 'Noisy door', ...more });
  serve({
    'GET /api/v1/field/visits/7': {
      ...visit,
      report: emptyReport({ entries: noEntries(entries) }),
      known: [],
      asked: [],
      sent: [],
      readers: [],
      lately: [],
      ahead: [{ state: 'on_site', actions: [] }],
    },
    'GET /api/v1/field/parts': PARTS,
    'GET /api/v1/field/van': [onVan('door-roller', 'Door roller', 1)],
    'GET /api/v1/field/items': [{ key: 'parking', words: 'Parking fee', unit: 'C62' }],
    'GET /api/v1/field/parts/car-lamp/near': [
      { place_id: 4, place: 'Van 2', technician: 'Ivor Dale', free: 3, seconds: 900, substitute: '' },
    ],
    'GET /api/v1/field/day': { technician_id: 1, day: TODAY, visits: [] },
    'GET /api/v1/session': { account: null },
    'POST /api/v1/field/phones': { id: 'x', key: btoa('k'.repeat(32)), now: at(10) * 1000 },
    'POST /api/v1/field/along': { names: [], news: [] },
    'POST /api/v1/field/deeds': () => {
      throw new Refusal(503, { code: 'busy', title: 'Try again.' });
    },
  });
  return draw(<WorkPage />, {
    path: `/field/7/work/${kind}`,
    route: '/field/$visitId/work/$kind',
    may: ['use', 'work_in_field'],
    account,
  });
}
const told = async () =>
  (await (await phoneOf(account)).journal.all()).map(({ deed }) => [deed.kind, deed.body]);
const planned = [
  { code: 'door-roller', name: 'Door roller', quantity: 2, unit: 'C62', tracking: 'plain' as const },
];
const presence = (more = {}) => ({
  technician_id: 1,
  name: 'Ines Falk',
  departed: at(8),
  arrived: at(8, 20),
  finished: null,
  held: [],
  ...more,
});

describe('parts at a visit', () => {
  it('says of a planned one whether it was used, and how many there are on the van', async () => {
    const { user } = await show('parts', { planned });
    const part = within(await screen.findByRole('group', { name: 'Door roller' }));
    expect(await part.findByText('2 planned · 1 on your van, shelf A3')).toBeVisible();
    await user.click(part.getByRole('button', { name: 'Used' }));
    const line = within(await part.findByRole('group', { name: 'Door roller, used' }));
    expect(line.getByText(/By the books 1 of it is not on your van/)).toBeVisible();
    await user.click(line.getByRole('button', { name: 'One more' }));
    await waitFor(() => expect(line.getByText('3')).toBeVisible());
    const quantities = (await told()).map(([, body]) => body as { id: string; quantity: number });
    expect(quantities.map(({ quantity }) => quantity)).toEqual([2, 3]);
    // One line, whoever of the crew ticks it.
    expect(new Set(quantities.map(({ id }) => id)).size).toBe(1);
    await user.click(part.getByRole('button', { name: 'Not needed' }));
    await waitFor(() => expect(part.queryByRole('group', { name: 'Door roller, used' })).toBeNull());
    expect(part.getByRole('button', { name: 'Not needed' })).toHaveAttribute('aria-pressed', 'true');
  });

  it('names the line of a planned part as the server does', () => {
    expect(lineOf(7, 'door-roller')).toBe('17b357b6-973b-5a5c-b2b8-594cd6f8d9b4');
  });

  it('finds another one by the beginning of its words or by its label, and asks for what is not there', async () => {
    const { user } = await show('parts', {});
    await user.type(await screen.findByLabelText(/Another part/), 'lam');
    await user.click(await screen.findByRole('button', { name: /Car lamp P-1002 · not on your van/ }));
    const line = within(await screen.findByRole('group', { name: 'Car lamp, used' }));
    // The van is counted, and has none: who has it is a press away.
    expect(line.getByText(/By the books 1 of it is not on your van/)).toBeVisible();
    await user.click(line.getByRole('button', { name: 'Who has it?' }));
    expect(await line.findByText(/3 free, 15 min away/)).toBeVisible();
    await user.click(line.getByRole('button', { name: 'More' }));
    await user.selectOptions(line.getByLabelText('Taken from'), 'Elsewhere');
    await user.type(line.getByLabelText('From where?'), 'hardware shop');
    await user.tab();
    expect(await line.findByRole('button', { name: 'from: hardware shop' })).toBeVisible();
    await user.click(line.getByRole('button', { name: 'Take off' }));
    await waitFor(() => expect(screen.queryByRole('group', { name: 'Car lamp, used' })).toBeNull());
    expect((await told()).map(([kind]) => kind)).toEqual(['part', 'part', 'part out']);
  });

  it('asks who has it and asks the office for what the van has not', async () => {
    const used = [
      {
        ...{ id: 'u', code: 'door-roller', name: 'Door roller', quantity: 4, unit: 'C62', serials: [] },
        ...{
          batch: '',
          place_id: null,
          source: '',
          elsewhere: '',
          booked: false,
          at: at(9),
          by: 'Ines Falk',
        },
      },
    ];
    const { user } = await show('parts', { used });
    const line = within(await screen.findByRole('group', { name: 'Door roller, used' }));
    await user.click(await line.findByRole('button', { name: 'Ask for it' }));
    await user.click(line.getByRole('button', { name: 'Another part that fits will do' }));
    await user.click(line.getByRole('button', { name: 'Ask for 3 × Door roller' }));
    expect(await screen.findByText('3 × Door roller: asked')).toBeVisible();
    expect((await told())[0]).toMatchObject([
      'part asked',
      { code: 'door-roller', quantity: 3, must: true, substitute_allowed: true, needed_by: null },
    ]);
  });

  it('writes down what came out, also what is none of ours', async () => {
    const { user } = await show('parts', {});
    await user.click(await screen.findByRole('button', { name: 'Something came out' }));
    await user.type(screen.getByLabelText('What came out?'), 'old lamp');
    await user.click(screen.getByRole('button', { name: 'Take “old lamp” as it is' }));
    await user.click(screen.getByRole('radio', { name: 'Thrown away' }));
    await user.click(screen.getByRole('button', { name: 'Write it down' }));
    expect(await screen.findByText(/1 × old lamp: thrown away/)).toBeVisible();
  });
});

describe('times at a visit', () => {
  it('come from the stamps, and are corrected with a reason only', async () => {
    const { user } = await show('time', { presences: [presence()] });
    const travel = within(await screen.findByRole('group', { name: 'Travel' }));
    expect(travel.getByText('20 min')).toBeVisible();
    expect(within(screen.getByRole('group', { name: 'Work' })).getByText(/^since /)).toBeVisible();
    await user.click(travel.getByRole('button', { name: 'Correct' }));
    const form = within(screen.getByRole('form', { name: 'Correct travel' }));
    await user.clear(form.getByLabelText('Minutes'));
    await user.type(form.getByLabelText('Minutes'), '45');
    expect(form.getByRole('button', { name: 'Write it down' })).toBeDisabled();
    await user.type(form.getByLabelText(/Why do the stamps/), 'road closed');
    await user.click(form.getByRole('button', { name: 'Write it down' }));
    expect(await travel.findByText('45 min')).toBeVisible();
    expect(travel.getByText(/“road closed”/)).toBeVisible();
    await user.click(screen.getByRole('button', { name: 'The times are right' }));
    await waitFor(async () =>
      expect((await told()).at(-1)).toEqual(['nothing more', { of: 'time', said: true }]),
    );
  });
});

describe('charges at a visit', () => {
  it('are found on the price list or written in words, and counted', async () => {
    const { user } = await show('charges', {});
    await user.type(await screen.findByLabelText('Something to charge'), 'park');
    await user.click(await screen.findByRole('button', { name: 'Parking fee' }));
    const rows = within(await screen.findByRole('list', { name: 'Charges' }));
    await user.click(rows.getByRole('button', { name: 'One more' }));
    await waitFor(() => expect(rows.getByText('2')).toBeVisible());
    await user.type(screen.getByLabelText(/Kilometres/), '12,4');
    await user.tab();
    await waitFor(async () => expect((await told()).at(-1)).toEqual(['mileage', { metres: 12_400 }]));
    expect((await told())[1]).toMatchObject(['charge', { item: 'parking', quantity: 2000 }]);
  });

  it('takes no distance that nobody drives', () => {
    expect(['', '12', '0,35', '2000', '2001', 'far', '-4'].map(metresOf)).toEqual([
      null,
      12_000,
      350,
      2_000_000,
      undefined,
      undefined,
      undefined,
    ]);
  });
});

describe('looking things up on the phone', () => {
  const find = (text: string) =>
    fitting(
      PARTS,
      text,
      ({ name, number }) => `${name} ${number}`,
      ({ barcode }) => barcode,
    ).map(({ code }) => code);

  it('finds by the beginnings of words, in any order, and by a label exactly', () => {
    expect(find('rol do')).toEqual(['door-roller']);
    expect(find('4006381333931')).toEqual(['door-roller']);
    expect(find('oller')).toEqual([]);
  });
});
