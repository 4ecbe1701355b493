import type { Answer, Deed } from './deeds';
import type { Journal } from './journal';

/** So many deeds travel together. */
export const BATCH = 50;
const FIRST_PAUSE = 1_000;
const LONGEST_PAUSE = 60_000;

/**
 * Sends deeds and brings the server's answers, some of them or all. Rejects when no answer came: then nobody knows
 * whether the deeds arrived, and they are sent again.
 */
export type Post = (deeds: readonly Deed[]) => Promise<readonly Answer[]>;

export type Round =
  | 'nothing to send'
  | 'went on'
  | 'sent a piece'
  | 'no answer'
  | 'server is busy'
  | 'signed out'
  | 'store failed';

/** Thrown by a `Post` when the server does not know (any more) who this is. What is recorded stays, and waits. */
export class SignedOut extends Error {}

/**
 * Sends what is in the journal: in the order it was written, one batch at a time, as often as it takes.
 *
 * Order within a lane holds because a later deed never leaves before the server has answered the one before it: a
 * batch is the beginning of what is unsent, and the next batch is made only of what the answers leave.
 */
export class Sender {
  private running: Promise<Round> | null = null;
  /** Lanes that the server could not go on with: the others do not wait for them. */
  private readonly stuck = new Set<string>();

  constructor(
    private readonly journal: Journal,
    private readonly post: Post,
  ) {}

  /** Sends one batch. Whoever calls while one is under way gets that one's end. */
  round(): Promise<Round> {
    this.running ??= this.send()
      // The phone's own store can fail, too (full, closed by the browser): that is tried again like anything else.
      .catch((): Round => 'store failed')
      .finally(() => {
        this.running = null;
      });
    return this.running;
  }

  /** Asks what has become of what waits: sent again, a deed is answered with what was decided since. */
  async ask(): Promise<void> {
    const deeds = await this.journal.waiting(BATCH);
    if (deeds.length === 0) return;
    // Without an answer it is asked at the next occasion.
    const answers = await this.post(deeds).catch(() => []);
    await this.journal.settle(answers.filter(({ outcome }) => outcome !== 'waiting'));
  }

  private async send(): Promise<Round> {
    const deeds = await this.journal.unsent(BATCH, this.stuck);
    if (deeds.length === 0) {
      const waits = this.stuck.size > 0;
      this.stuck.clear();
      return waits ? 'server is busy' : 'nothing to send';
    }
    let answers: readonly Answer[];
    try {
      answers = await this.post(deeds);
    } catch (error) {
      return error instanceof SignedOut ? 'signed out' : 'no answer';
    }
    const sent = new Map(deeds.map((deed) => [deed.id, deed]));
    const own = answers.filter(({ id }) => sent.has(id));
    await this.journal.settle(own);
    const later = own.filter(({ outcome, missing }) => outcome === 'again' && !missing);
    for (const { id } of later) this.stuck.add(sent.get(id)!.lane);
    return own.length > 0 ? 'went on' : 'no answer';
  }
}

/** How long to wait after so many rounds without success: doubling, and not all phones at the same moment. */
export function pauseAfter(failures: number, random: () => number): number {
  const whole = Math.min(LONGEST_PAUSE, FIRST_PAUSE * 2 ** Math.max(0, failures - 1));
  return whole / 2 + (whole / 2) * random();
}

interface Waiting {
  /** Resolves after so many milliseconds, or when something happened that makes it worth trying now. */
  wait: (milliseconds: number) => Promise<void>;
  stopped: () => boolean;
  random: () => number;
  /** Told of each round, for the screen. */
  after?: (round: Round) => void;
}

/** Wakes whoever waits. Rung while nobody waits, it is heard by whoever waits next: nothing written is slept over. */
export class Bell {
  private rung = false;
  private wake: (() => void) | null = null;

  ring() {
    this.rung = true;
    this.wake?.();
  }

  /** Resolves after so many milliseconds, or when the bell rings. */
  wait(milliseconds: number): Promise<void> {
    return new Promise((resolve) => {
      const timer = setTimeout(() => this.wake?.(), milliseconds);
      this.wake = () => {
        clearTimeout(timer);
        this.wake = null;
        this.rung = false;
        resolve();
      };
      if (this.rung) this.wake();
    });
  }
}

// With nothing to do, it looks again after so long, in case a wake-up was missed.
const IDLE = 5 * 60_000;

/** Keeps sending until it is stopped. */
export async function keepSending(sender: Pick<Sender, 'round'>, around: Waiting): Promise<void> {
  let failures = 0;
  while (!around.stopped()) {
    const round = await sender.round();
    around.after?.(round);
    if (round === 'went on' || round === 'sent a piece') failures = 0;
    else if (round === 'nothing to send' || round === 'signed out') {
      failures = 0;
      await around.wait(IDLE);
    } else await around.wait(pauseAfter(++failures, around.random));
  }
}
