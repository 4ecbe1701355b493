import { screen, waitFor, within } from '@testing-library/react';
import { describe, expect, it } from 'vitest';
import { ToldPage } from '@/features/field/told/ToldPage';
import { at, draw } from '../../drawn';
import { askedOf, Refusal, serve } from '../../server';

const deed = (id: string, step: string, more = {}) => ({
  id,
  visit_id: 7,
  order_id: 3,
  label: 'W-7 Millrace',
  technician_id: 1,
  technician: 'Ines Falk',
  kind: 'step',
  body: { step, note: '' },
  sentence: 'This visit is not yours (any more).',
  saw: { state: 'accepted', start: at(11) },
  state: 'sent',
  whose: 'Ivor Larkin',
  start: at(14),
  happened_at: at(8),
  received_at: at(8, 1),
  late: false,
  ...more,
});
const WAITING = 'GET /api/v1/field/waiting';

describe('what is told from the field', () => {
  it('shows both sides, in the order in which it was done', async () => {
    const late = { happened_at: at(10, 12), received_at: at(11, 40), late: true };
    const finished = deed('b', 'finish', { ...late, body: { step: 'finish', note: 'Roller replaced' } });
    serve({ [WAITING]: [deed('a', 'depart'), finished] });
    await draw(<ToldPage />);
    const visit = await screen.findByRole('region', { name: 'W-7 Millrace, Ines Falk' });
    expect(visit).toHaveTextContent('sent · Ivor Larkin · 27 Nov, 14:00');
    expect(visit).toHaveTextContent('accepted, to begin 27 Nov, 11:00');
    const done = within(visit).getAllByRole('listitem');
    expect(done.map((row) => row.textContent)).toEqual([
      'set out 27 Nov, 08:00',
      'finished “Roller replaced” 27 Nov, 10:12, came in 11:40',
    ]);
    expect(visit).toHaveTextContent('what was done after it follows as far as it can');
  });

  it('says of each kind of thing what it was, and of a note for oneself no more', async () => {
    const kinds: [string, object][] = [
      ['task', { words: 'Ride', done: true }],
      ['answer', { key: 'gap', value: 5 }],
      ['note', { reader: 'self', text: '' }],
      ['note', { reader: 'office', text: 'gate' }],
      ['acceptance', { ended: 'absent', words: 'gone' }],
    ];
    serve({ [WAITING]: kinds.map(([kind, body], index) => deed(`d${index}`, '', { kind, body })) });
    await draw(<ToldPage />);
    const done = within(await screen.findByRole('region', { name: /W-7/ })).getAllByRole('listitem');
    expect(done.map((row) => row.querySelector('b')!.textContent)).toEqual([
      'ticked “Ride”',
      'answered: 5',
      'wrote a note for themselves',
      'wrote a note for the office: gate',
      'nobody was there to sign',
    ]);
  });

  it('is decided with what was agreed', async () => {
    serve({
      [WAITING]: [deed('a', 'depart')],
      'POST /api/v1/field/waiting/a': { id: 'a', outcome: 'waiting', choice: 'keep', sentence: '' },
    });
    const { user } = await draw(<ToldPage />);
    await user.type(await screen.findByLabelText('What was agreed'), 'She turned round');
    await user.click(screen.getByRole('button', { name: 'Keep “set out” as told' }));
    const asked = () => askedOf('POST /api/v1/field/waiting/a');
    await waitFor(() => expect(asked()[0]?.body).toEqual({ choice: 'keep', words: 'She turned round' }));
    expect(await screen.findByText('Kept beside the visit')).toBeVisible();
  });

  it('says why it cannot count, and keeps what was typed', async () => {
    serve({
      [WAITING]: [deed('a', 'depart')],
      'POST /api/v1/field/waiting/a': () => {
        throw new Refusal(422, { code: 'not_theirs', title: 'The visit is Ivor Larkin’s now.' });
      },
    });
    const { user } = await draw(<ToldPage />);
    await user.type(await screen.findByLabelText('What was agreed'), 'Hers');
    await user.click(screen.getByRole('button', { name: 'Let it count' }));
    expect(await screen.findByRole('alert')).toHaveTextContent('The visit is Ivor Larkin’s now.');
    expect(screen.getByLabelText('What was agreed')).toHaveValue('Hers');
  });

  it('says when nothing waits', async () => {
    serve({ [WAITING]: [] });
    await draw(<ToldPage />);
    expect(await screen.findByText('Nothing waits for a decision.')).toBeVisible();
  });
});
