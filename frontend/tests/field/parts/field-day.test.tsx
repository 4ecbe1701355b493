import 'fake-indexeddb/auto';
import { screen, waitFor } from '@testing-library/react';
import { expect, it } from 'vitest';
import { FieldDay } from '@/features/field/FieldDay';
import { KeepGoing } from '@/features/field/KeepGoing';
import { fileOf } from '@/features/field/SignOut';
import { phoneOf } from '@/features/field/usePhone';
import { at, draw, TODAY } from '../../drawn';
import { askedOf, Refusal, serve } from '../../server';
import { detail } from '../../board/worlds';
import { emptyLog } from '../reports';

const row = {
  ...detail(7, { state: 'accepted', technician_id: 1, title: 'Noisy door' }),
  known: [],
  ahead: [
    { state: 'accepted', actions: [{ step: 'depart', needs_note: false, to: 1 }] },
    { state: 'en_route', actions: [] },
  ],
};
const OUT = 'DELETE /api/auth/browser/v1/auth/session';

let account = 500;
async function show(deeds: () => unknown) {
  serve({
    'GET /api/v1/field/log': emptyLog({ began: 1 }),
    'GET /api/v1/field/day': { technician_id: 1, day: TODAY, visits: [row] },
    'GET /api/v1/session': { account: null },
    'POST /api/v1/field/phones': { id: 'x', key: btoa('k'.repeat(32)), now: at(10) * 1000 },
    'POST /api/v1/field/along': { names: [], news: [] },
    'POST /api/v1/field/deeds': deeds,
    [OUT]: {},
  });
  const page = (
    <>
      <KeepGoing />
      <FieldDay />
    </>
  );
  return draw(page, { path: '/field', may: ['use', 'work_in_field'], account: ++account });
}

const setOut = async () =>
  (await phoneOf(account)).journal.write({
    kind: 'step',
    visitId: 7,
    body: { step: 'depart', note: '' },
    basedOn: { state: 'accepted', start: at(11) },
    where: null,
  });

it('shows what was done on this phone, and does not sign out over what is only there', async () => {
  const { user } = await show(() => {
    throw new Refusal(503, { code: 'busy', title: 'Try again.' });
  });
  expect(await screen.findByText('accepted')).toBeVisible();
  await setOut();
  expect(await screen.findByText('en route')).toBeVisible();
  expect(screen.getByText(/1 thing is still on this phone: sent/)).toBeVisible();
  await user.click(screen.getByRole('button', { name: 'Sign out' }));
  expect(await screen.findByText(/1 thing is still on this phone, and only there/)).toBeVisible();
  const phone = await phoneOf(account);
  await phone.pictures.keep('photo', new Uint8Array([104, 105]));
  const saved: unknown = JSON.parse(await fileOf(phone, await phone.journal.all(), ['photo']));
  expect(saved).toMatchObject({
    deeds: [{ kind: 'step', visitId: 7, body: { step: 'depart' } }],
    pictures: { photo: btoa('hi') },
  });
  expect(screen.getByRole('button', { name: 'Save a copy to a file' })).toBeVisible();
  expect(askedOf(OUT)).toEqual([]);
});

it('signs out when nothing is left here', async () => {
  const { user } = await show(() => ({ now: 0, answers: [] }));
  expect(await screen.findByText('accepted')).toBeVisible();
  await user.click(screen.getByRole('button', { name: 'Sign out' }));
  await waitFor(() => expect(askedOf(OUT)).toHaveLength(1));
  expect(screen.queryByText(/only there/)).toBeNull();
});
