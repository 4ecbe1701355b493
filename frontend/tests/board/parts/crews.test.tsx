import { screen, waitFor, within } from '@testing-library/react';
import { describe, expect, it, vi } from 'vitest';
import { CrewsDialog } from '@/features/board/crews/CrewsDialog';
import { draw } from '../../drawn';
import { askedOf, Refusal, serve } from '../../server';
import { INES, IVOR, lane } from '../worlds';

const LENA = lane(3, 'Lena Ferrow');
const ROPES = { id: 4, version: 2, name: 'Ropes', members: [1, 2] };

const show = async (more: Record<string, unknown> = {}) => {
  serve({
    'GET /api/v1/board/lanes': [INES, IVOR, LENA],
    'GET /api/v1/people/crews': [ROPES],
    'GET /api/v1/board/crews/often': [
      { members: [1, 2], visits: 9 },
      { members: [1, 3], visits: 5 },
    ],
    'POST /api/v1/people/crews': { ...ROPES, id: 5 },
    'PUT /api/v1/people/crews/4': { ...ROPES, version: 3 },
    'DELETE /api/v1/people/crews/4': null,
    ...more,
  });
  const drawn = await draw(<CrewsDialog open onOpenChange={vi.fn()} />);
  await screen.findByText('Ropes');
  return drawn;
};
const members = () =>
  within(screen.getByRole('list', { name: 'Members' }))
    .getAllByRole('listitem')
    .map((row) => row.textContent);

describe('standing crews', () => {
  it('are listed with their members, whoever leads first', async () => {
    await show();
    expect(await screen.findByText('Ines Falk, Ivor Larkin')).toBeVisible();
  });

  it('are suggested from who often goes together and is none yet', async () => {
    const { user } = await show();
    const often = await screen.findByRole('list', { name: 'Often together' });
    const rows = within(often).getAllByRole('listitem');
    expect(rows).toHaveLength(1);
    expect(rows[0]).toHaveTextContent('Ines Falk and Lena Ferrow · 5 visits');
    await user.click(within(often).getByRole('button', { name: 'Make it a crew' }));
    await user.type(screen.getByLabelText('Name'), 'Doors');
    await user.click(screen.getByRole('button', { name: 'Save the crew' }));
    await waitFor(() =>
      expect(askedOf('POST /api/v1/people/crews')[0]?.body).toMatchObject({ name: 'Doors', members: [1, 3] }),
    );
  });

  it('can be led by another, lose one and gain one', async () => {
    const { user } = await show();
    await user.click(screen.getByRole('button', { name: 'Change Ropes' }));
    await user.click(screen.getByRole('button', { name: 'Let lead' }));
    expect(members()).toEqual(['Ivor Larkin · leads', 'Ines FalkLet lead']);
    await user.selectOptions(screen.getByLabelText('Add somebody'), '3');
    await user.click(screen.getByRole('button', { name: 'Take Ines Falk out' }));
    await user.click(screen.getByRole('button', { name: 'Save the crew' }));
    await waitFor(() =>
      expect(askedOf('PUT /api/v1/people/crews/4')[0]?.body).toMatchObject({ version: 2, members: [2, 3] }),
    );
  });

  it('have at least two members and a name', async () => {
    const { user } = await show();
    await user.click(screen.getByRole('button', { name: 'A new crew' }));
    await user.type(screen.getByLabelText('Name'), 'Alone');
    await user.selectOptions(screen.getByLabelText('Add somebody'), '1');
    expect(screen.getByText('A crew has at least two members.')).toBeVisible();
    expect(screen.getByRole('button', { name: 'Save the crew' })).toBeDisabled();
  });

  it('stay on screen as typed when the server refuses', async () => {
    const { user } = await show({
      'PUT /api/v1/people/crews/4': () => {
        throw new Refusal(409, { code: 'stale', title: 'This crew was changed by somebody else meanwhile.' });
      },
    });
    await user.click(screen.getByRole('button', { name: 'Change Ropes' }));
    await user.type(screen.getByLabelText('Name'), ' and lifts');
    await user.click(screen.getByRole('button', { name: 'Save the crew' }));
    expect(await screen.findByText(/changed by somebody else meanwhile/)).toBeInTheDocument();
    expect(screen.getByLabelText('Name')).toHaveValue('Ropes and lifts');
  });

  it('are dissolved', async () => {
    const { user } = await show();
    await user.click(screen.getByRole('button', { name: 'Dissolve Ropes' }));
    await waitFor(() => expect(askedOf('DELETE /api/v1/people/crews/4')).toHaveLength(1));
  });
});
