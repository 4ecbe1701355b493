import 'fake-indexeddb/auto';
import { screen, waitFor, within } from '@testing-library/react';
import { describe, expect, it } from 'vitest';
import type { SchemaAssignmentOut, SchemaStep } from '@/api/types';
import { FieldVisit } from '@/features/field/FieldVisit';
import { KeepGoing } from '@/features/field/KeepGoing';
import { at, draw, TODAY } from '../../drawn';
import { askedOf, Refusal, serve, type Asked } from '../../server';
import { detail } from '../../board/worlds';
import { emptyReport } from '../reports';

const DEEDS = 'POST /api/v1/field/deeds';
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
interface Sent {
  id: string;
  body: { step: SchemaStep; note: string };
  based_on: unknown;
}
const deedsOf = ({ body }: Asked) => (body as { deeds: Sent[] }).deeds;
const taken = (asked: Asked) => ({
  now: at(10) * 1000,
  answers: deedsOf(asked).map(({ id }) => ({ id, outcome: 'applied', sentence: '', missing: null })),
});
const noSignal = () => {
  throw new Refusal(503, { code: 'busy', title: 'Try again.' });
};
const sent = () => askedOf(DEEDS).flatMap(deedsOf);

let account = 100;
/** A visit on the phone of somebody who has never used it before. */
const show = async (more = {}, deeds: unknown = taken, day: unknown[] = []) => {
  const seen = detail(7, { state: 'sent', actions: act('accept', 'decline'), ...more });
  const here = seen.actions.map((action, index) => ({ ...action, to: index + 1 }));
  const after = here.map(() => ({
    state: 'en_route',
    actions: [{ step: 'arrive', needs_note: false, to: 1 }],
  }));
  const ahead = [{ state: seen.state, actions: here }, ...after];
  serve({
    'GET /api/v1/field/visits/7': {
      ...seen,
      ahead,
      report: emptyReport(),
      known: [],
      asked: [],
      sent: [],
      readers: [],
      lately: [],
    },
    'GET /api/v1/field/day': { technician_id: 1, day: TODAY, visits: day },
    'GET /api/v1/session': { account: null },
    'POST /api/v1/field/phones': { id: 'x', key: btoa('k'.repeat(32)), now: at(10) * 1000 },
    'POST /api/v1/field/along': { names: [], news: [] },
    [DEEDS]: deeds,
  });
  const page = (
    <>
      <KeepGoing />
      <FieldVisit />
    </>
  );
  return draw(page, {
    path: '/field/7',
    route: '/field/$visitId',
    may: ['use', 'work_in_field'],
    account: ++account,
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
    await waitFor(() => expect(sent()[0]?.body).toEqual({ step: 'finish', note: '' }));
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
    const based_on = { state: 'sent', start: at(11) };
    await waitFor(() => expect(sent()[0]).toMatchObject({ kind: 'step', visit_id: 7, number: 1, based_on }));
  });

  it('goes on without a signal, says what is still here, and sends it under the same name again', async () => {
    const { user } = await show({ state: 'accepted', actions: act('depart') }, noSignal);
    await user.click(await screen.findByRole('button', { name: 'Set out' }));
    expect(await screen.findByRole('button', { name: 'Arrived' })).toBeVisible();
    expect(screen.getByText(/1 thing is still on this phone/)).toBeVisible();
    expect(screen.getByText(/set out/)).toHaveTextContent('on this phone');
    await waitFor(() => expect(askedOf(DEEDS).length).toBeGreaterThan(1), { timeout: 10_000 });
    expect(new Set(sent().map(({ id }) => id)).size).toBe(1);
  });

  it('says what the office has to decide, and does not pretend that it counts', async () => {
    const { user } = await show({ state: 'accepted', actions: act('depart') }, (asked: Asked) => ({
      now: at(10) * 1000,
      answers: [{ id: deedsOf(asked)[0]!.id, outcome: 'waiting', sentence: 'It was moved.', missing: null }],
    }));
    await user.click(await screen.findByRole('button', { name: 'Set out' }));
    expect(await screen.findByText(/It was moved/)).toBeVisible();
    expect(screen.getByRole('button', { name: 'Set out' })).toBeVisible();
  });

  it('that was taken away offers nothing more, and says so where one presses', async () => {
    const { client } = await show({ state: 'accepted', actions: act('depart') });
    expect(await screen.findByRole('button', { name: 'Set out' })).toBeVisible();
    serve({
      'GET /api/v1/field/visits/7': () => {
        throw new Refusal(404, { code: 'no_visit', title: 'This visit is not yours (any more).' });
      },
      'GET /api/v1/field/day': { technician_id: 1, day: TODAY, visits: [] },
    });
    void client.invalidateQueries({ queryKey: ['field'] });
    expect(await screen.findByText('This visit is not yours (any more).')).toBeVisible();
    expect(screen.queryByRole('button', { name: 'Set out' })).toBeNull();
  });

  it('lets nobody set out while another visit of theirs is under way', async () => {
    const other = { ...detail(8, { state: 'on_site', technician_id: 1 }), ahead: [], known: [] };
    await show({ state: 'accepted', technician_id: 1, actions: act('depart', 'arrive', 'decline') }, taken, [
      other,
    ]);
    expect(await screen.findByText(/is still under way: finish it or put it on hold first/)).toBeVisible();
    expect(screen.queryByRole('button', { name: 'Set out' })).toBeNull();
    expect(screen.getByRole('button', { name: 'Decline' })).toBeVisible();
  });

  it('says so when nothing can be recorded on this phone yet', async () => {
    serve({
      'GET /api/v1/field/visits/7': {
        ...detail(7),
        ahead: [],
        report: emptyReport(),
        known: [],
        asked: [],
        sent: [],
        readers: [],
        lately: [],
      },
      'GET /api/v1/field/day': { technician_id: 1, day: TODAY, visits: [] },
      'POST /api/v1/field/phones': noSignal,
    });
    await draw(<FieldVisit />, {
      path: '/field/7',
      route: '/field/$visitId',
      may: ['use', 'work_in_field'],
      account: ++account,
    });
    expect(await screen.findByText(/Until then nothing can be recorded on it/)).toBeVisible();
  });

  it('asks for a reason to decline, and lets one go back', async () => {
    const { user } = await show({ state: 'sent' });
    await user.click(await screen.findByRole('button', { name: 'Decline' }));
    expect(screen.getByRole('button', { name: 'Decline' })).toBeDisabled();
    await user.click(screen.getByRole('button', { name: 'Back' }));
    expect(await screen.findByRole('button', { name: 'Accept' })).toBeVisible();
    expect(sent()).toEqual([]);
  });

  it('that is done has nothing left to press', async () => {
    await show({ state: 'done', actions: [], outcome: 'Roller replaced' });
    expect(await screen.findByText('Done: Roller replaced')).toBeVisible();
    expect(screen.queryByRole('button', { name: /Finish|Accept|Set out/ })).toBeNull();
  });
});
