import { describe, expect, it } from 'vitest';
import {
  IDLE,
  laneAim,
  next,
  type Event,
  type Grabbed,
  type Interaction,
} from '@/features/planning/board/interaction';

const NINE = 1_795_428_000;
const waiting: Grabbed = { id: 1, version: 3, technicianId: null, start: null, lengthSeconds: 3600 };
const placed: Grabbed = { ...waiting, technicianId: 7, start: NINE };

function run(events: Event[], from: Interaction = IDLE) {
  let state = from;
  let deed = null;
  for (const event of events) ({ state, deed } = next(state, event));
  return { state, deed };
}

const press = (visit: Grabbed, grabSeconds = 0): Event => ({
  type: 'press',
  visit,
  x: 100,
  y: 100,
  grabSeconds,
});
const over = (technicianId: number, moment: number, x = 200): Event => ({
  type: 'move',
  x,
  y: 150,
  under: { kind: 'lane', technicianId, moment },
});

describe('the pointer', () => {
  it('opens a visit that is pressed and let go without moving', () => {
    expect(run([press(placed), { type: 'release' }])).toEqual({
      state: IDLE,
      deed: { kind: 'open', visit: placed },
    });
  });

  it('takes a tremble of the hand for a click', () => {
    const { state } = run([press(placed), { type: 'move', x: 102, y: 101, under: null }]);
    expect(state.mode).toBe('pressed');
  });

  it('places what is dropped on a line, held where it was taken and snapped to five minutes', () => {
    const { deed } = run([press(waiting, 600), over(4, NINE + 1400), { type: 'release' }]);
    expect(deed).toEqual({ kind: 'place', visit: waiting, technicianId: 4, start: NINE + 900 });
  });

  it('does nothing when dropped where it came from', () => {
    expect(run([press(placed), over(7, NINE + 20), { type: 'release' }]).deed).toBeNull();
  });

  it('does nothing when dropped beside everything', () => {
    const nowhere: Event = { type: 'move', x: 300, y: 300, under: null };
    expect(run([press(placed), nowhere, { type: 'release' }]).deed).toBeNull();
  });

  it('puts a placed visit back when dropped on the backlog, and leaves a waiting one there', () => {
    const backlog: Event = { type: 'move', x: 300, y: 300, under: { kind: 'backlog' } };
    expect(run([press(placed), backlog, { type: 'release' }]).deed).toEqual({
      kind: 'unplace',
      visit: placed,
    });
    expect(run([press(waiting), backlog, { type: 'release' }]).deed).toBeNull();
  });

  it('lets go without a deed when cancelled', () => {
    expect(run([press(placed), over(4, NINE), { type: 'cancel' }])).toEqual({ state: IDLE, deed: null });
  });

  it('ignores moves while nothing is held', () => {
    expect(run([over(4, NINE)]).state).toBe(IDLE);
  });
});

describe('the keyboard', () => {
  const take = (visit: Grabbed): Event => ({
    type: 'take',
    visit,
    aim: { kind: 'lane', technicianId: 7, start: NINE },
  });
  const step = (seconds: number, lanes: number): Event => ({
    type: 'step',
    seconds,
    lanes,
    order: [5, 7, 9],
    earliest: NINE - 3600,
    latest: NINE + 3600,
  });

  it('walks between lanes and times and places on Enter', () => {
    const { deed } = run([take(waiting), step(900, 0), step(0, 1), { type: 'confirm' }]);
    expect(deed).toEqual({ kind: 'place', visit: waiting, technicianId: 9, start: NINE + 900 });
  });

  it('stays on the board: at the last lane and the last hour it goes no further', () => {
    const { state } = run([take(waiting), step(0, 1), step(0, 1), step(90_000, 0)]);
    expect(laneAim(state)).toEqual({ kind: 'lane', technicianId: 9, start: NINE + 3600 });
  });

  it('goes to the backlog and comes out of it again', () => {
    expect(run([take(placed), { type: 'toBacklog' }, { type: 'confirm' }]).deed).toEqual({
      kind: 'unplace',
      visit: placed,
    });
    const { state } = run([take(placed), { type: 'toBacklog' }, step(0, 1)]);
    expect(laneAim(state)).toEqual({ kind: 'lane', technicianId: 5, start: NINE - 3600 });
  });

  it('places nothing when it was not moved', () => {
    expect(run([take(placed), { type: 'confirm' }]).deed).toBeNull();
  });

  it('does not confirm what the pointer holds', () => {
    const { state, deed } = run([press(placed), over(4, NINE + 7200), { type: 'confirm' }]);
    expect(state.mode).toBe('dragging');
    expect(deed).toBeNull();
  });
});
