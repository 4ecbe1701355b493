import { screen, waitFor, within } from '@testing-library/react';
import { describe, expect, it } from 'vitest';
import { SendButton, SendVisitButton } from '@/features/planning/sending/SendButton';
import { draw, TODAY } from '../../drawn';
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
    serve({ 'GET /api/messages/preview': [sending(1), sending(2, { again: true })] });
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
      'GET /api/messages/preview': [sending(1), sending(2)],
      'POST /api/planning/send-day': { sent: 2 },
    });
    const { user } = await draw(<SendButton count={2} day={TODAY} days={3} who={1} />);
    await user.click(await screen.findByRole('button', { name: 'Send 2' }));
    await user.click(await screen.findByRole('button', { name: 'Send all 2' }));
    await waitFor(() => expect(screen.queryByRole('dialog')).toBeNull());
    expect(askedOf('POST /api/planning/send-day')[0]!.body).toEqual({
      day: TODAY,
      days: 3,
      technician_id: 1,
    });
  });

  it('sends nothing when the messages cannot be written, and can be tried again', async () => {
    let times = 0;
    serve({
      'GET /api/messages/preview': () => {
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
      'GET /api/messages/preview/7': [sending(7)],
      'POST /api/planning/visits/7/send': { ...detail(7), state: 'sent', version: 4 },
    });
    const { user } = await draw(<SendVisitButton visit={{ id: 7, version: 3 }} />);
    await user.click(await screen.findByRole('button', { name: 'Send' }));
    await user.click(await screen.findByRole('button', { name: 'Send it' }));
    await waitFor(() => expect(askedOf('POST /api/planning/visits/7/send')[0]?.body).toEqual({ version: 3 }));
  });
});
