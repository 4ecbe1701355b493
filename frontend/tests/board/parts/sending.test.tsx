import { screen, waitFor, within } from '@testing-library/react';
import { describe, expect, it } from 'vitest';
import { SendButton, SendVisitButton } from '@/features/board/sending/SendButton';
import { at, draw, TODAY } from '../../drawn';
import { askedOf, Refusal, serve } from '../../server';
import { detail } from '../worlds';

const draft = (kind: string, name: string, channel: string, text: string) => ({
  kind,
  name,
  channel,
  address: '',
  text,
});
const sending = (visit_id: number, more = {}) => ({
  visit_id,
  label: `W-${visit_id}`,
  site: 'Seagate Hall',
  again: false,
  elsewhere: null,
  drafts: [
    draft('technician', 'Ines Falk', 'push', 'New visit Fri 27 Nov at 11:00.'),
    draft('customer', 'Seagate Stores', 'text', 'We come between 11 and 12.'),
  ],
  ...more,
});

describe('sending a day', () => {
  it('has nothing to do when everything is sent', async () => {
    serve({});
    await draw(<SendButton count={0} day={TODAY} days={1} />);
    expect(await screen.findByRole('button', { name: 'All sent' })).toBeDisabled();
  });

  it('shows every message first, and tells apart what was sent before', async () => {
    serve({ 'GET /api/v1/messages/preview': [sending(1), sending(2, { again: true })] });
    const { user } = await draw(<SendButton count={2} day={TODAY} days={1} />);
    await user.click(await screen.findByRole('button', { name: 'Send 2' }));
    const sheet = await screen.findByRole('dialog', { name: 'What is sent' });
    expect(
      await within(sheet).findByText(/2 visits, 1 of them changed since they were sent: 4 messages/),
    ).toBeVisible();
    const [first, second] = within(sheet).getAllByRole('listitem');
    expect(first).toHaveTextContent('text to Seagate Stores: We come between 11 and 12.');
    expect(first).not.toHaveTextContent('sent before');
    expect(second).toHaveTextContent('sent before, changed since');
  });

  it('sends when it was read, and closes', async () => {
    serve({
      'GET /api/v1/messages/preview': [sending(1), sending(2)],
      'POST /api/v1/board/send-day': { sent: 2, asked: 0, left: 0 },
    });
    const { user } = await draw(<SendButton count={2} day={TODAY} days={3} who={1} />);
    await user.click(await screen.findByRole('button', { name: 'Send 2' }));
    await user.click(await screen.findByRole('button', { name: 'Send all 2' }));
    await waitFor(() => expect(screen.queryByRole('dialog')).toBeNull());
    expect(askedOf('POST /api/v1/board/send-day')[0]!.body).toEqual({
      day: TODAY,
      days: 3,
      technician_id: 1,
      settled: [],
    });
  });

  it('sends nothing when the messages cannot be written, and can be tried again', async () => {
    let times = 0;
    serve({
      'GET /api/v1/messages/preview': () => {
        times += 1;
        if (times === 1) throw new Refusal(500, { code: 'http', title: 'The server met an error.' });
        return [sending(1)];
      },
    });
    const { user } = await draw(<SendButton count={1} day={TODAY} days={1} />);
    await user.click(await screen.findByRole('button', { name: 'Send 1' }));
    expect(await screen.findByText('The server met an error.')).toBeVisible();
    expect(screen.getByRole('button', { name: 'Send it' })).toBeDisabled();
    await user.click(screen.getByRole('button', { name: 'Try again' }));
    expect(await screen.findByText(/1 visit: 2 messages/)).toBeVisible();
  });
});

describe('sending one visit', () => {
  it('shows its messages, then sends it with the version that was seen', async () => {
    serve({
      'GET /api/v1/messages/preview/7': [sending(7)],
      'POST /api/v1/visits/7/send': { ...detail(7), state: 'sent', version: 4 },
    });
    const { user } = await draw(<SendVisitButton visit={{ id: 7, version: 3 }} />);
    await user.click(await screen.findByRole('button', { name: 'Send' }));
    await user.click(await screen.findByRole('button', { name: 'Send it' }));
    await waitFor(() =>
      expect(askedOf('POST /api/v1/visits/7/send')[0]?.body).toEqual({ version: 3, how: null }),
    );
  });
});

describe('what stands on another day than promised', () => {
  const elsewhere = {
    promise: { start: at(10) + 86_400, end: at(12) + 86_400 },
    start: at(13),
    window: { start: at(12), end: at(14) },
  };
  const open = async () => {
    serve({
      'GET /api/v1/messages/preview': [sending(1), sending(2, { elsewhere })],
      'POST /api/v1/board/send-day': { sent: 1, asked: 0, left: 1 },
    });
    const drawn = await draw(<SendButton count={2} day={TODAY} days={1} />);
    await drawn.user.click(await screen.findByRole('button', { name: 'Send 2' }));
    const list = within(await screen.findByRole('list', { name: 'Messages' }));
    const [, second] = await list.findAllByRole('listitem');
    return { ...drawn, second: second! };
  };

  it('is left out until somebody says what becomes of the promise', async () => {
    const { user, second } = await open();
    expect(second).toHaveTextContent('Promised Sat 28 Nov 10:00–12:00, placed Fri 27 Nov 13:00.');
    expect(second).not.toHaveTextContent('push to');
    expect(screen.getByText(/2 visits, 1 on another day than promised: 2 messages/)).toBeVisible();
    await user.click(screen.getByRole('button', { name: 'Send 1 of 2' }));
    await waitFor(() =>
      expect(askedOf('POST /api/v1/board/send-day')[0]?.body).toMatchObject({ settled: [] }),
    );
  });

  it.each([
    [/^The customer agreed: promise Fri 27 Nov 12:00–14:00/, 'changed', 2, 4],
    [/^The promise stays/, 'keep', 1, 3],
    [/^Ask the customer first/, 'ask', 0, 2],
  ])('is settled: %s', async (choice, how, drafts, all) => {
    const { user, second } = await open();
    await user.click(within(second).getByLabelText(choice));
    expect(within(second).queryAllByText(/ to .*:$/)).toHaveLength(drafts);
    expect(screen.getByText(new RegExp(`: ${all} messages`))).toBeVisible();
    await user.click(screen.getByRole('button', { name: 'Send all 2' }));
    await waitFor(() =>
      expect(askedOf('POST /api/v1/board/send-day')[0]?.body).toMatchObject({
        settled: [{ visit_id: 2, how }],
      }),
    );
  });
});
