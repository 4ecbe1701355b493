// What the dispatcher is doing with a visit right now: a state machine without React.

export interface Grabbed {
  id: number;
  version: number;
  /** Where it is placed now; null in the backlog. */
  technicianId: number | null;
  start: number | null;
  lengthSeconds: number;
}

export type Aim = { kind: 'lane'; technicianId: number; start: number } | { kind: 'backlog' } | null;

export type Interaction =
  | { mode: 'idle' }
  | { mode: 'pressed'; visit: Grabbed; x: number; y: number; grabSeconds: number }
  | { mode: 'dragging'; visit: Grabbed; x: number; y: number; grabSeconds: number; aim: Aim }
  | { mode: 'placing'; visit: Grabbed; aim: Aim };

/** What the pointer is over: a lane with the moment under the pointer, the backlog, or nothing. */
export type Under = { kind: 'lane'; technicianId: number; moment: number } | { kind: 'backlog' } | null;

export type Event =
  | { type: 'press'; visit: Grabbed; x: number; y: number; grabSeconds: number }
  | { type: 'move'; x: number; y: number; under: Under }
  | { type: 'release' }
  | { type: 'take'; visit: Grabbed; aim: Aim }
  | { type: 'step'; seconds: number; lanes: number; order: number[]; earliest: number; latest: number }
  | { type: 'toBacklog' }
  | { type: 'confirm' }
  | { type: 'cancel' };

/** What is to be done about it, once the machine has moved on. */
export type Deed =
  | { kind: 'place'; visit: Grabbed; technicianId: number; start: number }
  | { kind: 'unplace'; visit: Grabbed }
  | { kind: 'open'; visit: Grabbed }
  | null;

export const IDLE: Interaction = { mode: 'idle' };
/** A press that moves less than this is a click. */
const SLOP_PIXELS = 4;
const SNAP_SECONDS = 300;

export function next(state: Interaction, event: Event): { state: Interaction; deed: Deed } {
  switch (event.type) {
    case 'press':
      return still({
        mode: 'pressed',
        visit: event.visit,
        x: event.x,
        y: event.y,
        grabSeconds: event.grabSeconds,
      });
    case 'move':
      return still(moved(state, event));
    case 'release':
      return released(state);
    case 'take':
      return still({ mode: 'placing', visit: event.visit, aim: event.aim });
    case 'step':
      return still(stepped(state, event));
    case 'toBacklog':
      return state.mode === 'placing' ? still({ ...state, aim: { kind: 'backlog' } }) : still(state);
    case 'confirm':
      return state.mode === 'placing' ? { state: IDLE, deed: deedOf(state.visit, state.aim) } : still(state);
    case 'cancel':
      return still(IDLE);
  }
}

const still = (state: Interaction) => ({ state, deed: null });

function moved(state: Interaction, event: Extract<Event, { type: 'move' }>): Interaction {
  if (state.mode === 'pressed') {
    if (Math.hypot(event.x - state.x, event.y - state.y) < SLOP_PIXELS) return state;
    return { ...state, mode: 'dragging', x: event.x, y: event.y, aim: aimOf(event.under, state.grabSeconds) };
  }
  if (state.mode !== 'dragging') return state;
  return { ...state, x: event.x, y: event.y, aim: aimOf(event.under, state.grabSeconds) };
}

function aimOf(under: Under, grabSeconds: number): Aim {
  if (under === null || under.kind === 'backlog') return under;
  const start = Math.round((under.moment - grabSeconds) / SNAP_SECONDS) * SNAP_SECONDS;
  return { kind: 'lane', technicianId: under.technicianId, start };
}

function released(state: Interaction): { state: Interaction; deed: Deed } {
  if (state.mode === 'pressed') return { state: IDLE, deed: { kind: 'open', visit: state.visit } };
  if (state.mode === 'dragging') return { state: IDLE, deed: deedOf(state.visit, state.aim) };
  return still(state);
}

/** Dropped where it came from, or nowhere: nothing is to be done. */
function deedOf(visit: Grabbed, aim: Aim): Deed {
  if (aim === null) return null;
  if (aim.kind === 'backlog') return visit.technicianId === null ? null : { kind: 'unplace', visit };
  if (aim.technicianId === visit.technicianId && aim.start === visit.start) return null;
  return { kind: 'place', visit, technicianId: aim.technicianId, start: aim.start };
}

function stepped(state: Interaction, event: Extract<Event, { type: 'step' }>): Interaction {
  if (state.mode !== 'placing' || event.order.length === 0) return state;
  if (state.aim?.kind !== 'lane') {
    // Coming out of the backlog: the first lane, the earliest time.
    const technicianId = event.lanes < 0 ? event.order.at(-1)! : event.order[0]!;
    return { ...state, aim: { kind: 'lane', technicianId, start: event.earliest } };
  }
  const here = event.order.indexOf(state.aim.technicianId);
  const lane = Math.min(event.order.length - 1, Math.max(0, here + event.lanes));
  const start = Math.min(event.latest, Math.max(event.earliest, state.aim.start + event.seconds));
  return { ...state, aim: { kind: 'lane', technicianId: event.order[lane]!, start } };
}

/** The lane and start aimed at, if any. */
export function laneAim(state: Interaction) {
  if (state.mode !== 'dragging' && state.mode !== 'placing') return null;
  return state.aim?.kind === 'lane' ? state.aim : null;
}
