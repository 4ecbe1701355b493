import { screen, within } from '@testing-library/react';
import { expect, it } from 'vitest';
import type { SchemaAccountRowOut } from '@/api/types';
import { Phones } from '@/features/accounts/list/Phones';
import { at, draw } from '../drawn';
import { askedOf, Refusal, serve } from '../server';

const ines = { id: 4, name: 'Ines Falk', technician_id: 9 } as SchemaAccountRowOut;
const phone = {
  id: 'aa',
  name: 'Chrome on Android',
  seen_at: at(9, 5),
  signed_out_at: null,
  signed_out_by: '',
};
const OUT = 'POST /api/v1/field/phones/aa/sign-out';

it('signs a lost phone out, and says who did', async () => {
  let now = phone as object;
  serve({
    'GET /api/v1/field/phones/of/4': () => [now],
    [OUT]: () => (now = { ...phone, signed_out_at: at(10), signed_out_by: 'Ada Reyne' }),
  });
  const { user } = await draw(<Phones row={ines} />);
  const row = within(await screen.findByRole('region', { name: 'Phones' }));
  expect(row.getByText(/last heard of .*09:05/)).toBeVisible();
  await user.click(row.getByRole('button', { name: 'Lost: sign it out' }));
  expect(await row.findByText(/signed out by Ada Reyne/)).toBeVisible();
  expect(row.queryByRole('button')).toBeNull();
  expect(askedOf(OUT)).toHaveLength(1);
});

it('says why a phone could not be signed out', async () => {
  serve({
    'GET /api/v1/field/phones/of/4': [phone],
    [OUT]: () => {
      throw new Refusal(404, { code: 'no_phone', title: 'There is no such phone.' });
    },
  });
  const { user } = await draw(<Phones row={ines} />);
  await user.click(await screen.findByRole('button', { name: 'Lost: sign it out' }));
  expect(await screen.findByText('There is no such phone.')).toBeVisible();
});
