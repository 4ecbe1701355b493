import { screen, waitFor, within } from '@testing-library/react';
import { describe, expect, it, vi } from 'vitest';
import { Backlog } from '@/features/board/backlog/Backlog';
import { filtersSet } from '@/features/board/backlog/BacklogFilters';
import type { WaitingSearch } from '@/features/board/search';
import { at, draw, TODAY } from '../../drawn';
import { askedOf, serve } from '../../server';
import { waiting } from '../worlds';

const BACKLOG = 'POST /api/v1/board/backlog';
const PROMISED = waiting(1, {
  reasons: ['nobody'],
  promise: { start: at(12), end: at(14) },
  title: 'Lift stopped',
});
const ROWS = [
  PROMISED,
  waiting(2, { reasons: ['unplaced'], title: 'Noisy door' }),
  waiting(3, { reasons: ['no duration'], duration_seconds: null, title: 'Look and report', area: null }),
];

const show = async (search: WaitingSearch = {}, rows = ROWS) => {
  serve({
    [BACKLOG]: { total: 3, visits: rows },
    'GET /api/v1/catalogue/job-types': [{ id: 4, name: 'Noisy door', retired: false }],
    'GET /api/v1/company': {
      name: 'Test Lifts',
      time_zone: 'Atlantic/Azores',
      areas: [
        { id: 1, name: 'Millrace' },
        { id: 2, name: 'Old Quay' },
      ],
    },
    'GET /api/v1/company/settings': { settings: [{ key: 'tags', value: ['key account'] }] },
    'GET /api/v1/company/fields': [],
    'GET /api/v1/people/skills': [{ code: 'doors', name: 'Door drives', retired: false }],
    'GET /api/v1/orders/views': [],
  });
  const on = { onText: vi.fn(), onWaiting: vi.fn(), onPress: vi.fn(), onKey: vi.fn() };
  const near = { lon: -24.6, lat: 47.2, label: 'Seagate Hall' };
  const part = (
    <Backlog
      day={TODAY}
      text=""
      waiting={search}
      near={near}
      selectedId={null}
      chosen={new Set()}
      liftedId={null}
      aimed={false}
      {...on}
    />
  );
  return { ...(await draw(part)), ...on };
};

describe('the backlog', () => {
  it('is split by what is wrong, the promised ones first, each with its count', async () => {
    await show();
    const splits = await screen.findByRole('group', { name: 'What is wrong' });
    await waitFor(() => expect(within(splits).getAllByRole('button')).toHaveLength(3));
    expect(
      within(splits)
        .getAllByRole('button')
        .map((row) => row.textContent),
    ).toEqual(['Promised 1', 'No duration 1', 'Not placed 1']);
    expect(screen.getByText('Promised, nobody assigned · 1')).toBeVisible();
  });

  it('says of each what counts', async () => {
    await show();
    const row = (await screen.findByText('Lift stopped')).closest('button')!;
    expect(row).toHaveTextContent('12:00–14:00 · 1 h · Millrace');
    expect(within(row).getByLabelText('promise broken')).toBeVisible();
    expect(screen.getByText('Look and report').closest('button')).toHaveTextContent(
      'length unknown · outside every area',
    );
  });

  it('shows one split alone', async () => {
    const { user, onWaiting } = await show({ sort: 'oldest' });
    await user.click(await screen.findByRole('button', { name: 'No duration 1' }));
    expect(onWaiting).toHaveBeenCalledWith({ sort: 'oldest', reason: 'no duration' });
  });

  it('of one split lists only that, and counts the others', async () => {
    await show({ reason: 'nobody' });
    expect(await screen.findByText('Lift stopped')).toBeVisible();
    expect(screen.queryByText('Noisy door')).toBeNull();
    expect(screen.getByRole('button', { name: 'Not placed 1' })).toBeVisible();
  });

  it('is searched once the typing rests', async () => {
    const { user, onText } = await show();
    await user.type(await screen.findByLabelText('Search the backlog'), 'ferry gate');
    await waitFor(() => expect(onText).toHaveBeenLastCalledWith('ferry gate'));
    expect(onText.mock.calls.length).toBeLessThan(4);
  });

  it('says nothing by itself: who leaves at once is not called back', async () => {
    const { onText } = await show();
    await screen.findByText('Lift stopped');
    await new Promise((done) => setTimeout(done, 300));
    expect(onText).not.toHaveBeenCalled();
  });

  it('asks the server for what is filtered', async () => {
    await show({ states: ['open'], priorities: [1, 2] });
    await waitFor(() =>
      expect(askedOf(BACKLOG)[0]?.body).toMatchObject({ states: ['open'], priorities: [1, 2] }),
    );
    expect(screen.getByRole('button', { name: 'Filter · 2' })).toBeVisible();
    expect(await screen.findByText('3 of 3 open')).toBeVisible();
  });

  it('says whether nothing waits or nothing is like that', async () => {
    await show({}, []);
    expect(await screen.findByText('Nothing is waiting. Everything has its place.')).toBeVisible();
  });

  it('narrowed to nothing says so', async () => {
    await show({ tag: 'key account' }, []);
    expect(await screen.findByText('No open visit matches.')).toBeVisible();
  });
});

describe('filters of the backlog', () => {
  it('are counted: a point is one, order and split are none', () => {
    expect(filtersSet({})).toBe(0);
    expect(filtersSet({ reason: 'nobody', sort: 'due' })).toBe(0);
    expect(filtersSet({ lon: 1, lat: 2, metres: 3000, sort: 'nearest' })).toBe(1);
    expect(filtersSet({ area_ids: [1], priorities: [], extra: {} })).toBe(1);
  });

  it.each([
    ['Priority', '2', { priorities: [1, 2] }],
    ['Area', 'Millrace', { area_ids: [1] }],
    ['Job type', '4', { job_type_ids: [4] }],
    ['Needs the skill', 'Door drives', { skill: 'doors' }],
    ['State', 'placed', { states: ['placed'] }],
    ['In order', 'worth', { sort: 'worth' }],
    ['Near Seagate Hall', '2000', { lon: -24.6, lat: 47.2, metres: 2000 }],
  ])('narrow by %s', async (label, value, wanted) => {
    const { user, onWaiting } = await show();
    await user.click(await screen.findByRole('button', { name: 'Filter' }));
    const filters = await screen.findByRole('group', { name: 'Filters of the backlog' });
    await waitFor(() =>
      expect(within(within(filters).getByLabelText(label)).getAllByRole('option').length).toBeGreaterThan(1),
    );
    await user.selectOptions(within(filters).getByLabelText(label), value);
    expect(onWaiting).toHaveBeenCalledWith(expect.objectContaining(wanted));
  });

  it('are said in words, several of one kind too, and taken away one by one', async () => {
    const { user, onWaiting } = await show({
      area_ids: [1, 2],
      job_type_ids: [4],
      priorities: [1, 2],
      due_by: TODAY,
    });
    const words = await screen.findByRole('list', { name: 'Only what is' });
    await within(words).findByText('Noisy door');
    await within(words).findByText('in Old Quay');
    expect(
      within(words)
        .getAllByRole('listitem')
        .map((row) => row.textContent?.trim()),
    ).toEqual([
      'priority 1 to 2',
      'in Millrace',
      'in Old Quay',
      'Noisy door',
      'due or promised by Fri 27 Nov',
    ]);
    await user.click(within(words).getByRole('button', { name: 'in Millrace: remove' }));
    expect(onWaiting).toHaveBeenCalledWith(expect.objectContaining({ area_ids: [2], job_type_ids: [4] }));
  });

  it('take one more area beside those chosen', async () => {
    const { user, onWaiting } = await show({ area_ids: [2] });
    await user.click(await screen.findByRole('button', { name: 'Filter · 1' }));
    const filters = await screen.findByRole('group', { name: 'Filters of the backlog' });
    await within(filters).findByRole('option', { name: 'Millrace' });
    await user.selectOptions(within(filters).getByLabelText('Area'), 'Millrace');
    expect(onWaiting).toHaveBeenCalledWith({ area_ids: [2, 1] });
  });

  it('are all taken away at once', async () => {
    const { user, onWaiting } = await show({ area_ids: [1], states: ['open'] });
    await user.click(await screen.findByRole('button', { name: 'Filter · 2' }));
    await user.click(await screen.findByRole('button', { name: 'Remove all filters' }));
    expect(onWaiting).toHaveBeenCalledWith({});
  });
});
