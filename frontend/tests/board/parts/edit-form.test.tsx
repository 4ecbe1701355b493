import { screen, waitFor } from '@testing-library/react';
import { describe, expect, it } from 'vitest';
import { EditForm } from '@/features/board/details/EditForm';
import { at, draw } from '../../drawn';
import { askedOf, Refusal, serve } from '../../server';
import { detail } from '../worlds';

const EDIT = 'PUT /api/v1/visits/7/fields';

const show = async (more = {}, given: unknown = detail(7, { version: 4 })) => {
  serve({
    [EDIT]: given,
    'GET /api/v1/people/skills': [
      { code: 'doors', name: 'Door drives', retired: false },
      { code: 'rescue', name: 'Rescue', retired: false },
    ],
    'GET /api/v1/parts': [{ code: 'seal', name: 'Seal set', retired: false }],
    'POST /api/v1/parts': [{ code: 'door-roller', name: 'Door roller', retired: false }],
  });
  return draw(<EditForm visit={detail(7, more)} />);
};
const body = () => askedOf(EDIT)[0]?.body as Record<string, unknown> | undefined;

describe("a visit's facts", () => {
  it('are sent whole, with the version that was seen', async () => {
    const { user } = await show({ promise: { start: at(9), end: at(11) }, due: at(41) });
    const length = await screen.findByLabelText('Length');
    await user.clear(length);
    await user.type(length, '1:30');
    await user.click(screen.getByRole('button', { name: 'Save changes' }));
    await waitFor(() => expect(body()).toBeDefined());
    expect(body()).toMatchObject({
      version: 3,
      duration_seconds: 5400,
      promise: { start: at(9), end: at(11) },
      due: at(41), // not touched: to the second what it was
    });
  });

  it('cannot be saved before something was changed', async () => {
    await show();
    expect(await screen.findByRole('button', { name: 'Save changes' })).toBeDisabled();
  });

  it.each([
    ['Length', 'soon', 'Minutes, or 1:30'],
    ['Crew', '9', '1 to 8'],
    ['Worth', 'a lot', 'Whole money'],
  ])('say at %s what cannot be read, and ask the server nothing', async (label, typed, words) => {
    const { user } = await show();
    const field = await screen.findByLabelText(label);
    await user.clear(field);
    await user.type(field, typed);
    await user.click(screen.getByRole('button', { name: 'Save changes' }));
    expect(await screen.findByText(words)).toBeVisible();
    expect(field).toHaveValue(typed);
    expect(body()).toBeUndefined();
  });

  it('take a promise as people type it', async () => {
    const { user } = await show();
    await user.type(await screen.findByLabelText('Promised day'), '2026-11-27');
    await user.type(screen.getByLabelText('Promised from'), '830');
    await user.type(screen.getByLabelText('Promised until'), '10');
    await user.click(screen.getByRole('button', { name: 'Save changes' }));
    await waitFor(() => expect(body()?.promise).toEqual({ start: at(8, 30), end: at(10) }));
  });

  it('say what a promise lacks', async () => {
    const { user } = await show();
    await user.type(await screen.findByLabelText('Promised from'), '830');
    await user.click(screen.getByRole('button', { name: 'Save changes' }));
    expect(await screen.findByRole('alert')).toHaveTextContent('A promise needs a day and two times');
  });

  it('take parts a line each, the same part twice as one', async () => {
    const { user } = await show();
    await user.type(await screen.findByLabelText(/^Parts to take/), '2 Door roller{Enter}Seal set');
    await user.click(screen.getByRole('button', { name: 'Save changes' }));
    await waitFor(() => expect(body()?.takes).toEqual({ 'door-roller': 2, seal: 1 }));
  });

  it('stay as typed when the server refuses, which is said at its field', async () => {
    const refused = () => {
      throw new Refusal(422, { code: 'rejected', title: 'It is due before it may begin.', field: 'due' });
    };
    const { user } = await show({}, refused);
    await user.type(await screen.findByLabelText('Due'), '2026-11-30');
    await user.click(screen.getByRole('button', { name: 'Save changes' }));
    expect(await screen.findByText('It is due before it may begin.')).toBeVisible();
    expect(screen.getByLabelText('Due')).toHaveValue('Mon 30 Nov');
  });

  it('of a visit that is over: only the notes can change', async () => {
    const { user } = await show({ state: 'done', movable: false, over: true });
    expect(await screen.findByLabelText('Length')).toBeDisabled();
    await user.type(screen.getByLabelText('Notes for the technician'), 'Key is back.');
    await user.click(screen.getByRole('button', { name: 'Save changes' }));
    await waitFor(() => expect(body()?.notes).toBe('Key is back.'));
  });
});
