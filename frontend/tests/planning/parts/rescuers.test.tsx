import { screen, waitFor, within } from '@testing-library/react';
import { describe, expect, it, vi } from 'vitest';
import { Rescuers } from '@/features/planning/details/Rescuers';
import { at, draw } from '../../drawn';
import { askedOf, serve } from '../../server';
import { detail, placed } from '../worlds';

const rescuer = (technician_id: number, name: string, more = {}) => ({
  technician_id,
  name,
  phone: '',
  doing: 'at Seagate Hall, free about 11:00',
  drive_seconds: 420,
  start: at(11, 10),
  reasons: [],
  asks: false,
  ...more,
});

const show = async (rows: object[], given = placed(7)) => {
  serve({
    'GET /api/planning/visits/7/rescuers': rows,
    'POST /api/planning/visits/7/give': given,
  });
  const onRepair = vi.fn();
  const drawn = await draw(<Rescuers visit={detail(7)} onRepair={onRepair} />);
  await drawn.user.click(await screen.findByRole('button', { name: 'Who can be there first?' }));
  return { ...drawn, onRepair };
};

describe('urgent work', () => {
  it('finds who can be there first, with what they are doing and the drive', async () => {
    await show([rescuer(1, 'Ines Falk'), rescuer(2, 'Ivor Larkin', { start: at(11, 30) })]);
    const [first] = within(await screen.findByRole('list', { name: 'Who can be there first' })).getAllByRole(
      'listitem',
    );
    expect(first).toHaveTextContent('Ines Falk');
    expect(first).toHaveTextContent('free about 11:00 · 7 min to drive');
    expect(within(first!).getByRole('button', { name: 'Give, 11:10' })).toBeVisible();
  });

  it('is given at once, and says that nothing has to give way', async () => {
    const { user } = await show([rescuer(1, 'Ines Falk')]);
    await user.click(await screen.findByRole('button', { name: 'Give, 11:10' }));
    expect(await screen.findByText('Nothing has to give way.')).toBeVisible();
    expect(askedOf('POST /api/planning/visits/7/give')[0]!.body).toMatchObject({
      technician_id: 1,
      start: at(11, 10),
      because: '',
    });
  });

  it('shows what it displaces, and the way to repair the day', async () => {
    const warned = placed(7, [
      { weight: 'warns', sentence: 'W-2 Hall: 20 min after the promise 11:00–12:00' },
    ]);
    const { user, onRepair } = await show([rescuer(1, 'Ines Falk')], warned);
    await user.click(await screen.findByRole('button', { name: 'Give, 11:10' }));
    const told = (await screen.findByText(/What it displaces/)).parentElement;
    expect(told).toHaveTextContent('W-2 Hall: 20 min after the promise 11:00–12:00');
    await user.click(screen.getByRole('button', { name: 'Repair the day' }));
    expect(onRepair).toHaveBeenCalled();
  });

  it('asks why where a limit is overridden, and gives it with the reason', async () => {
    const asks = {
      asks: true,
      reasons: [{ weight: 'asks', sentence: '1 h before the promise', limit: null }],
    };
    const { user } = await show([rescuer(1, 'Ines Falk', asks)]);
    await user.click(await screen.findByRole('button', { name: 'Give, 11:10' }));
    expect(askedOf('POST /api/planning/visits/7/give')).toHaveLength(0);
    await user.type(screen.getByLabelText('Why all the same'), 'They are trapped{Enter}');
    await waitFor(() =>
      expect(askedOf('POST /api/planning/visits/7/give')[0]?.body).toMatchObject({
        because: 'They are trapped',
      }),
    );
  });

  it('shows a few, and all of them to whoever wants somebody in particular', async () => {
    const { user } = await show(
      Array.from({ length: 8 }, (_, index) => rescuer(index + 1, `Nr ${index + 1}`)),
    );
    const list = await screen.findByRole('list', { name: 'Who can be there first' });
    expect(within(list).getAllByRole('button')).toHaveLength(5);
    await user.click(screen.getByRole('button', { name: '3 more' }));
    expect(within(list).getAllByRole('button')).toHaveLength(8);
  });

  it('says so when nobody may take it', async () => {
    await show([]);
    expect(await screen.findByText(/Nobody at work now may take it/)).toBeVisible();
  });
});
