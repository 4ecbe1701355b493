import { screen, waitFor } from '@testing-library/react';
import { describe, expect, it } from 'vitest';
import type { SchemaBulkIn } from '@/api/types';
import { HandOver } from '@/features/set_up/people/HandOver';
import { draw } from '../drawn';
import { askedOf, serve } from '../server';

const PLANNED = 'GET /api/v1/board/planned-after/3';
const BULK = 'POST /api/v1/board/bulk';
const visit = (id: number) => ({ id, version: 2, number: `W-${id}`, site: 'North gate', start: 1795438800 });
const outcome = (visit_id: number, problem = '') => ({
  visit_id,
  label: `W-${visit_id}`,
  sentence: 'goes to Ivor Larkin',
  problem,
  asks: false,
  warnings: [],
});

describe('what is left when somebody leaves', () => {
  it('is handed over as it was read, to whom it was read for', async () => {
    serve({
      [PLANNED]: [visit(1), visit(2)],
      'GET /api/v1/technicians': [
        { id: 3, name: 'Ines Falk' },
        { id: 4, name: 'Ivor Larkin' },
      ],
      [BULK]: { done: 1, outcomes: [outcome(1), outcome(2, 'no time fits')] },
    });
    const { user } = await draw(<HandOver technicianId={3} after="2026-12-18" />, { may: ['use', 'plan'] });
    expect(await screen.findByText('2 visits planned after the last day.')).toBeVisible();
    await screen.findByRole('option', { name: /Ivor Larkin/ });
    expect(screen.queryByRole('option', { name: /Ines Falk/ })).toBeNull();
    await user.selectOptions(screen.getByLabelText('They go to'), '4');
    expect(await screen.findByText('no time fits')).toBeVisible();
    await user.click(screen.getByRole('button', { name: 'Hand over 1 of 2' }));
    await waitFor(() => {
      const bodies = askedOf(BULK).map((row) => row.body as SchemaBulkIn);
      const done = bodies.filter(({ preview }) => !preview);
      expect(done).toHaveLength(1);
      expect(done[0]).toMatchObject({ kind: 'give', technician_id: 4 });
      expect(bodies.filter(({ preview }) => preview)[0]).toMatchObject({ kind: 'unplace' });
    });
  });

  it('is said to be nothing where nothing is planned', async () => {
    serve({ [PLANNED]: [] });
    await draw(<HandOver technicianId={3} after="2026-12-18" />, { may: ['use', 'plan'] });
    expect(await screen.findByText('Nothing is planned after that day.')).toBeVisible();
  });
});
