// One stream of live changes per browser, shared by its tabs: a browser opens only a few streams per server.

export interface Change {
  topic: string;
  ids?: number[];
}
type Listener = (change: Change) => void;
export type Connection = 'connecting' | 'live' | 'broken';

const RESYNC: Change = { topic: 'resync' };
const listeners = new Set<Listener>();
const watchers = new Set<(state: Connection) => void>();
/** After a refused stream it is tried again after so many milliseconds, then after twice as many, up to a minute. */
const FIRST_PAUSE = 3_000;
const LONGEST_PAUSE = 60_000;
let state: Connection = 'connecting';
let started = false;
let pause = FIRST_PAUSE;
/** The server is heard every fifteen seconds; after so many milliseconds of silence the line is taken to be dead. */
const SILENCE = 40_000;
/** Milliseconds that a page waits for its stream before it fetches without. */
const PATIENCE = 300;

/** Hear of every change; "resync" means: look everything up again. */
export function onChange(listener: Listener): () => void {
  listeners.add(listener);
  start();
  return () => listeners.delete(listener);
}

/**
 * Waits, a moment at most, until the stream stands: what is fetched after that need not be looked up again for what
 * may have been missed.
 */
export function onceListening(): Promise<void> {
  start();
  if (state === 'live') return Promise.resolve();
  return new Promise((resolve) => {
    const watcher = (next: Connection) => {
      if (next !== 'connecting') done();
    };
    const done = () => {
      watchers.delete(watcher);
      resolve();
    };
    watchers.add(watcher);
    window.setTimeout(done, PATIENCE);
  });
}

export function onConnection(watcher: (state: Connection) => void): () => void {
  watchers.add(watcher);
  watcher(state);
  return () => watchers.delete(watcher);
}

function start() {
  if (started) return;
  started = true;
  const channel = new BroadcastChannel('relay-live');
  channel.onmessage = (message: MessageEvent<{ change?: Change; state?: Connection }>) => {
    if (message.data.change) tell(message.data.change);
    if (message.data.state) become(message.data.state);
  };
  if (!('locks' in navigator)) {
    open(null);
    return;
  }
  // The tab that holds the lock has the stream; when it closes, the next one takes over and catches up.
  void navigator.locks.request('relay-live', () => {
    tell(RESYNC);
    open(channel);
    return new Promise(() => {});
  });
  window.setTimeout(() => state === 'connecting' && become('live'), 1500);
}

function open(channel: BroadcastChannel | null) {
  const source = new EventSource('/api/v1/live');
  let heard = Date.now();
  const hear = () => {
    heard = Date.now();
  };
  // A line can be dead without anybody being told, above all a phone's: the server's beat says that it lives.
  const watch = window.setInterval(() => {
    if (Date.now() - heard < SILENCE) return;
    window.clearInterval(watch);
    source.close();
    report('broken');
    open(channel);
  }, SILENCE / 4);
  for (const name of ['hello', 'change', 'resync', 'beat']) source.addEventListener(name, hear);
  const spread = (change: Change) => {
    tell(change);
    channel?.postMessage({ change });
  };
  const report = (next: Connection) => {
    become(next);
    channel?.postMessage({ state: next });
  };
  source.addEventListener('hello', () => {
    pause = FIRST_PAUSE;
    // Also the first time: what changed while the page was being fetched was not heard.
    spread(RESYNC);
    report('live');
  });
  source.addEventListener('change', (event) =>
    spread(JSON.parse((event as MessageEvent<string>).data) as Change),
  );
  source.addEventListener('resync', () => spread(RESYNC));
  source.onerror = () => {
    report('broken');
    // A refused stream (signed out, server restarting) is not retried by the browser itself.
    if (source.readyState !== EventSource.CLOSED) return;
    window.clearInterval(watch);
    again(channel);
  };
  window.addEventListener(
    'offline',
    () => {
      window.clearInterval(watch);
      if (source.readyState === EventSource.CLOSED) return;
      // Cut off, a browser keeps a dead stream for long.
      source.close();
      report('broken');
      again(channel);
    },
    { once: true },
  );
}

/** Opens the stream anew: after a pause, or as soon as there is a signal. */
function again(channel: BroadcastChannel | null) {
  const now = () => {
    window.clearTimeout(timer);
    window.removeEventListener('online', now);
    open(channel);
  };
  const timer = window.setTimeout(now, pause);
  pause = Math.min(LONGEST_PAUSE, pause * 2);
  window.addEventListener('online', now);
}

function tell(change: Change) {
  listeners.forEach((listener) => listener(change));
}

function become(next: Connection) {
  state = next;
  watchers.forEach((watcher) => watcher(next));
}
