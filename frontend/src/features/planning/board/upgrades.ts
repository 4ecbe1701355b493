// Drawing in full, some lanes at a time: no frame waits for all of them.

import { flushSync } from 'react-dom';

/** Of a frame's sixteen milliseconds; laying out and painting need the rest. */
const BUDGET_MILLISECONDS = 5;
const waiting = new Set<() => void>();
let running = false;

function next() {
  const began = performance.now();
  for (const call of waiting) {
    waiting.delete(call);
    flushSync(call);
    if (performance.now() - began > BUDGET_MILLISECONDS) break;
  }
  running = waiting.size > 0;
  if (running) requestAnimationFrame(next);
}

/** Calls back in a frame to come, after those that wait already; returns how to call it off. */
export function whenThereIsTime(call: () => void): () => void {
  waiting.add(call);
  if (!running) {
    running = true;
    requestAnimationFrame(next);
  }
  return () => waiting.delete(call);
}
