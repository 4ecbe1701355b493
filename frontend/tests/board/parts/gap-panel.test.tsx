import { screen, waitFor, within } from '@testing-library/react';
import { describe, expect, it, vi } from 'vitest';
import { GapPanel } from '@/features/board/gap/GapPanel';
import { at, draw } from '../../drawn';
import { askedOf, Refusal, serve } from '../../server';
import { board, placed, waiting } from '../worlds';

const filler = (id: number, more = {}) => ({
  visit: waiting(id),
  start: at(11, 20),
  extra_drive_seconds: 240,
  drive_seconds: 480,
  reasons: [],
  standby: false,
  ...more,
});
const GAP = { who: 1, start: at(11), end: at(13) };
const found = (...fillers: object[]) => ({ technician_id: 1, start: at(11), end: at(13), fillers });

const show = (given: unknown, gap: Parameters<typeof GapPanel>[0]['gap'] = GAP, canPlan = true) => {
  const on = { onShow: vi.fn(), onVisit: vi.fn(), onClose: vi.fn() };
  serve({
    'GET /api/v1/board/gap': given,
    'GET /api/v1/visits/7/next': given,
    'POST /api/v1/visits/21/place': placed(21),
    'POST /api/v1/visits/22/forward': placed(22),
  });
  return draw(<GapPanel board={board()} gap={gap} canPlan={canPlan} {...on} />).then((drawn) => ({
    ...drawn,
    ...on,
  }));
};

describe('a gap', () => {
  it('says whose, when and how long it is', async () => {
    await show(found(filler(21)));
    expect(await screen.findByRole('heading', { name: 'Free: Ines Falk' })).toBeVisible();
    expect(screen.getByRole('region', { name: 'Fill the gap' })).toHaveTextContent(/11:00 to 13:00, 2 h/);
  });

  it('numbers what fits, with its driving', async () => {
    await show(found(filler(21), filler(22, { extra_drive_seconds: -300 })));
    const list = await screen.findByRole('list', { name: 'What fits' });
    const [first, second] = await within(list).findAllByRole('listitem');
    expect(first).toHaveTextContent(/^1.*8 min to drive there · 4 min more in all · 1 h/);
    expect(second).toHaveTextContent(/^2.*5 min less in all/);
  });

  it('is filled with one press, and closes', async () => {
    const { user, onClose } = await show(found(filler(21)));
    await user.click(await screen.findByRole('button', { name: '11:20' }));
    await waitFor(() => expect(onClose).toHaveBeenCalled());
    expect(askedOf('POST /api/v1/visits/21/place')[0]!.body).toMatchObject({
      technician_id: 1,
      start: at(11, 20),
    });
  });

  it('lets somebody come forward who said they would', async () => {
    const promise = { start: at(15), end: at(17) };
    const { user, onClose } = await show(
      found(filler(22, { standby: true, visit: waiting(22, { promise }) })),
    );
    expect(await screen.findByText(/Standby: would come forward from .*15:00–17:00/)).toBeVisible();
    await user.click(screen.getByRole('button', { name: '11:20' }));
    await waitFor(() => expect(onClose).toHaveBeenCalled());
    expect(askedOf('POST /api/v1/visits/22/forward')).toHaveLength(1);
  });

  it('is shown on the line while one looks at it', async () => {
    const { user, onShow } = await show(found(filler(21)));
    await user.hover(await screen.findByText('Door upkeep'));
    expect(onShow).toHaveBeenLastCalledWith({ visitId: 21, technicianId: 1, start: at(11, 20) });
    await user.unhover(screen.getByText('Door upkeep'));
    expect(onShow).toHaveBeenLastCalledWith(null);
  });

  it('says so when nothing fits', async () => {
    await show(found());
    expect(await screen.findByText(/Nothing fits there without breaking/)).toBeVisible();
  });

  it('says so when no free time follows a visit', async () => {
    await show(null, { after: 7 });
    expect(await screen.findByText('No free time follows on that day.')).toBeVisible();
  });

  it('only tells whoever may not plan', async () => {
    await show(found(filler(21)), GAP, false);
    await screen.findByText('Door upkeep');
    expect(screen.queryByRole('button', { name: '11:20' })).toBeNull();
  });

  it('says what went wrong', async () => {
    await show(() => {
      throw new Refusal(503, { code: 'no_planner', title: 'The planner does not answer just now.' });
    });
    expect(await screen.findByText('The planner does not answer just now.')).toBeVisible();
  });
});
