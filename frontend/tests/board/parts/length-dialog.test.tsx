import { screen, waitFor } from '@testing-library/react';
import { describe, expect, it } from 'vitest';
import { LengthDialog } from '@/features/board/lanes/LengthDialog';
import { grab } from '@/features/board/lanes/useBoardInteraction';
import { usePlace } from '@/features/board/commands';
import { at, draw } from '../../drawn';
import { asked, serve } from '../../server';
import { placed, visit } from '../worlds';

const UNMEASURED = visit(8, { start: null, technician_id: null, duration_seconds: null });

function Drop() {
  const place = usePlace();
  return (
    <>
      <button onClick={() => place.mutate({ visit: grab(UNMEASURED), technicianId: 1, start: at(13) })}>
        Drop
      </button>
      <LengthDialog />
    </>
  );
}

async function dropped() {
  serve({
    'POST /api/v1/visits/8/length': { ...UNMEASURED, version: 4, duration_seconds: 5400 },
    'POST /api/v1/visits/8/place': placed(8, [], { technician_id: 1, start: at(13) }),
  });
  const shown = await draw(<Drop />);
  await shown.user.click(await screen.findByRole('button', { name: 'Drop' }));
  return shown;
}

const bodies = () => asked.filter((row) => row.method === 'POST').map((row) => row.body);

describe('a visit without a length that is dropped', () => {
  it('is given one first, and placed with the version that led to', async () => {
    const { user } = await dropped();
    expect(bodies()).toEqual([]);
    await user.type(await screen.findByLabelText('Length'), '1:30{Enter}');
    await waitFor(() => expect(bodies()).toHaveLength(2));
    expect(bodies()).toEqual([
      { version: 3, seconds: 5400 },
      expect.objectContaining({ version: 4, start: at(13), technician_id: 1 }),
    ]);
    expect(screen.queryByRole('dialog')).toBeNull();
  });

  it('takes a usual length with one press, and says what it could not read', async () => {
    const { user } = await dropped();
    await user.type(await screen.findByLabelText('Length'), 'long{Enter}');
    expect(screen.getByText('A length, like 45 or 1:30')).toBeVisible();
    await user.click(screen.getByRole('button', { name: '45 min' }));
    await waitFor(() => expect(bodies()).toHaveLength(2));
    expect(bodies()[0]).toMatchObject({ seconds: 2700 });
  });

  it('stays where it was when nobody says', async () => {
    const { user } = await dropped();
    await user.click(await screen.findByRole('button', { name: 'Cancel' }));
    expect(screen.queryByRole('dialog')).toBeNull();
    expect(bodies()).toEqual([]);
  });
});
