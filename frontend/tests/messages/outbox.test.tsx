import { screen, waitFor, within } from '@testing-library/react';
import { describe, expect, it } from 'vitest';
import type { SchemaAction } from '@/api/types';
import { OutboxPage } from '@/features/messages/OutboxPage';
import { at, draw } from '../drawn';
import { askedOf, Refusal, serve, type Asked } from '../server';

const message = (id: number, more = {}) => ({
  id,
  kind: 'customer',
  channel: 'text',
  name: 'Seagate Stores',
  address: '+351 296 555 100',
  text: 'We come between 11 and 12.',
  visit_id: 7,
  order: 'W-7',
  written_at: at(9),
  state: 'delivered',
  not_before: null as number | null,
  delivered_at: at(9),
  reference: 'sim-1',
  failure: '',
  ...more,
});
const call = (id: number, more = {}) => ({
  id,
  visit_id: 7,
  visit_version: 3,
  can_offer: false,
  order: 'W-7',
  name: 'Seagate Stores',
  phone: '+351 296 555 100',
  why: 'This was sent and has been undone since: “It is off.”',
  made_at: at(9),
  done_at: null,
  ...more,
});
const FIRST = 2;
/** A server that gives pages of two, and only what failed where that is asked for. */
const outbox =
  (given: ReturnType<typeof message>[]) =>
  ({ query }: Asked) => {
    const wanted = given.filter((row) => !query.state || row.state === query.state);
    const from = Number(query.cursor || 0);
    const next = wanted.length > from + FIRST ? String(from + FIRST) : null;
    const failed = given.filter((row) => row.state === 'failed').length;
    return { rows: wanted.slice(from, from + FIRST), next, failed };
  };
const OFFERED = {
  ...{ shown: 4, looked_at: 1, refusals: [], remedies: [], milliseconds: 9, recommend: true, urgent: null },
  offers: [
    {
      ...{
        start: at(34),
        end: at(36),
        score: 80,
        parts: {},
        recommended: true,
        reasons: ['on the way'],
        moves: [],
      },
      ...{ starts_at: at(34), technicians: [{ id: 1, name: 'Ines Falk' }] },
    },
  ],
};
const AGENT: SchemaAction[] = ['use', 'see_messages', 'take_requests', 'see_board'];
const show = (
  given: ReturnType<typeof message>[] | (() => never),
  calls: unknown = [],
  may: SchemaAction[] = AGENT,
) => {
  serve({
    'GET /api/v1/messages': Array.isArray(given) ? outbox(given) : given,
    'GET /api/v1/messages/calls': calls,
    'POST /api/v1/messages/1/again': message(1, { state: 'queued' }),
    'POST /api/v1/messages/calls/3/done': call(3),
    'POST /api/v1/visits/7/offers': OFFERED,
    'POST /api/v1/visits/7/promise': {},
  });
  return draw(<OutboxPage />, { may });
};

describe('the outbox', () => {
  it('says to whom, by what, what, and whether it arrived', async () => {
    await show([message(1)]);
    const row = await screen.findByRole('row', { name: /Seagate Stores/ });
    expect(row).toHaveTextContent(
      /27 Nov, 09:00.*customer, \+351 296 555 100.*text.*between 11 and 12.*W-7.*delivered/,
    );
  });

  it('says why something did not arrive', async () => {
    await show([message(1, { state: 'failed', failure: 'no such number' })]);
    expect(await screen.findByText('no such number')).toBeVisible();
  });

  it('sends what failed again, and shows it alone', async () => {
    const { user } = await show([
      message(1, { state: 'failed', failure: 'busy' }),
      message(2, { name: 'Other' }),
    ]);
    expect(await screen.findByText('1 message was not delivered.')).toBeVisible();
    await user.click(screen.getByRole('button', { name: 'Only these' }));
    await waitFor(() => expect(screen.queryByText('Other')).toBeNull());
    await user.click(screen.getByRole('button', { name: 'Send again to Seagate Stores' }));
    await waitFor(() => expect(askedOf('POST /api/v1/messages/1/again')).toHaveLength(1));
  });

  it('shows older ones page by page, and counts what failed on all of them', async () => {
    const { user } = await show([
      message(1, { name: 'First' }),
      message(2, { name: 'Second' }),
      message(3, { name: 'Third', state: 'failed' }),
    ]);
    expect(await screen.findByText('1 message was not delivered.')).toBeVisible();
    expect(screen.queryByText('Third')).toBeNull();
    await user.click(screen.getByRole('button', { name: 'Show older ones' }));
    expect(await screen.findByText('Third')).toBeVisible();
    expect(screen.getByText('First')).toBeVisible();
    expect(screen.queryByRole('button', { name: 'Show older ones' })).toBeNull();
  });

  it('says how long a message still waits for an undo, and that it was called back', async () => {
    const waits = message(1, { state: 'queued', not_before: at(10, 40) + 15, delivered_at: null });
    await show([waits, message(2, { state: 'withdrawn' })]);
    expect(await screen.findByText(/goes in 1[0-5] s, unless undone/)).toBeVisible();
    expect(screen.getByText('called back, not sent')).toBeVisible();
  });

  it('lists who has to be called, until somebody did', async () => {
    const { user } = await show([], [call(3)]);
    const list = await screen.findByRole('region', { name: 'To be called' });
    expect(list).toHaveTextContent(/Seagate Stores.*296 555 100.*undone since.*W-7/);
    await user.click(screen.getByRole('button', { name: 'Seagate Stores was called' }));
    await waitFor(() => expect(askedOf('POST /api/v1/messages/calls/3/done')).toHaveLength(1));
  });

  it('leads to the visit on the board', async () => {
    const { user, router } = await show([message(1)]);
    await user.click(await screen.findByRole('button', { name: 'W-7' }));
    await waitFor(() => expect(router.state.location.pathname).toBe('/board'));
    await waitFor(() => expect(router.state.location.search).toMatchObject({ visit: 7 }));
  });

  it('says so when nothing was sent, and when it cannot be read', async () => {
    await show([]);
    expect(await screen.findByText('Nothing has been sent yet.')).toBeVisible();
  });

  it('says what went wrong', async () => {
    await show(() => {
      throw new Refusal(403, { code: 'not_permitted', title: 'You may not read messages.' });
    });
    expect(await screen.findByText('You may not read messages.')).toBeVisible();
  });

  it('proposes a time to whoever waits for one; promised, they were called', async () => {
    const { user } = await show([], [call(3, { can_offer: true })], [...AGENT, 'offer_times']);
    const row = await screen.findByRole('listitem', { name: 'Seagate Stores, W-7' });
    expect(await within(row).findByText(/on the way/)).toBeVisible();
    await user.click(within(row).getByRole('button', { name: /^Promise / }));
    await waitFor(() => expect(askedOf('POST /api/v1/messages/calls/3/done')).toHaveLength(1));
    expect(askedOf('POST /api/v1/visits/7/promise')[0]!.body).toMatchObject({ version: 3 });
  });

  it('offers no time to whom none can be given, or by whom none may', async () => {
    await show([], [call(3), call(4, { can_offer: true })]);
    expect(await screen.findAllByRole('button', { name: /was called/ })).toHaveLength(2);
    expect(screen.queryByRole('button', { name: 'Offer a time' })).toBeNull();
    expect(askedOf('POST /api/v1/visits/7/offers')).toHaveLength(0);
  });
});
