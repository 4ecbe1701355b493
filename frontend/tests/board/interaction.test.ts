import { describe, expect, it } from 'vitest';
import {
  IDLE,
  laneAim,
  next,
  placeNumber,
  type Aim,
  type Event,
  type Grabbed,
  type Interaction,
  type Part,
  type Place,
} from '@/features/board/lanes/interaction';
import { wishOf } from '@/features/board/many/wish';

const NINE = 1_795_428_000;
const waiting: Grabbed = { id: 1, version: 3, technicianId: null, start: null, lengthSeconds: 3600 };
const placed: Grabbed = { ...waiting, technicianId: 7, start: NINE };

function run(events: Event[], from: Interaction = IDLE) {
  let state = from;
  let deed = null;
  for (const event of events) ({ state, deed } = next(state, event));
  return { state, deed };
}

const press = (visit: Grabbed, grabSeconds = 0, part: Part = 'body', adds = false): Event => ({
  type: 'press',
  visit,
  together: [],
  x: 100,
  y: 100,
  grabSeconds,
  part,
  adds,
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

  it('gives what is dropped on a technician, or on a day, to whatever fits there', () => {
    const head: Event = { type: 'move', x: 9, y: 300, under: { kind: 'head', technicianId: 4 } };
    const day: Event = { type: 'move', x: 300, y: 9, under: { kind: 'day', day: '2026-11-25' } };
    const drop: Event = { type: 'release' };
    expect(run([press(waiting), head, drop]).deed).toEqual({
      kind: 'first',
      visit: waiting,
      technicianId: 4,
    });
    expect(run([press(waiting), day, drop]).deed).toEqual({
      kind: 'best',
      visit: waiting,
      day: '2026-11-25',
    });
  });

  it('stretches what is taken by its right edge, to five minutes and never to nothing', () => {
    const edge = press(placed, 3600, 'edge');
    expect(run([edge, over(7, NINE + 5320), { type: 'release' }]).deed).toEqual({
      kind: 'stretch',
      visit: placed,
      seconds: 5400,
    });
    expect(run([edge, over(7, NINE - 900)]).state).toMatchObject({ mode: 'stretching', seconds: 300 });
    expect(run([edge, over(7, NINE + 3590), { type: 'release' }]).deed).toBeNull();
  });

  it('chooses one visit more with a key held, and all that a box is drawn around', () => {
    expect(run([press(placed, 0, 'body', true), { type: 'release' }]).deed).toEqual({
      kind: 'toggle',
      visit: placed,
    });
    const box: Event = { type: 'box', x: 10, y: 20, adds: false };
    const moved: Event = { type: 'move', x: 200, y: 90, under: null };
    expect(run([box, moved, { type: 'release' }])).toEqual({
      state: IDLE,
      deed: { kind: 'choose', from: { x: 10, y: 20 }, to: { x: 200, y: 90 }, adds: false },
    });
  });

  it('ignores moves while nothing is held', () => {
    expect(run([over(4, NINE)]).state).toBe(IDLE);
  });
});

describe('the keyboard', () => {
  const take = (visit: Grabbed): Event => ({
    type: 'take',
    visit,
    together: [],
    aim: { kind: 'lane', technicianId: 7, start: NINE },
  });
  const step = (seconds: number, lanes: number): Event => ({
    type: 'step',
    seconds,
    lanes,
    order: [5, 7, 9].map((technicianId) => ({ technicianId })),
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

  it('makes a visit longer or shorter, and keeps it only on Enter', () => {
    const start: Event = { type: 'lengthen', visit: placed };
    const { state, deed } = run([start, step(900, 0), step(900, 0), step(-900, 0), { type: 'confirm' }]);
    expect([state, deed]).toEqual([IDLE, { kind: 'stretch', visit: placed, seconds: 3900 }]);
    expect(run([start, step(900, 0), { type: 'cancel' }]).deed).toBeNull();
    expect(run([start, { type: 'confirm' }]).deed).toBeNull();
  });
});

describe('allowed places, while the keys hold a visit', () => {
  const places: Place[] = [
    { kind: 'lane', technicianId: 8, start: NINE + 3600 },
    { kind: 'lane', technicianId: 7, start: NINE + 7200, mates: [8] },
  ];
  const offer: Event = { type: 'offer', visitId: 1, places };
  const take = (visit: Grabbed): Event => ({
    type: 'take',
    visit,
    together: [],
    aim: { kind: 'lane', technicianId: 7, start: NINE },
  });
  const jump = (by: 1 | -1): Event => ({ type: 'jump', by });
  const step: Event = {
    type: 'step',
    seconds: 900,
    lanes: 0,
    order: [{ technicianId: 7 }, { technicianId: 8 }],
    earliest: NINE,
    latest: NINE + 36_000,
  };

  it('starts what comes from the backlog at the first of them', () => {
    expect(laneAim(run([take(waiting), offer]).state)).toEqual(places[0]);
  });

  it('leaves a visit that is placed, or was moved meanwhile, where it is held', () => {
    expect(laneAim(run([take(placed), offer]).state)?.start).toBe(NINE);
    expect(laneAim(run([take(waiting), step, offer]).state)?.start).toBe(NINE + 900);
  });

  it('does not move it when they are told again', () => {
    expect(laneAim(run([take(waiting), offer, step, offer]).state)?.start).toBe(NINE + 3600 + 900);
  });

  it('jumps from one to the next, round and back, and places there', () => {
    expect(laneAim(run([take(waiting), offer, jump(1)]).state)).toEqual(places[1]);
    expect(laneAim(run([take(waiting), offer, jump(1), jump(1)]).state)).toEqual(places[0]);
    expect(laneAim(run([take(waiting), offer, jump(-1)]).state)).toEqual(places[1]);
    expect(run([take(waiting), offer, jump(1), { type: 'confirm' }]).deed).toEqual({
      kind: 'place',
      visit: waiting,
      technicianId: 7,
      mates: [8],
      start: NINE + 7200,
    });
  });

  it('says which of them is aimed at', () => {
    expect(placeNumber(run([take(waiting), offer, jump(1)]).state)).toBe(1);
    expect(placeNumber(run([take(waiting), offer, step]).state)).toBeNull();
  });

  it('takes no notice of those of another visit, and jumps nowhere without any', () => {
    expect(laneAim(run([take(waiting), { ...offer, visitId: 2 }]).state)?.start).toBe(NINE);
    expect(laneAim(run([take(waiting), jump(1)]).state)?.start).toBe(NINE);
  });
});

describe('several at once', () => {
  const takenUp = (together: number[]): Event => ({ ...press(placed), together }) as Event;

  it('drops all of them where the one under the hand is dropped', () => {
    const { deed } = run([takenUp([1, 4]), over(9, NINE + 3600), { type: 'release' }]);
    expect(deed).toMatchObject({ kind: 'many', together: [1, 4], aim: { technicianId: 9 } });
  });

  it('is one visit when only one is chosen', () => {
    const { deed } = run([takenUp([1]), over(9, NINE + 3600), { type: 'release' }]);
    expect(deed).toMatchObject({ kind: 'place', technicianId: 9 });
  });

  it('does nothing when they are let go where they were', () => {
    const where = { kind: 'lane', technicianId: placed.technicianId!, moment: placed.start! } as const;
    const { deed } = run([
      takenUp([1, 4]),
      { type: 'move', x: 130, y: 100, under: where },
      { type: 'release' },
    ]);
    expect(deed).toBeNull();
  });

  it('means the same for all: a shift, a technician, a day, the backlog', () => {
    const wish = (aim: NonNullable<Aim>, visit = placed) =>
      wishOf({ kind: 'many', visit, together: [1, 4], aim }, '2026-11-24');
    const later = placed.start! + 5400;
    expect(wish({ kind: 'lane', technicianId: placed.technicianId!, start: later })).toEqual({
      kind: 'shift',
      minutes: 90,
      who: 0,
    });
    expect(wish({ kind: 'lane', technicianId: 9, start: later })).toMatchObject({ kind: 'shift', who: 9 });
    expect(wish({ kind: 'lane', technicianId: 9, start: later }, waiting)).toMatchObject({
      kind: 'give',
      who: 9,
    });
    expect(wish({ kind: 'head', technicianId: 9 })).toEqual({ kind: 'give', who: 9, day: '2026-11-24' });
    expect(wish({ kind: 'day', day: '2026-11-27' })).toEqual({ kind: 'day', day: '2026-11-27' });
    expect(wish({ kind: 'backlog' })).toEqual({ kind: 'unplace' });
  });
});

describe('the line of a crew', () => {
  it('places with all of its members', () => {
    const under = { kind: 'lane' as const, technicianId: 9, mates: [11, 12], moment: NINE };
    const { deed } = run([press(waiting), { type: 'move', x: 160, y: 100, under }, { type: 'release' }]);
    expect(deed).toMatchObject({ kind: 'place', technicianId: 9, mates: [11, 12], start: NINE });
  });

  it('is a line of its own for the arrows, before its members', () => {
    const order = [{ technicianId: 9, mates: [11] }, { technicianId: 9 }, { technicianId: 11 }];
    const aim = { kind: 'lane', ...order[0]!, start: NINE } as const;
    const down: Event = { type: 'step', seconds: 0, lanes: 1, order, earliest: 0, latest: NINE * 2 };
    const { deed } = run([{ type: 'take', visit: waiting, together: [], aim }, down, { type: 'confirm' }]);
    expect(deed).toEqual({ kind: 'place', visit: waiting, technicianId: 9, start: NINE });
  });
});
