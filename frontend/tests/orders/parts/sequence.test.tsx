import { screen, waitFor, within } from '@testing-library/react';
import { describe, expect, it } from 'vitest';
import type { SchemaOrderDetailOut } from '@/api/types';
import { Sequence } from '@/features/orders/page/Sequence';
import { at, draw, HOUR } from '../../drawn';
import { askedOf, Refusal, serve } from '../../server';

const visit = (id: number, part_title: string, more = {}) => ({
  id,
  label: `W-1/${id}`,
  part_title,
  state: 'open',
  start: null,
  technician: null,
  crew: 1,
  duration_seconds: 2 * HOUR,
  promise: null,
  standby: null,
  needs: { Rigging: 2 },
  ...more,
});
const link = (id: number, first_id: number, second_id: number, more = {}) => ({
  id,
  first_id,
  second_id,
  kind: 'after',
  least: 0,
  greatest: null,
  ...more,
});
const ORDER = {
  id: 90,
  version: 5,
  visits: [visit(1, 'Survey'), visit(2, 'Strip out'), visit(3, 'Install', { crew: 2 })],
  links: [link(4, 1, 2, { least: 24 * HOUR })],
} as unknown as SchemaOrderDetailOut;
const LINKS = 'POST /api/v1/orders/90/links';

const show = async (more: Record<string, unknown> = {}, order = ORDER, canChange = true) => {
  serve({
    [LINKS]: ORDER,
    'POST /api/v1/orders/90/links/4/remove': ORDER,
    'POST /api/v1/orders/90/visits': ORDER,
    'POST /api/v1/orders/90/visits/3/spread': ORDER,
    'POST /api/v1/orders/90/visits/3/remove': ORDER,
    'POST /api/v1/runs': { id: 12 },
    ...more,
  });
  const drawn = await draw(<Sequence order={order} canChange={canChange} />);
  await screen.findByRole('heading', { name: `Visits · ${order.visits.length}` });
  return drawn;
};

describe('one visit of an order', () => {
  const BODY = 'PUT /api/v1/visits/2/fields';

  it('is renamed and given a deadline, everything else as it was', async () => {
    const full = visit(2, 'Strip out', {
      version: 7,
      priority: 3,
      due: null,
      earliest: null,
      notes: 'Key at the desk',
      pinned: false,
      worth: 120,
    });
    const order = { ...ORDER, visits: [visit(1, 'Survey'), full] } as unknown as SchemaOrderDetailOut;
    const { user } = await show({ [BODY]: full, 'GET /api/v1/orders/90': order }, order);
    await user.click(screen.getAllByRole('button', { name: 'Name, due' })[1]!);
    const form = within(screen.getByRole('form', { name: 'Change W-1/2' }));
    await user.clear(form.getByLabelText('What for'));
    await user.type(form.getByLabelText('What for'), 'Strip out and carry away');
    await user.type(form.getByLabelText('Due by the evening of'), '30.11{Enter}');
    await waitFor(() => expect(askedOf(BODY)).toHaveLength(1));
    expect(askedOf(BODY)[0]!.body).toEqual({
      version: 7,
      duration_seconds: 2 * HOUR,
      priority: 3,
      needs: { Rigging: 2 },
      promise: null,
      earliest: null,
      notes: 'Key at the desk',
      pinned: false,
      worth: 120,
      title: 'Strip out and carry away',
      due: at(17) + 3 * 24 * HOUR,
    });
    await waitFor(() => expect(screen.queryByRole('form', { name: 'Change W-1/2' })).toBeNull());
  });

  it('of what is over stays as it is', async () => {
    const order = {
      ...ORDER,
      visits: [visit(1, 'Survey', { state: 'done', over: true })],
    } as unknown as SchemaOrderDetailOut;
    await show({}, order);
    expect(screen.queryByRole('button', { name: 'Name, due' })).toBeNull();
  });
});

describe('the sequence of an order', () => {
  it('says each link the right way round, in the list and to whoever does not see the diagram', async () => {
    await show();
    const links = screen.getByRole('list', { name: 'Links' });
    expect(links).toHaveTextContent('W-1/2 comes after W-1/1at least 24 h later');
    expect(screen.getByRole('img', { name: 'Sequence: W-1/2 comes after W-1/1' })).toBeVisible();
  });

  it('ties two visits as they are read: this one comes after that one', async () => {
    const { user } = await show();
    const form = screen.getByRole('form', { name: 'Link' });
    expect(within(form).getByRole('button', { name: 'Tie them' })).toBeDisabled();
    await user.selectOptions(within(form).getByLabelText('Visit'), '3');
    await user.selectOptions(within(form).getByLabelText('to'), '2');
    await user.type(within(form).getByLabelText('at least so long after'), '1:30');
    await user.click(within(form).getByRole('button', { name: 'Tie them' }));
    await waitFor(() =>
      expect(askedOf(LINKS)[0]?.body).toEqual({
        version: 5,
        kind: 'after',
        first_id: 2,
        second_id: 3,
        least: 5400,
        greatest: null,
      }),
    );
  });

  it('asks for no gap where there is none', async () => {
    const { user } = await show();
    const form = screen.getByRole('form', { name: 'Link' });
    await user.selectOptions(within(form).getByLabelText('is tied'), 'together');
    expect(within(form).queryByLabelText('at least so long after')).toBeNull();
  });

  it('says why a link cannot be', async () => {
    const { user } = await show({
      [LINKS]: () => {
        throw new Refusal(422, { code: 'rejected', title: 'W-1/1 would come after itself.' });
      },
    });
    const form = screen.getByRole('form', { name: 'Link' });
    await user.selectOptions(within(form).getByLabelText('Visit'), '1');
    await user.selectOptions(within(form).getByLabelText('to'), '2');
    await user.click(within(form).getByRole('button', { name: 'Tie them' }));
    expect(await screen.findByText('W-1/1 would come after itself.')).toBeVisible();
  });

  it('unties', async () => {
    const { user } = await show();
    await user.click(screen.getByRole('button', { name: 'Untie W-1/2 from W-1/1' }));
    await waitFor(() => expect(askedOf('POST /api/v1/orders/90/links/4/remove')).toHaveLength(1));
  });

  it('is planned in one step, and the proposal is read on the board', async () => {
    const { user, router } = await show();
    await user.click(screen.getByRole('button', { name: 'Plan the sequence in one step' }));
    await waitFor(() => expect(router.state.location.pathname).toBe('/board'));
    expect(router.state.location.search).toMatchObject({ run: 12 });
    expect(askedOf('POST /api/v1/runs')[0]!.body).toMatchObject({
      kind: 'sequence',
      visit_ids: [1, 2, 3],
    });
  });

  it('gets a further visit with the skills of the first', async () => {
    const { user } = await show();
    await user.click(screen.getByRole('button', { name: 'Add a visit' }));
    const form = screen.getByRole('form', { name: 'New visit' });
    await user.type(within(form).getByLabelText('What for'), 'Commission');
    await user.type(within(form).getByLabelText('Length'), '45');
    await user.click(within(form).getByRole('button', { name: 'Add it' }));
    await waitFor(() =>
      expect(askedOf('POST /api/v1/orders/90/visits')[0]?.body).toMatchObject({
        title: 'Commission',
        duration_seconds: 2700,
        needs: { Rigging: 2 },
        crew: 1,
      }),
    );
    await waitFor(() => expect(screen.queryByRole('form', { name: 'New visit' })).toBeNull());
  });

  it('spreads a visit over days, and takes one away', async () => {
    const { user } = await show();
    const row = screen.getByRole('link', { name: 'W-1/3' }).closest('li')!;
    await user.click(within(row).getByRole('button', { name: 'Over several days' }));
    const days = within(row).getByLabelText('Over how many days');
    await user.clear(days);
    await user.type(days, '3{Enter}');
    await waitFor(() =>
      expect(askedOf('POST /api/v1/orders/90/visits/3/spread')[0]?.body).toMatchObject({ days: 3 }),
    );
    await user.click(within(row).getByRole('button', { name: 'Remove W-1/3' }));
    await waitFor(() => expect(askedOf('POST /api/v1/orders/90/visits/3/remove')).toHaveLength(1));
  });

  it('leads each visit to its day on the board', async () => {
    const placed = {
      ...ORDER,
      visits: [visit(1, 'Survey', { state: 'placed', start: at(9), technician: 'Ines' })],
    };
    await show({}, placed as never);
    const row = screen.getByRole('link', { name: 'W-1/1' }).closest('li')!;
    expect(row).toHaveTextContent('Fri 27 Nov 09:00 · Ines · 2 h');
    expect(within(row).getByRole('link', { name: 'W-1/1' })).toHaveAttribute(
      'href',
      expect.stringContaining('/board?visit=1&day=2026-11-27'),
    );
    expect(screen.queryByRole('button', { name: 'Plan the sequence in one step' })).toBeNull();
  });

  it('is only read by whoever may not change orders', async () => {
    await show({}, ORDER, false);
    expect(screen.queryByRole('form', { name: 'Link' })).toBeNull();
    expect(screen.queryByRole('button', { name: /Add a visit|Untie|Remove|Over several/ })).toBeNull();
  });
});
