import { screen, waitFor } from '@testing-library/react';
import { describe, expect, it } from 'vitest';
import { PlaceForm } from '@/features/board/details/PlaceForm';
import { at, draw } from '../../drawn';
import { askedOf, serve } from '../../server';
import { board, detail, laneDay, placed } from '../worlds';

const PLACE = 'POST /api/v1/visits/7/place';
const verdict = (reasons: { weight: string; sentence: string }[], allowed = true) => ({
  allowed,
  reasons: reasons.map((row) => ({ limit: null, ...row })),
  timetable: laneDay().timetable,
  extra_drive_seconds: 0,
});

const show = async (judged: unknown, more = {}) => {
  serve({
    'GET /api/v1/visits/7/fits': [{ technician_id: 2, reasons: ['Rescue 3 needed'] }],
    'POST /api/v1/scheduling/judge': judged,
    [PLACE]: placed(7),
  });
  return draw(<PlaceForm visit={detail(7, more)} board={board()} />);
};

describe('placing by typing', () => {
  it('says what it would mean before it is done, and does it', async () => {
    const { user } = await show(verdict([{ weight: 'good', sentence: 'Inside the promise, 1 h to spare' }]));
    const start = await screen.findByLabelText('Start');
    await user.clear(start);
    await user.type(start, '830');
    expect(await screen.findByText('✓ Inside the promise, 1 h to spare')).toBeVisible();
    await user.click(screen.getByRole('button', { name: 'Move' }));
    await waitFor(() => expect(askedOf(PLACE)[0]?.body).toMatchObject({ start: at(8, 30), version: 3 }));
  });

  it('counts from the time it has', async () => {
    const { user } = await show(verdict([]));
    const start = await screen.findByLabelText('Start');
    await user.clear(start);
    await user.type(start, '+45');
    await user.click(screen.getByRole('button', { name: 'Move' }));
    await waitFor(() => expect(askedOf(PLACE)[0]?.body).toMatchObject({ start: at(11, 45) }));
  });

  it('says beside each technician what speaks against them', async () => {
    await show(verdict([]));
    expect(await screen.findByRole('option', { name: 'Ivor Larkin — Rescue 3 needed' })).toBeInTheDocument();
  });

  it('is not possible where it is refused', async () => {
    const { user } = await show(verdict([{ weight: 'refuses', sentence: 'Rescue 3 needed' }], false));
    await user.selectOptions(await screen.findByLabelText('Technician'), '2');
    expect(await screen.findByText('✕ Rescue 3 needed')).toBeVisible();
    expect(screen.getByRole('button', { name: 'Move' })).toBeDisabled();
  });

  it('asks why where a person may override', async () => {
    const { user } = await show(verdict([{ weight: 'asks', sentence: '1 h after the promise' }]));
    await user.selectOptions(await screen.findByLabelText('Technician'), '2');
    await user.type(await screen.findByLabelText('Why all the same'), 'They agreed');
    await user.click(screen.getByRole('button', { name: 'Move' }));
    await waitFor(() => expect(askedOf(PLACE)[0]?.body).toMatchObject({ because: 'They agreed' }));
  });

  it('says what is no time', async () => {
    const { user } = await show(verdict([]), { start: null, technician_id: null });
    await user.type(await screen.findByLabelText('Start'), 'noon');
    expect(await screen.findByText('Type a time, like 830')).toBeVisible();
    expect(screen.getByRole('button', { name: 'Place' })).toBeDisabled();
  });
});
