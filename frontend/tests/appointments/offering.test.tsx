import { screen, waitFor } from '@testing-library/react';
import { describe, expect, it } from 'vitest';
import type { SchemaAction } from '@/api/types';
import { OfferTime } from '@/features/appointments';
import { at, draw } from '../drawn';
import { askedOf, Refusal, serve } from '../server';

const OFFERS = 'POST /api/v1/visits/7/offers';
const PROMISE = 'POST /api/v1/visits/7/promise';
const offer = (from: number, more: object = {}) => ({
  start: at(24 + from),
  end: at(26 + from),
  score: 80,
  parts: {},
  recommended: true,
  reasons: ['Ines is 6 min away', 'a promise less at risk'],
  starts_at: at(24 + from),
  technicians: [{ id: 1, name: 'Ines Falk' }],
  moves: [],
  ...more,
});
const answer = (offers: object[], more: object = {}) => ({
  ...{
    offers,
    shown: 4,
    looked_at: 9,
    refusals: [],
    remedies: [],
    milliseconds: 12,
    recommend: true,
    urgent: null,
  },
  ...more,
});
const BOTH: SchemaAction[] = ['use', 'offer_times', 'plan'];

const show = (offers: unknown, promised: unknown = {}, may = BOTH) => {
  serve({ [OFFERS]: offers, [PROMISE]: promised });
  return draw(<OfferTime visitId={7} version={3} />, { may });
};

describe('a time for a visit that waits', () => {
  it('is proposed, the best first, and promised as it was proposed', async () => {
    const { user } = await show(answer([offer(10), offer(14)]));
    expect(await screen.findByText(/Ines is 6 min away/)).toBeVisible();
    await user.click(screen.getByRole('button', { name: /^Promise Sat 28 Nov 10:00–12:00/ }));
    await waitFor(() => expect(askedOf(PROMISE)).toHaveLength(1));
    expect(askedOf(PROMISE)[0]!.body).toEqual({
      ...{ version: 3, assign: false, tell: true },
      window: { start: at(34), end: at(36) },
    });
  });

  it('may be another one, without a message, and given to whom it was proposed with', async () => {
    const { user } = await show(answer([offer(10), offer(14)]));
    await user.click(await screen.findByRole('button', { name: 'Other times' }));
    await user.click(screen.getByRole('radio', { name: /14:00–16:00/ }));
    await user.click(screen.getByLabelText('Write it to the customer'));
    await user.click(screen.getByLabelText('Give it to Ines Falk at once'));
    await user.click(screen.getByRole('button', { name: /^Promise .*14:00–16:00/ }));
    await waitFor(() => expect(askedOf(PROMISE)).toHaveLength(1));
    expect(askedOf(PROMISE)[0]!.body).toMatchObject({ assign: true, tell: false, window: { start: at(38) } });
  });

  it('is not given to anybody by whoever does not plan', async () => {
    await show(answer([offer(10)]), {}, ['use', 'offer_times']);
    expect(await screen.findByRole('button', { name: /^Promise/ })).toBeVisible();
    expect(screen.queryByLabelText(/^Give it to/)).toBeNull();
  });

  it('is said to be impossible with why, and what would help', async () => {
    await show(
      answer([], {
        refusals: ['Nobody has the skill'],
        remedies: [{ sentence: 'on Monday', start: 0, end: 0 }],
      }),
    );
    expect(await screen.findByText('Nobody has the skill')).toBeVisible();
    expect(screen.getByText('on Monday')).toBeVisible();
    expect(screen.queryByRole('button', { name: /^Promise/ })).toBeNull();
  });

  it('that has gone meanwhile is said, and another can be taken', async () => {
    const gone = () => {
      throw new Refusal(409, { code: 'window_gone', title: 'That window has gone meanwhile.' });
    };
    const { user } = await show(answer([offer(10)]), gone);
    await user.click(await screen.findByRole('button', { name: /^Promise/ }));
    expect(await screen.findByText(/has gone meanwhile/)).toBeVisible();
    expect(askedOf(OFFERS).length).toBeGreaterThan(1);
  });
});
