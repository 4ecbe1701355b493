import { screen } from '@testing-library/react';
import { describe, expect, it } from 'vitest';
import { FirstSteps } from '@/features/set_up/first_steps/FirstSteps';
import { stepsOf } from '@/features/set_up/first_steps/steps';
import { draw } from '../drawn';
import { serve } from '../server';

const NOTHING = {
  named: false,
  depots: 0,
  technicians: 0,
  withHours: 0,
  withAccount: 0,
  jobTypes: 0,
  customers: 0,
};
const missing = (there: Partial<typeof NOTHING>) =>
  stepsOf({ ...NOTHING, ...there })
    .filter((step) => step.needed && !step.done)
    .map((step) => step.title);

describe('first steps', () => {
  it('are missing until somebody has hours at a depot', () => {
    expect(missing({})).toEqual(['Depots', 'Technicians', 'Working hours']);
    expect(missing({ depots: 1, technicians: 2 })).toEqual(['Working hours']);
    expect(missing({ depots: 1, technicians: 2, withHours: 1 })).toEqual([]);
  });

  it('are counted as they are there', async () => {
    serve({
      'GET /api/v1/company': { country: '', depots: [{ id: 1, name: 'Yard' }], areas: [] },
      'GET /api/v1/technicians': [
        { id: 1, name: 'Ines', depot: 'Yard', has_hours: false, has_account: false },
      ],
      'GET /api/v1/catalogue/job-types': [],
      'GET /api/v1/customers/latest': [],
    });
    await draw(<FirstSteps />, { may: ['use'] });
    expect(
      await screen.findByText('One step is missing before the first visit can be placed.'),
    ).toBeVisible();
    expect(screen.getByText('0 of 1 technician has working hours.')).toBeVisible();
    expect(screen.getAllByLabelText('done')).toHaveLength(2);
    expect(screen.getAllByLabelText('missing')).toHaveLength(1);
    expect(screen.getAllByLabelText('can wait')).toHaveLength(4);
  });

  it('say how many work from the phone', () => {
    const said = (there: Partial<typeof NOTHING>) =>
      stepsOf({ ...NOTHING, ...there }).find((step) => step.title === 'Accounts')!;
    expect(said({})).toMatchObject({ done: false });
    expect(said({ technicians: 2, withAccount: 1 })).toMatchObject({
      words: '1 of 2 technicians work from the phone.',
      done: false,
    });
    expect(said({ technicians: 1, withAccount: 1 }).done).toBe(true);
  });

  it('end with the way to the first call', async () => {
    serve({
      'GET /api/v1/company': { country: '', depots: [{ id: 1, name: 'Yard' }], areas: [] },
      'GET /api/v1/technicians': [{ id: 1, name: 'Ines', depot: 'Yard', has_hours: true, has_account: true }],
      'GET /api/v1/catalogue/job-types': [{ id: 4, name: 'Door', retired: false }],
      'GET /api/v1/customers/latest': [],
    });
    await draw(<FirstSteps />, { may: ['use'] });
    expect(await screen.findByRole('link', { name: 'Take the first call' })).toBeVisible();
  });
});
