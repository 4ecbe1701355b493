// Drawing in full, a lane at a time: no frame waits for all of them.

const waiting = new Set<() => void>();
let running = false;

function next() {
  const [first] = waiting;
  if (!first) {
    running = false;
    return;
  }
  waiting.delete(first);
  first();
  requestAnimationFrame(next);
}

/** Calls back in a frame of its own, after those that wait already; returns how to call it off. */
export function whenThereIsTime(call: () => void): () => void {
  waiting.add(call);
  if (!running) {
    running = true;
    requestAnimationFrame(next);
  }
  return () => waiting.delete(call);
}
