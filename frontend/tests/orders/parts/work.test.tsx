import { screen, waitFor, within } from '@testing-library/react';
import { describe, expect, it } from 'vitest';
import type { SchemaOrderDetailOut } from '@/api/types';
import { Work } from '@/features/orders/page/Work';
import { draw } from '../../drawn';
import { askedOf, Refusal, serve } from '../../server';

const ORDER = {
  id: 90,
  version: 5,
  number: 'W-1',
  state: 'open',
  tasks: ['Oil it'],
  checklist: [{ key: 'oil', label: 'Oiled?', kind: 'yes_no', required: 'to close' }],
  parts: { 'Door roller': 2 },
} as unknown as SchemaOrderDetailOut;
const PUT = 'PUT /api/v1/orders/90/work';

const show = (order = ORDER, answer: unknown = ORDER, canChange = true) => {
  serve({ [PUT]: answer });
  return draw(<Work row={order} canChange={canChange} />);
};

describe('what is to be done', () => {
  it('shows tasks, parts and the checklist', async () => {
    await show();
    const shown = await screen.findByRole('region', { name: 'What is to be done' });
    expect(shown).toHaveTextContent('2 × Door roller');
    expect(shown).toHaveTextContent('Oiled? yes or no, needed to close');
  });

  it('is changed for this order', async () => {
    const { user } = await show();
    await user.click(await screen.findByRole('button', { name: 'Change for this order' }));
    const form = within(screen.getByRole('form', { name: 'What is to be done' }));
    await user.type(form.getByLabelText('Tasks, one a line, in order'), '{End}{Enter}Sweep up');
    await user.clear(form.getByLabelText('Words'));
    await user.type(form.getByLabelText('Words'), 'Oiled and wiped?');
    await user.click(form.getByRole('button', { name: 'Save for this order' }));
    await waitFor(() => expect(askedOf(PUT)).toHaveLength(1));
    expect(askedOf(PUT)[0]!.body).toMatchObject({
      version: 5,
      tasks: ['Oil it', 'Sweep up'],
      questions: [{ key: 'oil', label: 'Oiled and wiped?' }],
    });
  });

  it('keeps what was typed when it is refused', async () => {
    const { user } = await show(ORDER, () => {
      throw new Refusal(409, { code: 'stale', title: 'Milo Tarn was faster.' });
    });
    await user.click(await screen.findByRole('button', { name: 'Change for this order' }));
    await user.type(screen.getByLabelText('Tasks, one a line, in order'), '{End}{Enter}Sweep up');
    await user.click(screen.getByRole('button', { name: 'Save for this order' }));
    expect(await screen.findByText('Milo Tarn was faster.')).toBeVisible();
    expect(screen.getByLabelText('Tasks, one a line, in order')).toHaveValue('Oil it\nSweep up');
  });

  it.each([
    [{ state: 'done', over: true }, true],
    [{}, false],
  ])('stays as it is when it is over, and for who may not change it', async (more, canChange) => {
    await show({ ...ORDER, ...more } as SchemaOrderDetailOut, ORDER, canChange);
    await screen.findByText('Oil it');
    expect(screen.queryByRole('button', { name: 'Change for this order' })).toBeNull();
  });
});
