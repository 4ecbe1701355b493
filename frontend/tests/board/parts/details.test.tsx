import { screen, waitFor, within } from '@testing-library/react';
import { describe, expect, it, vi } from 'vitest';
import { Details } from '@/features/board/details/Details';
import type { BoardVisit, Lane } from '@/features/board/model';
import { at, draw } from '../../drawn';
import { askedOf, Refusal, serve } from '../../server';
import { board, detail, INES, IVOR, lane, laneDay, visit } from '../worlds';

const BULK = 'POST /api/v1/board/bulk';
const show = async (
  given: unknown,
  more: { visits?: BoardVisit[]; lanes?: Lane[]; canPlan?: boolean } = {},
) => {
  serve({
    'GET /api/v1/visits/7': given,
    'GET /api/v1/visits/7/why': null,
    'GET /api/v1/visits/7/openings': {
      considered: 0,
      possible: 0,
      openings: [],
      in_short: [],
      excluded: [],
    },
    'GET /api/v1/visits/7/fits': [],
    'GET /api/v1/people/skills': [],
    'GET /api/v1/company': { currency: 'EUR', areas: [] },
    'GET /api/v1/technicians/1/van': [{ part: 'Seal set', quantity: 0, version: 1 }],
    [BULK]: { done: 1, outcomes: [{ visit_id: 7 }] },
    'POST /api/v1/visits/7/step': detail(7, { state: 'cancelled' }),
    'GET /api/v1/messages/cancelling/7': {
      kind: 'customer',
      channel: 'text',
      name: 'Seagate Stores',
      address: '+351 296 555 100',
      text: 'Our visit is cancelled.',
    },
  });
  const on = {
    onClose: vi.fn(),
    onDay: vi.fn(),
    onShow: vi.fn(),
    onGap: vi.fn(),
    onRepair: vi.fn(),
    onNear: vi.fn(),
  };
  const shown = board(more.visits ?? [visit(7)], more.lanes ?? [INES, IVOR]);
  const part = <Details visitId={7} board={shown} canPlan={more.canPlan ?? true} {...on} />;
  return { ...(await draw(part)), ...on };
};

describe('a visit beside the board', () => {
  it('says who, when, how safe its promise is, and what it brings', async () => {
    const promise = { start: at(10), end: at(12) };
    await show(detail(7, { promise, worth: 480 }), {
      visits: [visit(7, { promise, likelihood: 0.83, lamp: 'watch' })],
    });
    const details = await screen.findByTestId('details');
    expect(await within(details).findByRole('heading', { name: 'Door upkeep' })).toBeVisible();
    expect(details).toHaveTextContent('Ines Falk, Fri 27 Nov 11:00');
    expect(details).toHaveTextContent('promised 10:00–12:00 · 83 % likely to be kept');
    await waitFor(() => expect(details).toHaveTextContent('worth €480'));
  });

  it('says when it is expected later than planned', async () => {
    await show(detail(7), { visits: [visit(7, { expected_start: at(11, 25), expected_end: at(12, 25) })] });
    await screen.findByText('Seagate Stores');
    expect(screen.getByTestId('details')).toHaveTextContent(/Fri 27 Nov 11:00 · expected 11:25/);
  });

  it('says which limits it breaks where it stands', async () => {
    const broken = [{ visit_id: 7, limit: 'promise', sentence: '25 min after the promise' }];
    const days = [laneDay({ timetable: { ...laneDay().timetable, broken } as never })];
    await show(detail(7), { lanes: [lane(1, 'Ines Falk', { days })] });
    expect(await screen.findByText('25 min after the promise')).toBeVisible();
  });

  it('of another day leads there', async () => {
    const { user, onDay } = await show(detail(7, { start: at(24 * 3 + 9) }), { visits: [] });
    await user.click(await screen.findByRole('button', { name: 'show that day' }));
    expect(onDay).toHaveBeenCalledWith('2026-11-30');
  });

  it('that was promised and has nobody is the loudest', async () => {
    const promise = { start: at(10), end: at(12) };
    await show(detail(7, { promise, technician_id: null, technician: null, start: null, state: 'open' }), {
      visits: [],
    });
    expect(await screen.findByText('Nobody is assigned.')).toBeVisible();
    expect(screen.getByLabelText('promise broken')).toBeVisible();
    const parts = screen.getByRole('navigation', { name: 'Parts of the details' });
    expect(within(parts).getByRole('button', { name: 'Place' })).toBeVisible();
    expect(within(parts).queryByRole('button', { name: 'Why' })).toBeNull();
  });

  it('is jumped to part by part, and the focus goes along', async () => {
    const { user } = await show(detail(7));
    const parts = await screen.findByRole('navigation', { name: 'Parts of the details' });
    await user.click(within(parts).getByRole('button', { name: 'Change' }));
    expect(document.activeElement).toContainElement(screen.getByRole('form', { name: 'Edit visit' }));
  });

  it('is locked and unlocked where it stands', async () => {
    const { user } = await show(detail(7));
    await user.click(await screen.findByRole('button', { name: 'Lock' }));
    await waitFor(() =>
      expect(askedOf(BULK)[0]?.body).toMatchObject({
        kind: 'lock',
        preview: false,
        visits: [{ id: 7, version: 3 }],
      }),
    );
  });

  it('asks what could come next, and what waits near', async () => {
    const { user, onGap, onNear } = await show(detail(7));
    await user.click(await screen.findByRole('button', { name: 'What next after it?' }));
    expect(onGap).toHaveBeenCalledWith({ after: 7 });
    await user.click(screen.getByRole('button', { name: 'What waits near it?' }));
    expect(onNear).toHaveBeenCalledWith(expect.objectContaining({ lon: -24.6, lat: 47.2 }));
  });

  it('cancelled with a reason leaves a gap that is offered at once', async () => {
    const { user, onGap } = await show(
      detail(7, { start: at(13), actions: [{ step: 'cancel', needs_note: true }] }),
    );
    await user.click(await screen.findByRole('button', { name: 'Cancel the visit' }));
    expect(await screen.findByLabelText('What the customer reads')).toHaveValue('Our visit is cancelled.');
    await user.type(screen.getByLabelText(/^Why, for us/), 'closed today{Enter}');
    await waitFor(() => expect(onGap).toHaveBeenCalledWith({ who: 1, start: at(13), end: at(14), but: 7 }));
    expect(askedOf('POST /api/v1/visits/7/step')[0]!.body).toMatchObject({
      step: 'cancel',
      note: 'closed today',
      tell: 'Our visit is cancelled.',
    });
    expect(await screen.findByText(/is cancelled, the customer will be told/)).toBeVisible();
  });

  it('says what it takes from the van and what is not there', async () => {
    await show(detail(7, { takes: { 'Seal set': 2 } }));
    expect(await screen.findByText('0 on the van')).toHaveClass('text-warn');
  });

  it('tells what happened, the newest first, each thing once', async () => {
    const history = [{ at: at(9), by: 'Dora Quill', sentence: 'sent it', note: '' }];
    const events = [
      { at: at(9), by: 'Dora Quill', step: 'send', note: '' },
      { at: at(10), by: 'Ines Falk', step: 'accept', note: 'on my way' },
    ];
    await show(detail(7, { history, events } as never));
    const rows = within((await screen.findByText('What happened')).parentElement!).getAllByRole('listitem');
    expect(rows.map((row) => row.textContent)).toEqual([
      expect.stringMatching(/10:00.*Ines Falk: accepted.*“on my way”/),
      expect.stringMatching(/09:00.*Dora Quill sent it/),
    ]);
  });

  it('without a length is not offered places, but can be given one', async () => {
    await show(detail(7, { duration_seconds: null, technician_id: null, start: null, state: 'open' }), {
      visits: [],
    });
    expect(await screen.findByLabelText('Length')).toHaveValue('');
    expect(screen.queryByRole('region', { name: 'Openings' })).toBeNull();
    expect(screen.queryByRole('button', { name: 'Who can be there first?' })).toBeNull();
  });

  it('is only read by whoever may not plan', async () => {
    await show(detail(7), { canPlan: false });
    expect(await screen.findByText('Seagate Stores')).toBeVisible();
    expect(screen.queryByRole('form', { name: 'Edit visit' })).toBeNull();
    expect(screen.queryByRole('button', { name: /Lock|Write to|Send/ })).toBeNull();
  });

  it('that is gone says so, and can be closed', async () => {
    const { user, onClose } = await show(() => {
      throw new Refusal(404, { code: 'no_visit', title: 'There is no such visit.' });
    });
    expect(await screen.findByText('There is no such visit.')).toBeVisible();
    await user.click(screen.getByRole('button', { name: 'Close' }));
    expect(onClose).toHaveBeenCalled();
  });
});
