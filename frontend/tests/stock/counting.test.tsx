import { screen, waitFor } from '@testing-library/react';
import { describe, expect, it } from 'vitest';
import { CountPage } from '@/features/stock/counts/CountPage';
import { at, draw } from '../drawn';
import { askedOf, Refusal, serve, type Asked } from '../server';

const SHEET = '/api/v1/stock/counts/4';
const line = (code: string, more: object = {}) => ({
  code,
  part: code,
  number: `P-${code}`,
  shelf: 'A1',
  tracking: 'plain',
  found: null as number | null,
  serials: [] as string[],
  on_books: null,
  difference: 0,
  worth: null,
  explanation: '',
  ...more,
});
const sheet = (lines: ReturnType<typeof line>[], more: object = {}) => ({
  id: 4,
  version: 2,
  place_id: 1,
  place: 'Kilnfield',
  scope: 'one shelf',
  shelf: 'A1',
  state: 'open',
  begun_at: at(9),
  begun_by: 'Dora Quill',
  counted: lines.filter((row) => row.found !== null).length,
  counted_by: '',
  booked_by: '',
  needs_second: false,
  lines,
  ...more,
});

/** A sheet that keeps what is found on it, or refuses it. */
function show(lines: ReturnType<typeof line>[], refuse = false) {
  serve({
    [`GET ${SHEET}`]: () => sheet(lines),
    [`PUT ${SHEET}/found`]: ({ body }: Asked) => {
      if (refuse) throw new Refusal(422, { code: 'wrong', title: 'C7 lies on Van 3.' });
      for (const one of (body as { found: { code: string; quantity: number; serials: string[] }[] }).found)
        Object.assign(
          lines.find((row) => row.code === one.code)!,
          { found: one.quantity, serials: one.serials },
        );
      return sheet(lines);
    },
    'GET /api/v1/parts': [],
  });
  return draw(<CountPage />, {
    may: ['use', 'see_stock', 'move_stock'],
    path: '/stock/counts/4',
    route: '/stock/counts/$sheetId',
  });
}

describe('counting', () => {
  it('keeps what is typed with Enter and goes on to the next field', async () => {
    const { user } = await show([line('roller'), line('lamp')]);
    const first = await screen.findByLabelText('roller found');
    expect(first).toHaveValue('');
    await user.type(first, '12{Enter}');
    expect(screen.getByLabelText('lamp found')).toHaveFocus();
    expect(await screen.findByText('1 of 2 counted')).toBeVisible();
    expect(askedOf(`PUT ${SHEET}/found`)[0]!.body).toEqual({
      found: [{ code: 'roller', quantity: 12, serials: [] }],
    });
    expect(screen.getByRole('button', { name: /^All is counted/ })).toBeDisabled();
    await user.keyboard('0{Enter}');
    expect(await screen.findByText('2 of 2 counted')).toBeVisible();
    expect(screen.getByRole('button', { name: /^All is counted/ })).toBeEnabled();
  });

  it('counts pieces with numbers by their numbers', async () => {
    const { user } = await show([line('drive', { tracking: 'serial number' })]);
    await user.type(await screen.findByLabelText('Serial numbers of drive'), 'A1 A2, A3{Enter}');
    expect(await screen.findByText('1 of 1 counted')).toBeVisible();
    expect(askedOf(`PUT ${SHEET}/found`)[0]!.body).toEqual({
      found: [{ code: 'drive', quantity: 3, serials: ['A1', 'A2', 'A3'] }],
    });
  });

  it('sends nothing that is no number, and says so at the field', async () => {
    const { user } = await show([line('roller')]);
    const field = await screen.findByLabelText('roller found');
    await user.type(field, 'many');
    expect(field).toHaveAttribute('aria-invalid', 'true');
    await user.tab();
    expect(askedOf(`PUT ${SHEET}/found`)).toHaveLength(0);
  });

  it('leaves what is refused as it was typed', async () => {
    const { user } = await show([line('drive', { tracking: 'serial number' })], true);
    const field = await screen.findByLabelText('Serial numbers of drive');
    await user.type(field, 'C7{Enter}');
    expect(await screen.findByText('C7 lies on Van 3.')).toBeVisible();
    await waitFor(() => expect(field).toHaveValue('C7'));
  });
});
