import { screen, within } from '@testing-library/react';
import { describe, expect, it, vi } from 'vitest';
import type { SchemaOffersOut } from '@/api/types';
import { OfferList } from '@/features/appointments/OfferList';
import type { Wish } from '@/features/appointments/model';
import { at, draw } from '../../drawn';
import { serve } from '../../server';

const WISH: Wish = { notBefore: '', weekdays: [], part: '' } as Wish;
const offer = (hour: number, score: number, more = {}) => ({
  start: at(hour),
  end: at(hour + 2),
  score,
  recommended: score > 60,
  reasons: ['2 other visits in Millrace', '12 min more driving', 'soon', 'a fourth reason'],
  parts: { near: 40, soon: 20 },
  moves: [],
  ...more,
});
const answer = (offers: object[], more = {}) =>
  ({
    offers,
    looked_at: 40,
    milliseconds: 45,
    refusals: [],
    remedies: [],
    recommend: true,
    urgent: null,
    ...more,
  }) as unknown as SchemaOffersOut;

const show = async (
  given: SchemaOffersOut | undefined,
  more: Partial<Parameters<typeof OfferList>[0]> = {},
) => {
  serve({});
  const on = { onWish: vi.fn(), onByTime: vi.fn(), onMore: vi.fn(), onTake: vi.fn() };
  const part = (
    <OfferList
      answer={given}
      asking={false}
      error={null}
      wish={WISH}
      byTime={false}
      more={false}
      taken={null}
      {...on}
      {...more}
    />
  );
  return { ...(await draw(part)), ...on };
};

describe('windows that can be kept', () => {
  it('come best first, with their reasons, and say which is best', async () => {
    await show(answer([offer(13, 82), offer(8, 40)]));
    const list = await screen.findByRole('radiogroup', { name: 'Windows that can be kept' });
    const [first, second] = within(list).getAllByRole('radio');
    expect(first).toHaveAccessibleName(/^Today 13:00–15:00\. 2 other visits in Millrace/);
    expect(first!.closest('div')).toHaveTextContent('best');
    expect(second!.closest('div')).not.toHaveTextContent('best');
    expect(screen.getByRole('status')).toHaveTextContent('2 of 40 windows can be kept');
  });

  it('name tomorrow and days after it', async () => {
    await show(answer([offer(24 + 9, 82), offer(72 + 9, 70)]));
    expect(await screen.findByText('Tomorrow')).toBeVisible();
    expect(screen.getByText('Mon 30 Nov')).toBeVisible();
  });

  it('are taken with one press, and given back', async () => {
    const { user, onTake } = await show(answer([offer(13, 82)]), { taken: { start: at(13), end: at(15) } });
    expect(await screen.findByRole('radio')).toBeChecked();
    await user.click(screen.getByRole('button', { name: 'No promise' }));
    expect(onTake).toHaveBeenCalledWith(null);
  });

  it('say when other work has to move for them', async () => {
    await show(answer([offer(13, 82, { moves: [{ label: 'W-1' }] })]));
    expect(await screen.findByText('Other work moves; it is placed at once.')).toBeVisible();
  });

  it('are narrowed by what the caller wishes', async () => {
    const { user, onWish, onByTime } = await show(answer([offer(13, 82)]));
    await user.click(await screen.findByRole('button', { name: 'Mornings' }));
    expect(onWish).toHaveBeenCalledWith({ ...WISH, part: 'morning' });
    await user.click(screen.getByRole('button', { name: 'Tue' }));
    expect(onWish).toHaveBeenLastCalledWith({ ...WISH, weekdays: [1] });
    await user.click(screen.getByRole('button', { name: 'Earliest first' }));
    expect(onByTime).toHaveBeenCalledWith(true);
  });

  it('take a wish back with the second press', async () => {
    const { user, onWish } = await show(answer([]), { wish: { ...WISH, part: 'morning', weekdays: [1, 3] } });
    await user.click(await screen.findByRole('button', { name: 'Mornings' }));
    expect(onWish).toHaveBeenCalledWith({ ...WISH, weekdays: [1, 3], part: '' });
    await user.click(screen.getByRole('button', { name: 'Tue' }));
    expect(onWish).toHaveBeenLastCalledWith({ ...WISH, part: 'morning', weekdays: [3] });
  });

  it('say why there are none, and what would help', async () => {
    const refusals = ['Nobody with Rescue 3 works that week'];
    const remedies = [{ sentence: 'With an hour of overtime, Fri 27 Nov 16:00' }];
    await show(answer([], { refusals, remedies }));
    expect(await screen.findByText('No window can be kept.')).toBeVisible();
    expect(screen.getByText(refusals[0]!)).toBeVisible();
    expect(screen.getByText(remedies[0]!.sentence)).toBeVisible();
  });

  it('do not stop the order when they cannot be found', async () => {
    await show(undefined, { error: new Error('The planner does not answer.') });
    expect(
      await screen.findByText(/The planner does not answer\. The order can still be made/),
    ).toBeVisible();
  });

  it('are being looked for', async () => {
    await show(undefined, { asking: true });
    expect(await screen.findByText(/Looking for windows…/)).toBeVisible();
  });

  it('calls the same one best whichever order they are listed in', async () => {
    await show(answer([offer(12, 90), offer(8, 70)]), { byTime: true });
    const rows = screen.getAllByRole('radio').map((radio) => radio.closest('label')!);
    expect(rows[0]).toHaveTextContent('08:00');
    expect(rows[0]).not.toHaveTextContent('best');
    expect(rows[1]).toHaveTextContent(/very good90 of 100best/);
  });

  it('calls nothing good that is not recommended', async () => {
    await show(
      answer([offer(12, 70), offer(8, 90, { recommended: false, reasons: ['Too late to respond'] })]),
    );
    const rows = screen.getAllByRole('radio').map((radio) => radio.closest('label')!);
    expect(rows[0]).toHaveTextContent(/good70 of 100best/);
    expect(rows[1]).toHaveTextContent(/Too late to respond.*not recommended90 of 100$/);
  });

  it('shows no points where windows are not weighed', async () => {
    await show(answer([offer(8, 70)], { recommend: false }));
    expect(screen.queryByText(/of 100/)).toBeNull();
  });
});
