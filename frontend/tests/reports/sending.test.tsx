import { screen, waitFor } from '@testing-library/react';
import { expect, it } from 'vitest';
import { VisitReport } from '@/features/reports';
import { emptyReport } from '../field/reports';
import { at, draw } from '../drawn';
import { askedOf, serve } from '../server';

const SENDING = '/api/v1/reports/of-visit/7/sending';
const readers = [{ name: 'Jonas Radley', address: 'radley@seagate.example' }];

it('sends the report to contacts and other addresses, and says to whom it went', async () => {
  serve({
    'GET /api/v1/reports/of-visit/7': emptyReport(),
    [`GET ${SENDING}`]: { sent: [], readers },
    [`POST ${SENDING}`]: {
      sent: [{ address: 'radley@seagate.example', at: at(10), by: 'Dora Quill', mailed: null }],
      readers,
    },
  });
  const { user } = await draw(<VisitReport visitId={7} />, { may: ['use', 'change_visits'] });
  await user.click(await screen.findByRole('button', { name: 'Send it' }));
  await user.click(await screen.findByRole('checkbox', { name: /Jonas Radley/ }));
  await user.type(screen.getByLabelText(/Other addresses/), 'a@b.example, c@d.example');
  await user.click(screen.getByRole('button', { name: 'Send the report' }));
  expect(await screen.findByText(/radley@seagate.example: on its way/)).toBeVisible();
  await waitFor(() =>
    expect(askedOf(`POST ${SENDING}`).map(({ body }) => body)).toEqual([
      { addresses: ['radley@seagate.example', 'a@b.example', 'c@d.example'] },
    ]),
  );
});

it('lets who may only read look at it', async () => {
  serve({
    'GET /api/v1/reports/of-visit/7': emptyReport(),
    [`GET ${SENDING}`]: { sent: [], readers },
  });
  const { user } = await draw(<VisitReport visitId={7} />, { may: ['use', 'see_orders'] });
  await user.click(await screen.findByRole('button', { name: 'Send it' }));
  expect(await screen.findByText(/does not send them/)).toBeVisible();
  expect(screen.queryByRole('button', { name: 'Send the report' })).toBeNull();
});
