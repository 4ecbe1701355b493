import {
  useCallback,
  useEffect,
  useReducer,
  useRef,
  type KeyboardEvent,
  type PointerEvent,
  type RefObject,
} from 'react';
import { momentAt, xOf, type Axis } from '../axis';
import { lengthOf, shownSpan, type AnyVisit, type BoardVisit, type Lane } from '../model';
import {
  IDLE,
  next,
  type Aim,
  type Deed,
  type Event,
  type Grabbed,
  type Interaction,
  type Place,
  type Slot,
  type Under,
} from './interaction';
import { moveFocus } from './focus';
import { technicianUnder } from './lineUnder';
import { LEAST_STRETCHABLE } from './measures';

interface Setting {
  axis: Axis | null;
  /** In the order in which they are shown. */
  lanes: Lane[];
  slots: Slot[];
  /** Chosen visits: taking one of them takes them all. */
  chosen: ReadonlySet<number>;
  now: number;
  canPlan: boolean;
  onDeed: (deed: NonNullable<Deed>) => void;
}

/** A press this near to a visit's right end takes its edge. */
const EDGE_PIXELS = 6;
const FOLLOWED = new Set(['pressed', 'dragging', 'stretching', 'boxing']);

/** Drives the state machine with the pointer and the keyboard. */
export function useBoardInteraction({ axis, lanes, slots, chosen, now, canPlan, onDeed }: Setting) {
  const [state, setState] = useReducer((_: Interaction, value: Interaction) => value, IDLE);
  const current = useRef(state);
  const setting = useRef({ axis, lanes, slots, chosen, now, canPlan, onDeed });
  useEffect(() => {
    setting.current = { axis, lanes, slots, chosen, now, canPlan, onDeed };
  });

  const send = useCallback((event: Event) => {
    const result = next(current.current, event);
    if (result.state !== current.current) {
      current.current = result.state;
      setState(result.state);
    }
    if (result.deed) setting.current.onDeed(result.deed);
  }, []);

  usePointer(current, setting, send);
  useHeldKeys(state.mode, current, setting, send);

  const press = useCallback(
    (event: PointerEvent<HTMLElement>, visit: AnyVisit) => {
      if (event.button !== 0) return;
      event.stopPropagation();
      if (setting.current.canPlan) send(pressEvent(event, visit, setting.current));
      else setting.current.onDeed({ kind: 'open', visit: grab(visit) });
    },
    [send],
  );

  /** A press on the ground between the visits: a box is drawn. */
  const ground = useCallback(
    (event: PointerEvent<HTMLElement>) => {
      const target = event.target as HTMLElement;
      if (event.button !== 0 || !setting.current.canPlan || !target.closest('[data-lane]')) return;
      send({ type: 'box', x: event.clientX, y: event.clientY, adds: event.shiftKey });
    },
    [send],
  );

  /** Taken up with the keys. */
  const take = useCallback(
    (visit: AnyVisit) => {
      const grabbed = grab(visit);
      const together = togetherWith(grabbed.id, setting.current.chosen);
      send({ type: 'take', visit: grabbed, together, aim: firstAim(visit, setting.current) });
    },
    [send],
  );

  const offer = useCallback(
    (visitId: number, places: Place[]) => send({ type: 'offer', visitId, places }),
    [send],
  );

  const key = useCallback(
    (event: KeyboardEvent<HTMLElement>, visit: AnyVisit) => {
      const done = keyed(event, visit, setting.current, { take, send });
      if (done) event.preventDefault();
      else moveFocus(event);
    },
    [send, take],
  );

  return { state, press, ground, key, take, offer };
}

type Send = (event: Event) => void;

/** While the pointer holds something, it is followed wherever it goes. */
function usePointer(current: RefObject<Interaction>, setting: RefObject<Setting>, send: Send) {
  useEffect(() => {
    const move = (event: globalThis.PointerEvent) => {
      if (!FOLLOWED.has(current.current.mode)) return;
      event.preventDefault();
      const under = setting.current.axis ? underPointer(event, setting.current.axis) : null;
      send({ type: 'move', x: event.clientX, y: event.clientY, under });
    };
    const release = () => send({ type: 'release' });
    const lose = () => send({ type: 'cancel' });
    window.addEventListener('pointermove', move);
    window.addEventListener('pointerup', release);
    window.addEventListener('pointercancel', lose);
    return () => {
      window.removeEventListener('pointermove', move);
      window.removeEventListener('pointerup', release);
      window.removeEventListener('pointercancel', lose);
    };
  }, [current, setting, send]);
}

/** While something is held by the keyboard, the arrows are its own wherever the focus is. */
function useHeldKeys(
  mode: Interaction['mode'],
  current: RefObject<Interaction>,
  setting: RefObject<Setting>,
  send: Send,
) {
  useEffect(() => {
    if (mode === 'idle') return;
    const key = (event: globalThis.KeyboardEvent) => {
      const wanted = heldEvent(event, current.current, setting.current);
      if (!wanted) return;
      event.preventDefault();
      event.stopPropagation();
      send(wanted);
    };
    window.addEventListener('keydown', key, true);
    return () => window.removeEventListener('keydown', key, true);
  }, [mode, current, setting, send]);
}

/** A press on a visit: on its right edge it is stretched, elsewhere it is moved. */
function pressEvent(event: PointerEvent<HTMLElement>, visit: AnyVisit, { chosen, axis }: Setting): Event {
  const grabbed = grab(visit);
  const box = event.currentTarget.getBoundingClientRect();
  const edge =
    visit.start !== null && box.width >= LEAST_STRETCHABLE && box.right - event.clientX <= EDGE_PIXELS;
  return {
    type: 'press',
    visit: grabbed,
    together: togetherWith(grabbed.id, chosen),
    x: event.clientX,
    y: event.clientY,
    grabSeconds: grabSeconds(event, visit, axis),
    part: edge ? 'edge' : 'body',
    adds: event.shiftKey || event.ctrlKey || event.metaKey,
  };
}

/** What a key does to a visit that has the focus; false: it is none of its keys. */
function keyed(
  event: KeyboardEvent<HTMLElement>,
  visit: AnyVisit,
  { onDeed: deed, canPlan: allowed }: Setting,
  { take, send }: { take: (visit: AnyVisit) => void; send: Send },
): boolean {
  const grabbed = grab(visit);
  const letter = event.ctrlKey || event.metaKey || event.altKey ? '' : event.key.toLowerCase();
  if (event.key === 'Enter') deed({ kind: 'open', visit: grabbed });
  else if (event.key === ' ') deed({ kind: allowed ? 'toggle' : 'open', visit: grabbed });
  else if (allowed && letter === 'm') take(visit);
  else if (allowed && letter === 'l' && visit.start !== null) send({ type: 'lengthen', visit: grabbed });
  else if (allowed && (event.key === 'Delete' || event.key === 'Backspace')) {
    if (visit.technician_id !== null) deed({ kind: 'unplace', visit: grabbed });
  } else return false;
  return true;
}

const togetherWith = (id: number, chosen: ReadonlySet<number>) => (chosen.has(id) ? [...chosen] : []);

export function grab(visit: AnyVisit): Grabbed {
  return {
    id: visit.id,
    version: visit.version,
    technicianId: visit.technician_id,
    start: visit.start,
    lengthSeconds: lengthOf(visit),
    unmeasured: visit.duration_seconds === null,
  };
}

/** How far after its planned start a visit is held, though it may be drawn where it is expected. */
function grabSeconds(event: PointerEvent<HTMLElement>, visit: AnyVisit, axis: Axis | null): number {
  if (visit.start === null || !axis) return 0;
  const shown = shownSpan(visit as BoardVisit).start;
  const lane = event.currentTarget.closest('[data-lane]');
  if (!lane) return 0;
  const x = event.clientX - lane.getBoundingClientRect().left;
  return ((x - xOf(axis, shown)) / axis.pixelsPerHour) * 3600 + shown - visit.start;
}

/** Where it is; else the first line, inside the promise where that is on the days shown. */
function firstAim(visit: AnyVisit, { lanes, now, axis }: Setting): Aim {
  if (visit.technician_id !== null && visit.start !== null)
    return { kind: 'lane', technicianId: visit.technician_id, start: visit.start };
  const lane = lanes.find((row) => row.days.some((day) => day.shift)) ?? lanes[0];
  if (!lane || !axis) return null;
  const { promise } = visit;
  const soonest = Math.ceil(now / 900) * 900;
  if (promise && promise.end > axis.start && promise.start < axis.end)
    return {
      kind: 'lane',
      technicianId: lane.technician_id,
      start: promise.end > now ? Math.max(promise.start, soonest) : promise.start,
    };
  const shifts = lane.days.map((day) => day.shift).filter((shift) => shift !== null);
  const shift = shifts.find((row) => row.end > now) ?? shifts[0];
  const begins = shift?.start ?? axis.start;
  const running = now > begins && now < axis.end;
  return { kind: 'lane', technicianId: lane.technician_id, start: running ? soonest : begins };
}

function heldEvent(
  event: globalThis.KeyboardEvent,
  state: Interaction,
  { slots, axis }: Setting,
): Event | null {
  if (event.key === 'Escape') return { type: 'cancel' };
  if ((state.mode !== 'placing' && state.mode !== 'stretching') || !axis) return null;
  const step = (seconds: number, by: number): Event => ({
    type: 'step',
    seconds,
    lanes: by,
    order: slots,
    earliest: axis.start,
    latest: axis.end,
  });
  const stride = event.shiftKey ? 300 : 900;
  switch (event.key) {
    case 'ArrowLeft':
      return step(-stride, 0);
    case 'ArrowRight':
      return step(stride, 0);
    case 'ArrowUp':
      return step(0, -1);
    case 'ArrowDown':
      return step(0, 1);
    case '[':
      return step(-86_400, 0);
    case ']':
      return step(86_400, 0);
    case 'Tab':
      return { type: 'jump', by: event.shiftKey ? -1 : 1 };
    case 'Enter':
      return { type: 'confirm' };
    case 'Delete':
    case 'Backspace':
      return { type: 'toBacklog' };
    default:
      return null;
  }
}

function underPointer(event: globalThis.PointerEvent, axis: Axis): Under {
  for (const element of document.elementsFromPoint(event.clientX, event.clientY)) {
    const head = element.closest<HTMLElement>('[data-head]');
    if (head) return { kind: 'head', technicianId: Number(head.dataset.head) };
    const day = element.closest<HTMLElement>('[data-day]');
    if (day) return { kind: 'day', day: day.dataset.day! };
    const lane = element.closest<HTMLElement>('[data-lane]');
    if (lane) {
      const x = event.clientX - lane.getBoundingClientRect().left;
      const mates = lane.dataset.mates?.split(',').map(Number);
      const technicianId = Number(lane.dataset.lane);
      return { kind: 'lane', technicianId, ...(mates && { mates }), moment: momentAt(axis, x) };
    }
    if (element.closest('[data-backlog]')) return { kind: 'backlog' };
    if (element.closest('[data-map]')) {
      const technicianId = technicianUnder(event.clientX, event.clientY);
      return technicianId === null ? null : { kind: 'head', technicianId };
    }
  }
  return null;
}
