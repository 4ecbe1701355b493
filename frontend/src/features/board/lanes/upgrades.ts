// Drawing in full, a few lanes at a time: no frame waits for all of them.

type Call = () => void;

/** What is drawn at once while things move, and what waits until they have stopped. */
const soon = new Set<Call>();
const later = new Set<Call>();
/** So many milliseconds after the last scrolling, things stand still. */
const STILL = 120;
/** Pixels in a millisecond up to which one can follow what scrolls by. */
const SLOW = 1.2;
/** So many are drawn in a frame: while things move, and when they have stood still for a second. */
const AT_ONCE = 1;
const AT_ONCE_AT_REST = 4;
const AT_REST = 1000;
let running = false;
let moved = -Infinity;
let speed = 0;
const places = new WeakMap<EventTarget, number>();

function look({ target }: globalThis.Event) {
  if (!(target instanceof Element)) return;
  const [now, place] = [performance.now(), target.scrollTop + target.scrollLeft];
  speed = Math.abs(place - (places.get(target) ?? place)) / Math.max(8, now - moved);
  places.set(target, place);
  moved = now;
}
document.addEventListener('scroll', look, { capture: true, passive: true });

function next() {
  const most = performance.now() - moved > AT_REST ? AT_ONCE_AT_REST : AT_ONCE;
  for (let number = 0; number < most; number++) take()?.();
  running = soon.size + later.size > 0;
  if (running) requestAnimationFrame(next);
}

function take(): Call | undefined {
  const followed = speed < SLOW || performance.now() - moved > STILL;
  const waiting = soon.size > 0 ? soon : followed ? later : null;
  const [first] = waiting ?? [];
  if (first) waiting?.delete(first);
  return first;
}

function queue(calls: Set<Call>, call: Call): () => void {
  calls.add(call);
  if (!running) {
    running = true;
    requestAnimationFrame(next);
  }
  return () => calls.delete(call);
}

/** Calls back in one of the next frames, after those that wait already; returns how to call it off. */
export const whenThereIsTime = (call: Call) => queue(soon, call);

/** The same, once what is on screen can be followed: what flies by is not worth drawing. */
export const whenFollowed = (call: Call) => queue(later, call);
