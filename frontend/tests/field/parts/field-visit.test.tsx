import { screen, waitFor, within } from '@testing-library/react';
import { describe, expect, it } from 'vitest';
import type { SchemaAssignmentOut, SchemaStep } from '@/api/types';
import { FieldVisit } from '@/features/field/FieldVisit';
import { at, draw } from '../../drawn';
import { askedOf, Refusal, serve } from '../../server';
import { detail } from '../../board/worlds';

const STEP = 'POST /api/v1/field/visits/7/step';
const part = (technician_id: number, name: string, more: Partial<SchemaAssignmentOut>) => ({
  technician_id,
  name,
  leads: false,
  accepted_at: null,
  departed_at: null,
  arrived_at: null,
  finished_at: null,
  ...more,
});
const act = (...steps: SchemaStep[]) =>
  steps.map((step) => ({ step, needs_note: ['decline', 'finish'].includes(step) }));
const show = async (more = {}, step: unknown = detail(7)) => {
  const seen = detail(7, { state: 'sent', actions: act('accept', 'decline'), ...more });
  serve({ 'GET /api/v1/field/visits/7': seen, [STEP]: step });
  return draw(<FieldVisit />, {
    path: '/field/7',
    route: '/field/$visitId',
    may: ['use', 'work_in_field'],
  });
};

describe('a visit on the phone', () => {
  it.each([
    ['sent', act('accept', 'decline'), 'Accept'],
    ['accepted', act('depart', 'arrive', 'decline'), 'Set out'],
    ['en_route', act('arrive'), 'Arrived'],
    ['on_site', act('finish', 'hold'), 'Finish'],
  ])('that is %s has one large action', async (state, actions, words) => {
    await show({ state, actions });
    const main = await screen.findByRole('button', { name: new RegExp(words, 'i') });
    expect(main.className).toContain('min-h-16');
  });

  it('says who goes and how far each of them is', async () => {
    const rows = [
      part(2, 'Ivor Larkin', { leads: true, arrived_at: at(9) }),
      part(1, 'Ines Falk', { accepted_at: at(8) }),
    ];
    await show({ technician_id: 2, assignments: rows, actions: act('depart', 'arrive', 'decline') });
    const crew = within(await screen.findByRole('list', { name: 'Who goes' })).getAllByRole('listitem');
    expect(crew.map((row) => row.textContent)).toEqual([
      'Ivor Larkin leadsthere since 09:00',
      'Ines Falkaccepted',
    ]);
  });

  it('lets who goes along leave for themselves', async () => {
    const rows = [part(2, 'Ivor Larkin', { leads: true }), part(1, 'Ines Falk', { arrived_at: at(9) })];
    const { user } = await show({
      technician_id: 2,
      state: 'on_site',
      assignments: rows,
      actions: act('finish'),
    });
    await user.click(await screen.findByRole('button', { name: 'Leave' }));
    await waitFor(() => expect(askedOf(STEP)[0]?.body).toMatchObject({ step: 'finish', note: '' }));
  });

  it('says where, who to ask and what is wrong', async () => {
    await show({
      state: 'sent',
      contact_name: 'Porter',
      description: 'Stuck on floor 2',
      access_notes: 'Ring twice',
    });
    expect(await screen.findByText('Stuck on floor 2')).toBeVisible();
    expect(screen.getByText('Ring twice')).toBeVisible();
    expect(screen.getByRole('link', { name: /Porter/ })).toHaveAttribute('href', 'tel:+351 296 555 100');
  });

  it('is stamped on what was seen', async () => {
    const { user } = await show({ state: 'sent' });
    await user.click(await screen.findByRole('button', { name: 'Accept' }));
    const seen = { state: 'sent', start: at(11) };
    await waitFor(() => expect(askedOf(STEP)[0]?.body).toMatchObject({ based_on: seen, step: 'accept' }));
  });

  it('is stamped under the same key when the answer was lost and one presses again', async () => {
    const { user } = await show({ state: 'sent' }, () => {
      throw new Refusal(503, { code: 'busy', title: 'Try again.' });
    });
    await user.click(await screen.findByRole('button', { name: 'Accept' }));
    await screen.findByText('Try again.');
    await user.click(screen.getByRole('button', { name: 'Accept' }));
    await waitFor(() => expect(askedOf(STEP)).toHaveLength(2));
    const [one, two] = askedOf(STEP).map((row) => (row.body as { key: string }).key);
    expect(one).toMatch(/^[0-9a-f-]{36}$/);
    expect(two).toBe(one);
  });

  it('asks for a reason to decline, and lets one go back', async () => {
    const { user } = await show({ state: 'sent' });
    await user.click(await screen.findByRole('button', { name: 'Decline' }));
    expect(screen.getByRole('button', { name: 'Decline' })).toBeDisabled();
    await user.click(screen.getByRole('button', { name: 'Back' }));
    expect(await screen.findByRole('button', { name: 'Accept' })).toBeVisible();
    expect(askedOf(STEP)).toHaveLength(0);
  });

  it('keeps what was typed when there is no connection', async () => {
    const { user } = await show({ state: 'sent' }, () => {
      throw new Refusal(409, { code: 'stale', title: 'The office has changed this visit.' });
    });
    await user.click(await screen.findByRole('button', { name: 'Decline' }));
    await user.type(screen.getByRole('textbox'), 'My van broke down');
    await user.click(screen.getByRole('button', { name: 'Decline' }));
    expect(await screen.findByText('The office has changed this visit.')).toBeVisible();
    expect(screen.getByRole('textbox')).toHaveValue('My van broke down');
  });

  it('that is done has nothing left to press', async () => {
    await show({ state: 'done', actions: [], outcome: 'Roller replaced' });
    expect(await screen.findByText('Done: Roller replaced')).toBeVisible();
    expect(screen.queryByRole('button', { name: /Finish|Accept|Set out/ })).toBeNull();
  });
});
