// What the dispatcher is doing with a visit right now: a state machine without React.

export interface Grabbed {
  id: number;
  version: number;
  /** Where it is placed now; null in the backlog. */
  technicianId: number | null;
  start: number | null;
  lengthSeconds: number;
  /** Nobody has said yet how long it takes; `lengthSeconds` is how long it is drawn. */
  unmeasured?: boolean;
}

/** Whose line: a technician's, or that of a crew, whose first member it is. */
export interface Slot {
  technicianId: number;
  /** Who else goes; left out: whoever goes with the visit already. */
  mates?: number[];
}

/** A place on a line, a technician (the first time that fits), a day (its best place), or the backlog. */
export type Aim =
  | ({ kind: 'lane'; start: number } & Slot)
  | { kind: 'head'; technicianId: number }
  | { kind: 'day'; day: string }
  | { kind: 'backlog' }
  | null;

/** A place on a line. */
export type Place = { kind: 'lane'; start: number } & Slot;

interface Point {
  x: number;
  y: number;
}

/** What is held: a visit, and the ids of those that go with it because they were chosen together (or none). */
export interface Held {
  visit: Grabbed;
  together: number[];
}

export type Interaction =
  | { mode: 'idle' }
  | ({ mode: 'pressed'; grabSeconds: number; part: Part; adds: boolean } & Held & Point)
  | ({ mode: 'dragging'; grabSeconds: number; aim: Aim } & Held & Point)
  | ({ mode: 'placing'; aim: Aim; places: Place[]; moved: boolean } & Held)
  | ({ mode: 'stretching'; visit: Grabbed; seconds: number; keyboard: boolean } & Point)
  | { mode: 'boxing'; from: Point; to: Point; adds: boolean };

/** Which part of a visit was pressed: its body moves it, its right edge stretches it. */
export type Part = 'body' | 'edge';

/** What the pointer is over; `moment` is the one under the pointer. */
export type Under = ({ kind: 'lane'; moment: number } & Slot) | Exclude<Aim, { kind: 'lane' } | null> | null;

export type Event =
  | ({ type: 'press'; grabSeconds: number; part: Part; adds: boolean } & Held & Point)
  | ({ type: 'box'; adds: boolean } & Point)
  | ({ type: 'move'; under: Under } & Point)
  | { type: 'release' }
  | ({ type: 'take'; aim: Aim } & Held)
  /** The places that are allowed, the best first, have been found for the visit that is held. */
  | { type: 'offer'; visitId: number; places: Place[] }
  | { type: 'jump'; by: 1 | -1 }
  | { type: 'lengthen'; visit: Grabbed }
  | { type: 'step'; seconds: number; lanes: number; order: Slot[]; earliest: number; latest: number }
  | { type: 'toBacklog' }
  | { type: 'confirm' }
  | { type: 'cancel' };

/** What is to be done about it, once the machine has moved on. */
export type Deed =
  | ({ kind: 'place'; visit: Grabbed; start: number } & Slot)
  | { kind: 'many'; visit: Grabbed; together: number[]; aim: NonNullable<Aim> }
  | { kind: 'first'; visit: Grabbed; technicianId: number }
  | { kind: 'best'; visit: Grabbed; day: string }
  | { kind: 'unplace'; visit: Grabbed }
  | { kind: 'stretch'; visit: Grabbed; seconds: number }
  | { kind: 'open'; visit: Grabbed }
  | { kind: 'toggle'; visit: Grabbed }
  | { kind: 'choose'; from: Point; to: Point; adds: boolean }
  | null;

interface Result {
  state: Interaction;
  deed: Deed;
}

export const IDLE: Interaction = { mode: 'idle' };
/** A press that moves less than this is a click. */
const SLOP_PIXELS = 4;
const SNAP_SECONDS = 300;
const LEAST_LENGTH = 300;

export function next(state: Interaction, event: Event): Result {
  switch (event.type) {
    case 'press': {
      const { visit, together, grabSeconds, part, adds, x, y } = event;
      return still({ mode: 'pressed', visit, together, grabSeconds, part, adds, x, y });
    }
    case 'box': {
      const point = { x: event.x, y: event.y };
      return still({ mode: 'boxing', from: point, to: point, adds: event.adds });
    }
    case 'move':
      return still(moved(state, event));
    case 'release':
      return released(state);
    case 'take':
      return still({
        mode: 'placing',
        visit: event.visit,
        together: event.together,
        aim: event.aim,
        places: [],
        moved: event.visit.technicianId !== null,
      });
    case 'offer':
      return still(offered(state, event));
    case 'jump':
      return still(jumped(state, event.by));
    case 'lengthen': {
      const { visit } = event;
      return still({ mode: 'stretching', visit, seconds: visit.lengthSeconds, keyboard: true, x: 0, y: 0 });
    }
    case 'step':
      return still(stepped(state, event));
    case 'toBacklog':
      return state.mode === 'placing' ? still({ ...state, aim: { kind: 'backlog' } }) : still(state);
    case 'confirm':
      if (state.mode === 'placing') return { state: IDLE, deed: deedOf(state, state.aim) };
      return state.mode === 'stretching' ? { state: IDLE, deed: stretched(state) } : still(state);
    case 'cancel':
      return still(IDLE);
  }
}

/** What comes from the backlog begins where it is allowed, unless it was moved meanwhile. */
function offered(state: Interaction, { visitId, places }: Extract<Event, { type: 'offer' }>): Interaction {
  if (state.mode !== 'placing' || state.visit.id !== visitId || state.together.length > 1) return state;
  const [first] = places;
  return { ...state, places, ...(first && !state.moved ? { aim: first, moved: true } : {}) };
}

/** To the next allowed place, or back to the one before. */
function jumped(state: Interaction, by: 1 | -1): Interaction {
  if (state.mode !== 'placing' || state.places.length === 0) return state;
  const { places } = state;
  const here = placeNumber(state);
  const to = here === null ? (by > 0 ? 0 : places.length - 1) : (here + by + places.length) % places.length;
  return { ...state, aim: places[to]!, moved: true };
}

/** Which of the allowed places is aimed at; null: another one. */
export function placeNumber(state: Interaction): number | null {
  if (state.mode !== 'placing' || state.aim?.kind !== 'lane') return null;
  const { aim } = state;
  const found = state.places.findIndex((place) => sameSlot(place, aim) && place.start === aim.start);
  return found < 0 ? null : found;
}

const still = (state: Interaction): Result => ({ state, deed: null });

function moved(state: Interaction, event: Extract<Event, { type: 'move' }>): Interaction {
  const { x, y } = event;
  switch (state.mode) {
    case 'pressed': {
      if (Math.hypot(x - state.x, y - state.y) < SLOP_PIXELS) return state;
      const { visit, together, grabSeconds } = state;
      if (state.part === 'edge') return { ...stretchOf(visit, event.under), x, y };
      return { mode: 'dragging', visit, together, grabSeconds, x, y, aim: aimOf(event.under, grabSeconds) };
    }
    case 'dragging':
      return { ...state, x, y, aim: aimOf(event.under, state.grabSeconds) };
    case 'stretching':
      return state.keyboard ? state : { ...stretchOf(state.visit, event.under, state.seconds), x, y };
    case 'boxing':
      return { ...state, to: { x, y } };
    default:
      return state;
  }
}

function stretchOf(visit: Grabbed, under: Under, otherwise = visit.lengthSeconds) {
  const start = visit.start ?? 0;
  const seconds = under?.kind === 'lane' ? snapped(under.moment - start) : otherwise;
  return { mode: 'stretching', visit, seconds: Math.max(LEAST_LENGTH, seconds), keyboard: false } as const;
}

const snapped = (seconds: number) => Math.round(seconds / SNAP_SECONDS) * SNAP_SECONDS;

function aimOf(under: Under, grabSeconds: number): Aim {
  if (under?.kind !== 'lane') return under;
  const { technicianId, mates } = under;
  return { kind: 'lane', technicianId, ...(mates && { mates }), start: snapped(under.moment - grabSeconds) };
}

function released(state: Interaction): Result {
  switch (state.mode) {
    case 'pressed':
      return { state: IDLE, deed: { kind: state.adds ? 'toggle' : 'open', visit: state.visit } };
    case 'dragging':
      return { state: IDLE, deed: deedOf(state, state.aim) };
    case 'stretching':
      return state.keyboard ? still(state) : { state: IDLE, deed: stretched(state) };
    case 'boxing':
      return { state: IDLE, deed: { kind: 'choose', from: state.from, to: state.to, adds: state.adds } };
    default:
      return still(state);
  }
}

function stretched(state: Extract<Interaction, { mode: 'stretching' }>): Deed {
  const { visit, seconds } = state;
  return seconds === visit.lengthSeconds ? null : { kind: 'stretch', visit, seconds };
}

/** Dropped where it came from, or nowhere: nothing is to be done. */
function deedOf({ visit, together }: Held, aim: Aim): Deed {
  if (together.length > 1) {
    const stays =
      aim?.kind === 'lane' && aim.technicianId === visit.technicianId && aim.start === visit.start;
    return aim && !stays ? { kind: 'many', visit, together, aim } : null;
  }
  switch (aim?.kind) {
    case undefined:
      return null;
    case 'backlog':
      return visit.technicianId === null ? null : { kind: 'unplace', visit };
    case 'head':
      return { kind: 'first', visit, technicianId: aim.technicianId };
    case 'day':
      return { kind: 'best', visit, day: aim.day };
    case 'lane': {
      const { technicianId, mates, start } = aim;
      if (technicianId === visit.technicianId && start === visit.start && !mates) return null;
      return { kind: 'place', visit, technicianId, ...(mates && { mates }), start };
    }
  }
}

function stepped(state: Interaction, event: Extract<Event, { type: 'step' }>): Interaction {
  if (state.mode === 'stretching')
    return {
      ...state,
      seconds: Math.max(LEAST_LENGTH, state.seconds + Math.sign(event.seconds) * SNAP_SECONDS),
    };
  if (state.mode !== 'placing' || event.order.length === 0) return state;
  if (state.aim?.kind !== 'lane') {
    // Coming out of the backlog: the first lane, the earliest time.
    const slot = event.lanes < 0 ? event.order.at(-1)! : event.order[0]!;
    return { ...state, moved: true, aim: { kind: 'lane', ...slot, start: event.earliest } };
  }
  const { aim } = state;
  const here = event.order.findIndex((slot) => sameSlot(slot, aim));
  const lane = Math.min(event.order.length - 1, Math.max(0, here + event.lanes));
  const start = Math.min(event.latest, Math.max(event.earliest, aim.start + event.seconds));
  return { ...state, moved: true, aim: { kind: 'lane', ...event.order[lane]!, start } };
}

const sameSlot = (one: Slot, other: Slot) =>
  one.technicianId === other.technicianId && (one.mates ?? []).join() === (other.mates ?? []).join();

/** The lane and start aimed at, if any. */
export function laneAim(state: Interaction) {
  const aim = aimOfState(state);
  return aim?.kind === 'lane' ? aim : null;
}

export const aimOfState = (state: Interaction): Aim =>
  state.mode === 'dragging' || state.mode === 'placing' ? state.aim : null;

export const heldBy = (state: Interaction): Grabbed | null => holding(state)?.visit ?? null;

export const holding = (state: Interaction): Held | null =>
  state.mode === 'dragging' || state.mode === 'placing' ? state : null;
