import { screen, waitFor, within } from '@testing-library/react';
import { describe, expect, it } from 'vitest';
import type { SchemaTechnicianRecordOut } from '@/api/types';
import { PeoplePage } from '@/features/set_up/people/PeoplePage';
import {
  agreedOf,
  endOf,
  isUnfinished,
  rowsOf,
  shiftsOf,
  weeksOn,
  wordsOf,
} from '@/features/set_up/people/week';
import { draw } from '../drawn';
import { askedOf, Refusal, serve } from '../server';

const shift = (weekday: number, start: string, end: string, more = {}) => ({
  weekday,
  start,
  end,
  rest_earliest: '11:00:00',
  rest_latest: '13:00:00',
  rest_minutes: 30,
  overtime_minutes: 60,
  gap_start: null,
  gap_end: null,
  on_call_until: null,
  week: 0,
  ...more,
});
const INES: SchemaTechnicianRecordOut = {
  id: 3,
  version: 2,
  name: 'Ines Falk',
  phone: '',
  email: '',
  depot_id: 1,
  area_ids: [],
  skills: { doors: 3 },
  has_photo: false,
  employed_from: null,
  employed_until: null,
  certificates: [
    { code: 'ropes', number: 'R-1', valid_until: '2026-11-20' },
    { code: 'fire', number: '', valid_until: '2026-12-10' },
  ],
  weeks: [
    {
      valid_from: '2000-01-01',
      valid_until: '2026-12-07',
      weeks: 1,
      current: 0,
      shifts: [shift(0, '08:00:00', '16:00:00')],
    },
    {
      valid_from: '2026-12-07',
      valid_until: null,
      weeks: 1,
      current: 0,
      shifts: [shift(0, '14:00:00', '22:00:00')],
    },
  ],
};
const DEPOT = { id: 1, version: 1, name: 'Northlock', address: 'x', lon: 1, lat: 2 };
const WEEK = 'PUT /api/v1/technicians/3/week';
const show = (more: Record<string, unknown> = {}, canChange = true) => {
  serve({
    'GET /api/v1/technicians': [{ id: 3, name: 'Ines Falk', depot: 'Northlock' }],
    'GET /api/v1/technicians/3': INES,
    'GET /api/v1/company': { name: 'Test', areas: [{ id: 4, name: 'Hale' }], depots: [DEPOT] },
    'GET /api/v1/people/certificates': [
      { code: 'ropes', name: 'Rope access', retired: false },
      { code: 'fire', name: 'Fire doors', retired: false },
      { code: 'gas', name: 'Gas work', retired: false },
    ],
    'GET /api/v1/people/skills': [{ code: 'doors', name: 'Door drives', retired: false }],
    'POST /api/v1/technicians': { ...INES, id: 9, name: 'Noor Abell' },
    'GET /api/v1/technicians/9': { ...INES, id: 9, name: 'Noor Abell' },
    'GET /api/v1/sites/saying-of/3': [
      { how: 'refused', site_id: 1, site: 'North gate', customer_id: 7, customer: 'Marram Ferries' },
    ],
    'GET /api/v1/sites/saying-of/9': [],
    [WEEK]: { ...INES, version: 3 },
    ...more,
  });
  return draw(<PeoplePage />, { may: canChange ? ['use', 'change_settings'] : ['use'] });
};

describe('technicians', () => {
  it('are added with their depot; the only one there is stands already', async () => {
    const { user } = await show();
    await user.click(await screen.findByRole('button', { name: 'New technician' }));
    const form = within(screen.getByRole('form', { name: 'Technician' }));
    await user.type(form.getByLabelText('Name'), 'Noor Abell');
    await user.click(await form.findByLabelText('Hale'));
    await user.click(form.getByRole('button', { name: 'Save technician' }));
    await waitFor(() =>
      expect(askedOf('POST /api/v1/technicians')[0]?.body).toEqual({
        name: 'Noor Abell',
        phone: '',
        email: '',
        depot_id: 1,
        area_ids: [4],
        skills: {},
      }),
    );
    expect(await screen.findByRole('form', { name: 'Working hours' })).toBeVisible();
  });

  it('need a depot first', async () => {
    await show({ 'GET /api/v1/company': { name: 'Test', areas: [], depots: [] } });
    expect(await screen.findByRole('link', { name: 'add a depot first' })).toBeVisible();
    expect(screen.queryByRole('button', { name: 'New technician' })).toBeNull();
  });

  it('get their hours from a day on, and it is said that others follow', async () => {
    const { user } = await show();
    await user.click(await screen.findByRole('button', { name: /Ines Falk/ }));
    const form = within(await screen.findByRole('form', { name: 'Working hours' }));
    expect(form.getByText(/Other hours begin on Mon 7 Dec/)).toBeVisible();
    const monday = within(form.getByRole('group', { name: 'Mon' }));
    expect(monday.getByLabelText('From')).toHaveValue('08:00');
    await user.clear(monday.getByLabelText('To'));
    await user.type(monday.getByLabelText('To'), '1730');
    await user.tab();
    await user.click(form.getByRole('button', { name: 'the same until Friday' }));
    await user.click(form.getByRole('button', { name: 'Save working hours' }));
    await waitFor(() => expect(askedOf(WEEK)).toHaveLength(1));
    const body = askedOf(WEEK)[0]!.body as { version: number; shifts: { weekday: number; end: string }[] };
    expect(body.version).toBe(2);
    expect(body.shifts.map((row) => [row.weekday, row.end])).toEqual(
      [0, 1, 2, 3, 4].map((day) => [day, '17:30']),
    );
  });

  it('keep what was typed when the hours are refused', async () => {
    const { user } = await show({
      [WEEK]: () => {
        throw new Refusal(422, {
          code: 'rejected',
          title: 'Monday: the gap must lie within the shift.',
          field: 'shifts',
        });
      },
    });
    await user.click(await screen.findByRole('button', { name: /Ines Falk/ }));
    const form = within(await screen.findByRole('form', { name: 'Working hours' }));
    await user.click(form.getByRole('button', { name: 'Save working hours' }));
    expect(await form.findByText('Monday: the gap must lie within the shift.')).toBeVisible();
    expect(within(form.getByRole('group', { name: 'Mon' })).getByLabelText('To')).toHaveValue('16:00');
  });

  it('show what customers say of them', async () => {
    const { user } = await show();
    await user.click(await screen.findByRole('button', { name: /Ines Falk/ }));
    const said = within(await screen.findByRole('region', { name: 'What customers say' }));
    expect(await said.findByText('refused')).toBeVisible();
    expect(said.getByRole('link', { name: 'Marram Ferries' })).toHaveAttribute('href', '/customers/7');
  });

  it('are only read by whoever may not change the set-up', async () => {
    const { user } = await show({}, false);
    await user.click(await screen.findByRole('button', { name: /Ines Falk/ }));
    expect(await screen.findByLabelText('Name')).toBeDisabled();
    expect(screen.queryByRole('button', { name: /Save/ })).toBeNull();
  });
});

describe('a week', () => {
  it('is the one that holds on the day', () => {
    expect(weeksOn(INES, '2026-12-06')?.shifts[0]?.start).toBe('08:00:00');
    expect(weeksOn(INES, '2026-12-07')?.shifts[0]?.start).toBe('14:00:00');
    expect(weeksOn({ ...INES, weeks: [] }, '2026-12-07')).toBeUndefined();
  });

  it('may end, which is said', async () => {
    expect(endOf(INES)).toBeNull();
    expect(endOf({ ...INES, weeks: INES.weeks.slice(0, 1) })).toBe('2026-12-07');
    const { user } = await show({ 'GET /api/v1/technicians/3': { ...INES, weeks: INES.weeks.slice(0, 1) } });
    await user.click(await screen.findByRole('button', { name: /Ines Falk/ }));
    expect(await screen.findByText('From Mon 7 Dec on there are no working hours.')).toBeVisible();
  });

  const one = (...shifts: ReturnType<typeof shift>[]) => ({ weeks: 1, current: 0, shifts });

  it('is sent as it was read', () => {
    const split = [shift(2, '06:00:00', '18:00:00', { gap_start: '10:00:00', gap_end: '14:00:00' })];
    const [sent] = shiftsOf(rowsOf(one(...split)), agreedOf(split));
    expect(sent).toMatchObject({ weekday: 2, start: '06:00', end: '18:00', gap_start: '10:00' });
    expect(sent).toMatchObject({ rest_minutes: 30, rest_earliest: '11:00', rest_latest: '13:00' });
  });

  it('without a break has no time for one', () => {
    const [sent] = shiftsOf(rowsOf(one(shift(0, '22:00:00', '06:00:00'))), {
      rest_minutes: 0,
      rest_earliest: 660,
      rest_latest: 840,
      overtime_minutes: 0,
    });
    expect(sent).toMatchObject({ start: '22:00', end: '06:00', rest_earliest: null, rest_latest: null });
  });

  it('may have a day on call only, which has no break', () => {
    const saturday = shift(5, '08:00:00', '08:00:00', { on_call_until: '20:00:00' });
    const rows = rowsOf(one(saturday));
    expect(rows[0]![5]).toMatchObject({ start: 480, end: null, onCall: 1200 });
    expect(wordsOf(rows[0]![5]!)).toBe('on call only');
    const [sent] = shiftsOf(rows, agreedOf([shift(0, '08:00:00', '16:00:00')]));
    expect(sent).toMatchObject({ start: '08:00', end: '08:00', on_call_until: '20:00', rest_minutes: 0 });
  });

  it('that runs now is the first of those that are sent', () => {
    const shifts = [
      shift(0, '06:00:00', '14:00:00', { week: 0 }),
      shift(0, '14:00:00', '22:00:00', { week: 1 }),
    ];
    const rows = rowsOf({ weeks: 2, current: 1, shifts });
    expect(rows.map((week) => week[0]!.start)).toEqual([14 * 60, 6 * 60]);
    expect(shiftsOf(rows, agreedOf(shifts)).map((sent) => [sent.week, sent.start])).toEqual([
      [0, '14:00'],
      [1, '06:00'],
    ]);
  });

  it('is not sent while a time is missing', () => {
    const whole = rowsOf(one(shift(0, '08:00:00', '16:00:00')));
    expect(isUnfinished(whole)).toBe(false);
    const monday = whole[0]![0]!;
    for (const wrong of [{ start: null }, { end: null }, { gapStart: 600 }])
      expect(isUnfinished([[{ ...monday, ...wrong }]])).toBe(true);
  });

  it('gets another one in turn, which begins on the Monday after', async () => {
    const { user } = await show();
    await user.click(await screen.findByRole('button', { name: /Ines Falk/ }));
    const form = within(await screen.findByRole('form', { name: 'Working hours' }));
    await user.click(form.getByRole('button', { name: 'Another week in turn' }));
    const monday = () => within(form.getByRole('group', { name: 'Mon' }));
    await user.clear(monday().getByLabelText('From'));
    await user.type(monday().getByLabelText('From'), '10');
    await user.tab();
    await user.click(form.getByRole('button', { name: /^Week 1/ }));
    expect(monday().getByLabelText('From')).toHaveValue('08:00');
    await user.click(form.getByRole('button', { name: 'Save working hours' }));
    await waitFor(() => expect(askedOf(WEEK)).toHaveLength(1));
    const body = askedOf(WEEK)[0]!.body as { weeks: number; shifts: { week: number; start: string }[] };
    expect(body.weeks).toBe(2);
    expect(body.shifts.map((row) => [row.week, row.start])).toEqual([
      [0, '08:00'],
      [1, '10:00'],
    ]);
  });
});

describe('what a technician holds', () => {
  const PAPERS = 'PUT /api/v1/technicians/3/certificates';
  const EMPLOYED = 'PUT /api/v1/technicians/3/employment';
  const open = async (more: Record<string, unknown> = {}) => {
    const { user } = await show(more);
    await user.click(await screen.findByRole('button', { name: /Ines Falk/ }));
    return { user, papers: within(await screen.findByRole('form', { name: 'Certificates' })) };
  };

  it('says which certificate has run out and which soon will', async () => {
    const { papers } = await open();
    const ropes = within(await papers.findByRole('group', { name: 'Rope access' }));
    expect(ropes.getByText('has run out')).toBeVisible();
    expect(
      within(papers.getByRole('group', { name: 'Fire doors' })).getByText('runs out soon'),
    ).toBeVisible();
  });

  it('is changed as a whole, with the version that was seen', async () => {
    const { user, papers } = await open({ [PAPERS]: { ...INES, version: 3 } });
    await user.click(await papers.findByRole('button', { name: 'Remove Rope access' }));
    await user.selectOptions(papers.getByLabelText('Add a certificate'), 'Gas work');
    const gas = within(papers.getByRole('group', { name: 'Gas work' }));
    await user.type(gas.getByLabelText('Number'), 'G-7');
    await user.type(gas.getByLabelText('Last day; empty: for good'), '1.3.2027');
    await user.click(papers.getByRole('button', { name: 'Save certificates' }));
    await waitFor(() =>
      expect(askedOf(PAPERS)[0]?.body).toEqual({
        version: 2,
        certificates: [
          { code: 'fire', number: '', valid_until: '2026-12-10' },
          { code: 'gas', number: 'G-7', valid_until: '2027-03-01' },
        ],
      }),
    );
  });

  it('stays as typed while another part of the page is saved, and goes with the version that led to', async () => {
    const { user, papers } = await open({
      [WEEK]: { ...INES, version: 3 },
      [PAPERS]: { ...INES, version: 4 },
    });
    await user.click(await papers.findByRole('button', { name: 'Remove Rope access' }));
    await user.click(screen.getByRole('button', { name: 'Save working hours' }));
    await waitFor(() => expect(askedOf(WEEK)).toHaveLength(1));
    await screen.findByText(/works these hours/);
    expect(papers.queryByRole('group', { name: 'Rope access' })).toBeNull();
    await user.click(papers.getByRole('button', { name: 'Save certificates' }));
    await waitFor(() =>
      expect(askedOf(PAPERS)[0]?.body).toEqual({
        version: 3,
        certificates: [{ code: 'fire', number: '', valid_until: '2026-12-10' }],
      }),
    );
  });

  it('ends with the employment, which leads to what is placed after it', async () => {
    const { user } = await open({
      'GET /api/v1/technicians/3': { ...INES, employed_until: '2026-12-18' },
      [EMPLOYED]: () => {
        throw new Refusal(422, {
          code: 'rejected',
          title: 'The last day lies before the first one.',
          field: 'employed_until',
        });
      },
    });
    const form = within(await screen.findByRole('form', { name: 'Employment' }));
    expect(form.getByRole('link', { name: 'stands on the board' })).toHaveAttribute(
      'href',
      expect.stringContaining('2026-12-18'),
    );
    await user.type(form.getByLabelText('First day; empty: since ever'), '1.1.2027');
    await user.click(form.getByRole('button', { name: 'Save employment' }));
    expect(await form.findByText('The last day lies before the first one.')).toBeVisible();
    expect(askedOf(EMPLOYED)[0]!.body).toEqual({
      version: 2,
      employed_from: '2027-01-01',
      employed_until: '2026-12-18',
    });
  });
});
