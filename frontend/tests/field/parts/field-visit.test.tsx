import { screen, waitFor } from '@testing-library/react';
import { describe, expect, it } from 'vitest';
import { FieldVisit } from '@/features/field/FieldVisit';
import { draw } from '../../drawn';
import { askedOf, Refusal, serve } from '../../server';
import { detail } from '../../board/worlds';

const STEP = 'POST /api/v1/field/visits/7/step';
const show = async (more = {}, step: unknown = detail(7)) => {
  serve({ 'GET /api/v1/field/visits/7': detail(7, { steps: ['accept'], ...more }), [STEP]: step });
  return draw(<FieldVisit />, {
    path: '/field/7',
    route: '/field/$visitId',
    may: ['use', 'work_in_field'],
  });
};

describe('a visit on the phone', () => {
  it.each([
    ['sent', 'Accept'],
    ['accepted', 'Set out'],
    ['en_route', 'Arrived'],
    ['on_site', 'Finish'],
  ])('that is %s has one large action', async (state, words) => {
    await show({ state });
    const main = await screen.findByRole('button', { name: new RegExp(words, 'i') });
    expect(main.className).toContain('min-h-16');
  });

  it('is read by who goes along, and says who leads it', async () => {
    await show({ state: 'sent', steps: [], technician: 'Ivor Larkin', goes_along: ['Ines Falk'] });
    expect(await screen.findByText(/You go along/)).toHaveTextContent(
      'Ivor Larkin leads this visit and stamps it.',
    );
    expect(screen.getByText('Ivor Larkin leads, Ines Falk goes along')).toBeVisible();
    expect(screen.queryByRole('button', { name: 'Accept' })).toBeNull();
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

  it('is stamped with the version that was seen', async () => {
    const { user } = await show({ state: 'sent' });
    await user.click(await screen.findByRole('button', { name: 'Accept' }));
    await waitFor(() => expect(askedOf(STEP)[0]?.body).toMatchObject({ version: 3, step: 'accept' }));
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
    await show({ state: 'done', outcome: 'Roller replaced' });
    expect(await screen.findByText('Done: Roller replaced')).toBeVisible();
    expect(screen.queryByRole('button', { name: /Finish|Accept|Set out/ })).toBeNull();
  });
});
