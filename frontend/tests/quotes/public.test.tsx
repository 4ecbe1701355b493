import { screen, waitFor, within } from '@testing-library/react';
import { describe, expect, it, vi } from 'vitest';
import { PublicQuote } from '@/features/quotes/public/PublicQuote';
import { draw } from '../drawn';
import { askedOf, Refusal, serve } from '../server';

// A canvas cannot be drawn on here.
vi.mock('@/design/SignaturePad', () => ({
  SignaturePad: ({ onDraw }: { onDraw: (picture: string) => void }) => (
    <button type="button" onClick={() => onDraw('data:image/png;base64,AAAA')}>
      draw
    </button>
  ),
}));

const ADDRESS = 'abcdefghijklmnopqrstuvwxyz012345';
const at = (rest = '') => `/api/v1/public/quotes/${ADDRESS}${rest}`;
const totals = (gross: number) => ({
  ...{ lines: gross, off: 0, discounts: [], net: gross, tax: 0, taxes: [], gross },
});
const way = (key: string, name: string, gross: number, lines: unknown[] = []) => ({
  ...{ key, name, summary: '', lines, discounts: [], totals: totals(gross), deposit: 0 },
});
const line = (key: string, more = {}) => ({
  ...{ key, wording: `Line ${key}`, many: '1 ×', price: 100, amount: 100, discount: '', off: 0 },
  ...{ optional: false, chosen: false, ...more },
});
const QUOTE = {
  ...{ number: 'Q-1001', version: 1, title: 'Door drive', day: '2026-11-27', valid_until: '2026-12-27' },
  ...{ currency: 'EUR', with_tax: true, company: { name: 'Test Lifts', phone: '' }, customer: 'Seagate' },
  ...{ contact: 'Marta Vale', site: 'Hall', address: 'Road 1', equipment: '', author: 'Dora' },
  ...{ introduction: 'Hello', scope: 'It jams.', closing: 'Bye', terms: 'Pay.', changes: [], pictures: [] },
  attachments: [{ id: 9, name: 'drive.pdf', size: 2_100 }],
  ...{ digest: 'd'.repeat(64), problem: '', answer: null, questions: [] },
  options: [
    way('a', 'Repair', 10_000, [line('l1'), line('l2', { optional: true })]),
    way('b', 'Replace', 50_000, [line('l1')]),
  ],
};

const show = (quote: unknown = QUOTE, more = {}) => {
  serve({
    [`GET ${at()}`]: quote,
    [`POST ${at('/seen')}`]: null,
    [`POST ${at('/total')}`]: ({ body }: { body: unknown }) => {
      const { option, ticked } = body as { option: string; ticked: string[] };
      return { totals: totals(option === 'b' ? 50_000 : 10_000 + 2_000 * ticked.length), deposit: 0 };
    },
    [`POST ${at('/approve')}`]: { approved: true },
    ...more,
  });
  return draw(<PublicQuote />, { path: `/quote/${ADDRESS}`, route: '/quote/$address' });
};

describe('a quote as the customer reads it', () => {
  it('is signed with what was chosen, at the total that is shown', async () => {
    const { user } = await show();
    const form = within(await screen.findByRole('form', { name: 'Approve' }));
    await user.click(screen.getByLabelText(/Line l2/));
    await waitFor(() => expect(form.getByRole('status')).toHaveTextContent('€120.00'));
    expect(form.getByRole('button', { name: 'Approve it' })).toBeDisabled();
    await user.click(form.getByLabelText('I accept the terms above.'));
    await user.click(form.getByRole('button', { name: 'draw' }));
    await user.click(form.getByRole('button', { name: 'Approve it' }));
    await waitFor(() => expect(askedOf(`POST ${at('/approve')}`)).toHaveLength(1));
    expect(askedOf(`POST ${at('/approve')}`)[0]!.body).toEqual({
      ...{ option: 'a', ticked: ['l2'], name: 'Marta Vale', drawing: 'data:image/png;base64,AAAA' },
      ...{ digest: QUOTE.digest, gross: 12_000, accepts_terms: true },
    });
  });

  it('takes one of the ways, and what is ticked in another is of no account', async () => {
    const { user } = await show();
    await user.click(await screen.findByLabelText(/Line l2/));
    await user.click(screen.getByRole('radio', { name: 'Replace' }));
    await waitFor(() => expect(screen.getByRole('status')).toHaveTextContent('€500.00'));
    expect(askedOf(`POST ${at('/total')}`).at(-1)!.body).toEqual({ option: 'b', ticked: [] });
  });

  it('says why it was refused, and keeps what was typed', async () => {
    const { user } = await show(QUOTE, {
      [`POST ${at('/approve')}`]: () => {
        throw new Refusal(409, { code: 'changed', title: 'This quote has changed since you opened it.' });
      },
    });
    const name = await screen.findByLabelText('Your name', { selector: '[name="name"]' });
    await user.clear(name);
    await user.type(name, 'M. Vale');
    await user.click(screen.getByLabelText('I accept the terms above.'));
    await user.click(screen.getByRole('button', { name: 'Approve it' }));
    expect(await screen.findByText('This quote has changed since you opened it.')).toBeVisible();
    expect(name).toHaveValue('M. Vale');
  });

  it('offers nothing where it can no longer be answered, and says why', async () => {
    await show({ ...QUOTE, problem: 'This quote has expired.' });
    expect(await screen.findByText('This quote has expired.')).toBeVisible();
    expect(screen.queryByRole('form', { name: 'Approve' })).toBeNull();
    expect(screen.queryByRole('radio')).toBeNull();
  });

  it('says what was approved', async () => {
    const answer = {
      approved: true,
      at: 1_795_780_000,
      name: 'Marta Vale',
      option: 'b',
      ticked: [],
      gross: 50_000,
      digest: 'x',
    };
    await show({ ...QUOTE, problem: 'This quote was approved.', answer });
    expect(await screen.findByText(/Approved by Marta Vale.*Replace, €500.00 with tax/)).toBeVisible();
  });

  it('says so where there is none', async () => {
    await show(() => {
      throw new Refusal(404, { code: 'no_quote', title: 'There is no quote at this address (any more).' });
    });
    expect(await screen.findByText('There is no quote at this address (any more).')).toBeVisible();
  });

  it('has the files that go with it, at the quote’s own address', async () => {
    await show(QUOTE);
    const file = await screen.findByRole('link', { name: 'drive.pdf' });
    expect(file).toHaveAttribute('href', expect.stringContaining(`${at('/files/9')}`));
    expect(file.closest('li')).toHaveTextContent('3 KB');
  });

  it('takes a refusal with its reason', async () => {
    const { user } = await show(QUOTE, { [`POST ${at('/refuse')}`]: { approved: false } });
    await user.click(await screen.findByRole('button', { name: 'No, thank you…' }));
    await user.selectOptions(screen.getByLabelText('Why not?'), 'too late');
    await user.click(screen.getByRole('button', { name: 'Refuse it' }));
    await waitFor(() => expect(askedOf(`POST ${at('/refuse')}`)).toHaveLength(1));
    expect(askedOf(`POST ${at('/refuse')}`)[0]!.body).toEqual({
      name: 'Marta Vale',
      why: 'too late',
      note: '',
    });
  });
});
