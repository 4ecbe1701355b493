import { screen, waitFor, within } from '@testing-library/react';
import { describe, expect, it, vi } from 'vitest';
import { ManyPanel } from '@/features/board/many/ManyPanel';
import type { ManyWish } from '@/features/board/many/wish';
import { draw } from '../../drawn';
import { askedOf, Refusal, serve, type Asked } from '../../server';
import { board, visit } from '../worlds';

const BULK = 'POST /api/v1/board/bulk';
const outcome = (visit_id: number, more = {}) => ({
  visit_id,
  label: `W-${visit_id}`,
  sentence: 'Ines Falk, Mon 30 Nov 11:00',
  problem: '',
  asks: false,
  warnings: [],
  ...more,
});
const answer = (...outcomes: ReturnType<typeof outcome>[]) => ({
  done: outcomes.filter((row) => !row.problem).length,
  outcomes,
});

const show = async (given: unknown, wish: ManyWish | null = null, visits = [visit(1), visit(2)]) => {
  serve({ [BULK]: given });
  const on = { onPlan: vi.fn(), onRun: vi.fn(), onClose: vi.fn() };
  return { ...(await draw(<ManyPanel visits={visits} board={board()} wish={wish} {...on} />)), ...on };
};
const bodies = () => askedOf(BULK).map((row) => row.body as { kind: string; preview: boolean });

describe('several visits at once', () => {
  it('say what would become of each before anything is done', async () => {
    await show(answer(outcome(1), outcome(2, { warnings: ['20 min after the promise'] })));
    const rows = await within(
      await screen.findByRole('list', { name: 'What becomes of them' }),
    ).findAllByRole('listitem');
    expect(rows[0]).toHaveTextContent('W-1 Ines Falk, Mon 30 Nov 11:00');
    expect(rows[1]).toHaveTextContent('20 min after the promise');
    expect(bodies().every((body) => body.preview)).toBe(true);
  });

  it('are then done in one step', async () => {
    const { user, onClose } = await show(answer(outcome(1), outcome(2)));
    await user.click(await screen.findByRole('button', { name: 'Do it to all 2' }));
    await waitFor(() => expect(onClose).toHaveBeenCalled());
    const done = bodies().filter((body) => !body.preview);
    expect(done).toEqual([expect.objectContaining({ kind: 'day', day: '2026-11-28' })]);
  });

  it('put first what cannot be done, and leave that as it is', async () => {
    await show(answer(outcome(1), outcome(2, { problem: 'It is pinned.', sentence: '' })));
    expect(await screen.findByRole('button', { name: 'Do it to 1 of 2' })).toBeEnabled();
    const [first] = within(screen.getByRole('list', { name: 'What becomes of them' })).getAllByRole(
      'listitem',
    );
    expect(first).toHaveTextContent('It is pinned.');
  });

  it('ask for a reason where one is needed, and look again with it', async () => {
    const asks = outcome(2, { asks: true, problem: 'Outside the promise' });
    const given = ({ body }: Asked) =>
      (body as { because: string }).because ? answer(outcome(1), outcome(2)) : answer(outcome(1), asks);
    const { user } = await show(given);
    expect(await screen.findByText('needs a reason')).toBeVisible();
    await user.type(screen.getByLabelText('Why all the same'), 'storm');
    expect(await screen.findByRole('button', { name: 'Do it to all 2' })).toBeEnabled();
  });

  it('are cancelled with a reason only', async () => {
    const { user } = await show(answer(outcome(1), outcome(2)));
    await user.selectOptions(await screen.findByLabelText('What with them'), 'cancel');
    expect(screen.getByRole('button', { name: /^Do it/ })).toBeDisabled();
    await user.type(screen.getByLabelText('Why they are cancelled, for us'), 'closed');
    await waitFor(() => expect(screen.getByRole('button', { name: 'Do it to all 2' })).toBeEnabled());
  });

  it('begin with what was wanted by dropping them', async () => {
    await show(answer(outcome(1), outcome(2)), { kind: 'shift', minutes: -45, who: 2 });
    expect(await screen.findByLabelText('Minutes later (negative: earlier)')).toHaveValue('-45');
    await waitFor(() => expect(bodies().at(-1)).toMatchObject({ seconds: -2700, technician_id: 2 }));
  });

  it('can be left to the planner', async () => {
    const { user, onPlan } = await show(answer(outcome(1), outcome(2)));
    await user.click(await screen.findByRole('button', { name: 'Let the planner place them' }));
    expect(onPlan).toHaveBeenCalledWith([1, 2]);
  });

  it('are left to the planner only as far as they can still move', async () => {
    const done = visit(2, { movable: false, state: 'done' });
    const { user, onPlan } = await show(answer(outcome(1)), null, [visit(1), done]);
    await user.click(await screen.findByRole('button', { name: 'Let the planner place 1 of them' }));
    expect(onPlan).toHaveBeenCalledWith([1]);
  });

  it('are not left to the planner when all are done', async () => {
    await show(answer(), null, [visit(1, { movable: false, state: 'done' })]);
    expect(await screen.findByLabelText('What with them')).toBeVisible();
    expect(screen.queryByRole('button', { name: /planner/ })).toBeNull();
  });

  it('say what the server refuses', async () => {
    await show(() => {
      throw new Refusal(422, { code: 'rejected', title: 'That day is out of reach.' });
    });
    expect(await screen.findByText('That day is out of reach.')).toBeVisible();
  });
});
