import { screen } from '@testing-library/react';
import { describe, expect, it } from 'vitest';
import { WhyHere } from '@/features/board/details/WhyHere';
import { at, draw } from '../../drawn';
import { Refusal, serve } from '../../server';

const told = (more = {}) => ({
  decided: null,
  reasons: ['Inside the promise, 1 h to spare', '6 min more driving, first of the day'],
  slips: ['Not sooner: the promise begins at 11:00', 'Could begin 1 h later; beyond that: W-2: 5 min late'],
  likely: { start: at(11), end: at(11, 20) },
  ...more,
});

describe('why a visit stands here', () => {
  it('says what speaks for it, what holds it and when it is likely to begin', async () => {
    serve({ 'GET /api/v1/visits/7/why': told() });
    await draw(<WhyHere visitId={7} />);
    const why = await screen.findByRole('region', { name: 'Why here' });
    expect(why).toHaveTextContent('Inside the promise, 1 h to spare · 6 min more driving');
    expect(why).toHaveTextContent('Not sooner: the promise begins at 11:00');
    expect(why).toHaveTextContent('Begins between 11:00 and 11:20 in eight of ten tries of this day');
  });

  it('names one time where the day hardly scatters', async () => {
    serve({ 'GET /api/v1/visits/7/why': told({ likely: { start: at(11), end: at(11) + 20 } }) });
    await draw(<WhyHere visitId={7} />);
    expect(await screen.findByRole('region', { name: 'Why here' })).toHaveTextContent('Begins at 11:00 in');
  });

  it('says who put it there, when, and the reason that was given', async () => {
    const decided = {
      at: at(9, 5),
      by: 'Milo Tarn',
      sentence: 'moved it to Ines Falk, 11:00',
      note: 'she asked',
    };
    serve({ 'GET /api/v1/visits/7/why': told({ decided, slips: [], likely: null }) });
    await draw(<WhyHere visitId={7} />);
    const why = await screen.findByRole('region', { name: 'Why here' });
    expect(why).toHaveTextContent(/Milo Tarn moved it to Ines Falk, 11:00, .*09:05: “she asked”/);
    expect(why).not.toHaveTextContent('Begins');
  });

  it('is not there while the visit stands nowhere', async () => {
    serve({ 'GET /api/v1/visits/7/why': null });
    await draw(<WhyHere visitId={7} />);
    await new Promise((done) => setTimeout(done, 30));
    expect(screen.queryByRole('region', { name: 'Why here' })).toBeNull();
  });

  it('says so when it could not be worked out', async () => {
    serve({
      'GET /api/v1/visits/7/why': () => {
        throw new Refusal(503, { code: 'busy', title: 'The planner does not answer.' });
      },
    });
    await draw(<WhyHere visitId={7} />);
    expect(await screen.findByText('Why here: The planner does not answer.')).toBeVisible();
  });
});
