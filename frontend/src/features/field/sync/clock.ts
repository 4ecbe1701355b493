/** What a phone knows of the server's clock: how far its own is off. A phone's clock may be wrong by hours. */
export interface Offset {
  /** Milliseconds to add to the phone's clock. */
  ahead: number;
  /** How far the truth may be from that: half of how long the answer took. */
  within: number;
  /** When it was learned, by the phone's clock. */
  learnedAt: number;
}

/**
 * What an answer says of the server's clock.
 *
 * @param sentAt when the question left, by the phone's clock, milliseconds
 * @param heardAt when the answer was there
 * @param serverNow what the answer says
 */
export function learned(sentAt: number, heardAt: number, serverNow: number): Offset {
  const took = Math.max(0, heardAt - sentAt);
  return { ahead: serverNow - (sentAt + took / 2), within: took / 2, learnedAt: heardAt };
}

// An answer that took long says little; so does one from long ago, for somebody may have set the clock meanwhile.
const OLD = 10 * 60_000;

/** The better of what was known and what has just been learned. */
export function better(known: Offset | null, fresh: Offset): Offset {
  if (known === null || fresh.learnedAt - known.learnedAt > OLD || fresh.learnedAt < known.learnedAt)
    return fresh;
  const moved = Math.abs(known.ahead - fresh.ahead) > known.within + fresh.within;
  return moved || fresh.within <= known.within ? fresh : known;
}

/** The server's time, as far as it is known. */
export const corrected = (deviceAt: number, known: Offset | null) =>
  Math.round(deviceAt + (known?.ahead ?? 0));

/**
 * A clock that notices when somebody sets the phone's clock while the page is open: the page's own clock only runs
 * forward, and by how much the two differ does not change otherwise.
 */
export class WatchedClock {
  private readonly startedAt: number;

  constructor(
    private readonly wall: () => number,
    private readonly running: () => number,
    public offset: Offset | null,
  ) {
    this.startedAt = wall() - running();
  }

  /** By the phone's clock as it was when the page was opened, however it was set since. */
  private steady(): number {
    return this.startedAt + this.running();
  }

  now(): { deviceAt: number; happenedAt: number } {
    return { deviceAt: Math.round(this.wall()), happenedAt: corrected(this.steady(), this.offset) };
  }

  /** To be called when a question leaves; what it returns, when its answer is there. */
  asking(): (serverNow: number) => Offset {
    const sentAt = this.steady();
    return (serverNow) => {
      this.offset = better(this.offset, learned(sentAt, this.steady(), serverNow));
      return this.offset;
    };
  }
}
