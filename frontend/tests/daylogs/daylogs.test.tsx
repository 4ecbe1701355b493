import { screen } from '@testing-library/react';
import { expect, it } from 'vitest';
import { DayLogs } from '@/features/daylogs';
import { at, draw, TODAY } from '../drawn';
import { emptyLog } from '../field/reports';
import { serve } from '../server';

it('tells the office of somebody’s days what they came to and what nobody has explained', async () => {
  const day = emptyLog({
    day: TODAY,
    began: at(7),
    ended: at(16),
    began_typed: true,
    vehicle: 'Van 3',
    fuel: [{ id: 'f', at: at(9), millilitres: 41_300, amount: 6_820, size: 5, here: false }],
    explained: [{ key: 'no pause', words: 'ate in the van' }],
  });
  serve({
    'GET /api/v1/day-logs/of-technician/4': [
      {
        ...day,
        summary: { hours: 9 * 3600, pauses: 0, driving: 1800, at_visits: 7200, kilometres: 64, open: [] },
        odd: [{ key: 'no checks', words: 'The vehicle was not checked: why?' }],
      },
    ],
  });
  const { user } = await draw(<DayLogs technicianId={4} />);
  await user.click(await screen.findByRole('button', { name: /Day logs of the last/ }));
  expect(await screen.findByText('9 h of work · 30 min on the road · 64 km · Van 3')).toBeVisible();
  expect(screen.getByText('(typed)')).toBeVisible();
  expect(screen.getByText('The vehicle was not checked: why?')).toBeVisible();
  expect(screen.getByText(/ate in the van/)).toBeVisible();
  expect(screen.getByText(/receipt still on the phone/)).toBeVisible();
});
