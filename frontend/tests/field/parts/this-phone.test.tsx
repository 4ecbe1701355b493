import 'fake-indexeddb/auto';
import { screen } from '@testing-library/react';
import { expect, it } from 'vitest';
import { KeepGoing } from '@/features/field/KeepGoing';
import { ThisPhone } from '@/features/field/ThisPhone';
import { FieldDatabase } from '@/features/field/sync/store';
import { phoneOf } from '@/features/field/usePhone';
import { at, draw } from '../../drawn';
import { Refusal, serve } from '../../server';

const account = 700;

it('says what is only here, and what was taken along', async () => {
  serve({
    'GET /api/v1/session': { account: null },
    'POST /api/v1/field/phones': { id: 'x', key: btoa('k'.repeat(32)), now: at(10) * 1000 },
    'POST /api/v1/field/along': {
      names: ['visit 7'],
      news: [{ name: 'visit 7', mark: 'a', content: { id: 7 } }],
    },
    'POST /api/v1/field/deeds': () => {
      throw new Refusal(503, { code: 'busy', title: 'Try again.' });
    },
  });
  const page = (
    <>
      <KeepGoing />
      <ThisPhone />
    </>
  );
  await draw(page, { path: '/field/this-phone', may: ['use', 'work_in_field'], account });
  expect(await screen.findByText(/Nothing: everything you recorded/)).toBeVisible();
  expect(await screen.findByText(/^1 thing, 1 kB, as of/)).toBeVisible();
  await (
    await phoneOf(account)
  ).journal.write({
    kind: 'step',
    visitId: 7,
    body: { step: 'finish', note: 'greased' },
    basedOn: null,
    where: null,
  });
  expect(await screen.findByText(/finished: greased/)).toBeVisible();
  const { pictures } = await phoneOf(account);
  await pictures.keep('photo', new Uint8Array(2000));
  await new FieldDatabase(account).pictures.update('photo', { sent: 500 });
  await phoneOf(account).then(({ journal }) =>
    journal.write({ kind: 'look', visitId: 7, body: {}, basedOn: null, where: null }),
  );
  expect(await screen.findByText('2 kB, 25 % sent')).toBeVisible();
});
