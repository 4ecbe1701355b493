import 'fake-indexeddb/auto';
import { screen, waitFor, within } from '@testing-library/react';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { DayLog } from '@/features/field/log/DayLog';
import { millilitresOf } from '@/features/field/log/Fuel';
import { kilometresOf } from '@/features/field/log/Vehicle';
import { phoneOf } from '@/features/field/usePhone';
import { at, draw, TODAY } from '../../drawn';
import { Refusal, serve } from '../../server';
import { emptyLog } from '../reports';

vi.mock('@/features/field/work/smaller', () => ({
  smaller: () => Promise.resolve({ content: new Uint8Array([1, 2, 3]), media_type: 'image/jpeg' }),
}));

let account = 7_000;
beforeEach(() => {
  account += 1;
});

function show(log: Parameters<typeof emptyLog>[0]) {
  serve({
    'GET /api/v1/field/log': emptyLog(log),
    'GET /api/v1/session': { account: null },
    'POST /api/v1/field/phones': { id: 'x', key: btoa('k'.repeat(32)), now: at(10) * 1000 },
    'POST /api/v1/field/along': { names: [], news: [] },
    'POST /api/v1/field/deeds': () => {
      throw new Refusal(503, { code: 'busy', title: 'Try again.' });
    },
  });
  return draw(<DayLog />, {
    path: '/field/log',
    route: '/field/log',
    may: ['use', 'work_in_field'],
    account,
  });
}
const told = async () =>
  (await (await phoneOf(account)).journal.all()).map(({ deed }) => [deed.kind, deed.body, deed.visitId]);

describe('the day log', () => {
  it('begins, has a break and ends, without a signal', async () => {
    const { user } = await show({});
    await user.click(await screen.findByRole('button', { name: 'Begin the day' }));
    const times = await screen.findByRole('list', { name: 'Times' });
    await waitFor(() => expect(within(times).getByText(/^Began/)).toBeVisible());
    await user.click(screen.getByRole('button', { name: 'Begin a break' }));
    expect(await screen.findByText(/^Break .* until now/)).toBeVisible();
    await user.click(screen.getByRole('button', { name: 'End the day' }));
    expect(await screen.findByText('Nothing of this day is missing.')).toBeVisible();
    expect((await told()).map(([kind, , visit]) => [kind, visit])).toEqual([
      ['clock on', null],
      ['pause', null],
      ['clock off', null],
    ]);
  });

  it('asks for the vehicle, its odometer and the checks that the company wants', async () => {
    const questions = [{ key: 'tyres', label: 'Tyres are good', kind: 'yes_no', required: 'to close' }];
    const { user } = await show({ began: at(7), questions });
    await user.selectOptions(await screen.findByLabelText('You drive'), 'Van 3');
    await user.type(await screen.findByLabelText(/Odometer in the morning/), '123,456');
    await user.tab();
    await user.click(screen.getByRole('radio', { name: 'Yes' }));
    await waitFor(async () =>
      expect((await told()).map(([, body]) => body)).toEqual([
        { day: '2026-11-23', vehicle_id: 3, name: 'Van 3' },
        { day: '2026-11-23', odometer_began: 123_456 },
        { day: '2026-11-23', checks: { tyres: true } },
      ]),
    );
  });

  it('keeps fuel with the photo of its receipt', async () => {
    const { user } = await show({ began: at(7) });
    await user.click(await screen.findByRole('button', { name: 'I filled in fuel' }));
    await user.type(screen.getByLabelText('Litres'), '41,3');
    await user.type(screen.getByLabelText(/What it cost/), '68.20');
    await user.upload(
      screen.getByLabelText('Photo of the receipt'),
      new File(['x'], 'r.jpg', { type: 'image/jpeg' }),
    );
    await user.click(screen.getByRole('button', { name: 'Write it down' }));
    expect(await screen.findByText(/41\.3 l, €68\.20/)).toBeVisible();
    const [, body] = (await told())[0] as [string, { id: string; size: number }];
    expect(body).toMatchObject({ millilitres: 41_300, amount: 6820, size: 3 });
    const { pictures } = await phoneOf(account);
    expect((await pictures.waiting()).map(({ id }) => id)).toEqual([body.id]);
  });

  it('asks when the day began where only visits tell that it did', async () => {
    const visits = [{ id: 7, label: 'W-7', departed: at(8), arrived: at(9), finished: at(10), over: true }];
    const { user } = await show({ ended: at(17), visits, day: TODAY });
    const form = within(await screen.findByRole('form', { name: /When did the day begin/ }));
    await user.type(form.getByLabelText(/When did the day begin/), '07:30');
    await user.click(form.getByRole('button', { name: 'Answer' }));
    expect(await screen.findByText(/^Began .*\(typed\)/)).toBeVisible();
    // Nine hours without a break are asked about next.
    await user.type(await screen.findByRole('textbox', { name: /without a break/ }), 'ate in the van');
    await user.click(screen.getByRole('button', { name: 'Answer' }));
    expect(await screen.findByText('Nothing of this day is missing.')).toBeVisible();
  });

  it('asks on the next day when the one before ended, and then no more', async () => {
    const odd = [{ key: 'no end', words: 'When did the day end? It was not written down.' }];
    const { user } = await show({ earlier: [{ day: '2026-11-20', odd }] });
    const asked = within(await screen.findByRole('region', { name: 'Questions about 2026-11-20' }));
    await user.type(asked.getByLabelText(/When did the day end/, { selector: 'input' }), '16:30');
    await user.click(asked.getByRole('button', { name: 'Answer' }));
    await waitFor(() => expect(screen.queryByText(/is not whole/)).toBeNull());
    expect((await told())[0]).toMatchObject(['typed time', { day: '2026-11-20', which: 'ended' }, null]);
  });

  it('reads what people type for kilometres and litres', () => {
    expect(['123456', '123 456', '123.456', '12,5', 'far', ''].map(kilometresOf)).toEqual([
      123456,
      123456,
      123456,
      null,
      null,
      null,
    ]);
    expect(['41,3', '0', '1000', '1001', 'x'].map(millilitresOf)).toEqual([
      41_300,
      null,
      1_000_000,
      null,
      null,
    ]);
  });
});
