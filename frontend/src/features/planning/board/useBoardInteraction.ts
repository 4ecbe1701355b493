import { useCallback, useEffect, useReducer, useRef, type KeyboardEvent, type PointerEvent } from 'react';
import {
  momentAt,
  shownSpan,
  lengthOf,
  type AnyVisit,
  type Axis,
  type BoardVisit,
  type Lane,
} from '../model';
import {
  IDLE,
  next,
  type Aim,
  type Deed,
  type Event,
  type Grabbed,
  type Interaction,
  type Under,
} from './interaction';

interface Setting {
  axis: Axis | null;
  lanes: Lane[];
  now: number;
  canPlan: boolean;
  onDeed: (deed: NonNullable<Deed>) => void;
}

/** Drives the state machine with the pointer and the keyboard. */
export function useBoardInteraction({ axis, lanes, now, canPlan, onDeed }: Setting) {
  const [state, setState] = useReducer((_: Interaction, value: Interaction) => value, IDLE);
  const current = useRef(state);
  const setting = useRef({ axis, lanes, now, canPlan, onDeed });
  useEffect(() => {
    setting.current = { axis, lanes, now, canPlan, onDeed };
  });

  const send = useCallback((event: Event) => {
    const result = next(current.current, event);
    current.current = result.state;
    setState(result.state);
    if (result.deed) setting.current.onDeed(result.deed);
  }, []);

  useEffect(() => {
    const move = (event: globalThis.PointerEvent) => {
      if (current.current.mode !== 'pressed' && current.current.mode !== 'dragging') return;
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
  }, [send]);

  // While something is held by the keyboard, the arrows are its own wherever the focus is.
  useEffect(() => {
    if (state.mode === 'idle') return;
    const key = (event: globalThis.KeyboardEvent) => {
      const wanted = placingEvent(event, current.current, setting.current);
      if (!wanted) return;
      event.preventDefault();
      event.stopPropagation();
      send(wanted);
    };
    window.addEventListener('keydown', key, true);
    return () => window.removeEventListener('keydown', key, true);
  }, [state.mode, send]);

  const press = useCallback(
    (event: PointerEvent<HTMLElement>, visit: AnyVisit) => {
      if (event.button !== 0) return;
      const grabbed = grab(visit);
      if (!setting.current.canPlan) {
        setting.current.onDeed({ kind: 'open', visit: grabbed });
        return;
      }
      const box = event.currentTarget.getBoundingClientRect();
      const perHour = setting.current.axis?.pixelsPerHour ?? 60;
      const fromStart = visit.technician_id === null ? 0 : ((event.clientX - box.left) / perHour) * 3600;
      // Held by its planned start, though it may be drawn where it is expected.
      const shift =
        visit.start === null ? 0 : (shownSpan(visit as BoardVisit).start ?? visit.start) - visit.start;
      send({
        type: 'press',
        visit: grabbed,
        x: event.clientX,
        y: event.clientY,
        grabSeconds: fromStart + shift,
      });
    },
    [send],
  );

  const key = useCallback(
    (event: KeyboardEvent<HTMLElement>, visit: AnyVisit) => {
      const grabbed = grab(visit);
      if (event.key === 'Enter' || event.key === ' ') {
        event.preventDefault();
        setting.current.onDeed({ kind: 'open', visit: grabbed });
      } else if (
        setting.current.canPlan &&
        event.key.toLowerCase() === 'm' &&
        !event.ctrlKey &&
        !event.metaKey
      ) {
        event.preventDefault();
        send({ type: 'take', visit: grabbed, aim: firstAim(grabbed, setting.current) });
      } else if (setting.current.canPlan && (event.key === 'Delete' || event.key === 'Backspace')) {
        if (visit.technician_id === null) return;
        event.preventDefault();
        setting.current.onDeed({ kind: 'unplace', visit: grabbed });
      } else {
        moveFocus(event);
      }
    },
    [send],
  );

  return { state, press, key, cancel: () => send({ type: 'cancel' }) };
}

function grab(visit: AnyVisit): Grabbed {
  return {
    id: visit.id,
    version: visit.version,
    technicianId: visit.technician_id,
    start: visit.start,
    lengthSeconds: lengthOf(visit),
  };
}

function firstAim(visit: Grabbed, { lanes, now, axis }: Setting): Aim {
  if (visit.technicianId !== null && visit.start !== null) {
    return { kind: 'lane', technicianId: visit.technicianId, start: visit.start };
  }
  const lane = lanes.find((row) => row.shift) ?? lanes[0];
  if (!lane || !axis) return null;
  const soonest = Math.ceil(Math.max(now, lane.shift?.start ?? axis.start) / 900) * 900;
  const start = now > axis.end || now < axis.start ? (lane.shift?.start ?? axis.start) : soonest;
  return { kind: 'lane', technicianId: lane.technician_id, start };
}

function placingEvent(
  event: globalThis.KeyboardEvent,
  state: Interaction,
  { lanes, axis }: Setting,
): Event | null {
  if (event.key === 'Escape') return { type: 'cancel' };
  if (state.mode !== 'placing' || !axis) return null;
  const step = (seconds: number, by: number): Event => ({
    type: 'step',
    seconds,
    lanes: by,
    order: lanes.map((lane) => lane.technician_id),
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
    case 'Enter':
      return { type: 'confirm' };
    case 'Delete':
    case 'Backspace':
      return { type: 'toBacklog' };
    default:
      return null;
  }
}

/** Arrows walk from visit to visit. */
function moveFocus(event: KeyboardEvent<HTMLElement>) {
  const by = { ArrowRight: 1, ArrowDown: 1, ArrowLeft: -1, ArrowUp: -1 }[event.key];
  if (by === undefined) return;
  event.preventDefault();
  const all = [...document.querySelectorAll<HTMLElement>('button[data-visit]')];
  const here = all.indexOf(event.currentTarget);
  const sideways = event.key === 'ArrowRight' || event.key === 'ArrowLeft';
  const target = sideways ? all[here + by] : inNextRow(all, event.currentTarget, by);
  target?.focus();
}

function inNextRow(all: HTMLElement[], from: HTMLElement, by: number): HTMLElement | undefined {
  const box = from.getBoundingClientRect();
  const candidates = all.filter((other) => {
    const distance = (other.getBoundingClientRect().top - box.top) * by;
    return distance > 8;
  });
  candidates.sort((a, b) => cost(a, box) - cost(b, box));
  return candidates[0];
}

function cost(element: HTMLElement, from: DOMRect): number {
  const box = element.getBoundingClientRect();
  return Math.abs(box.top - from.top) * 10 + Math.abs(box.left - from.left);
}

function underPointer(event: globalThis.PointerEvent, axis: Axis): Under {
  for (const element of document.elementsFromPoint(event.clientX, event.clientY)) {
    const lane = element.closest<HTMLElement>('[data-lane]');
    if (lane) {
      const x = event.clientX - lane.getBoundingClientRect().left;
      return { kind: 'lane', technicianId: Number(lane.dataset.lane), moment: momentAt(axis, x) };
    }
    if (element.closest('[data-backlog]')) return { kind: 'backlog' };
  }
  return null;
}
