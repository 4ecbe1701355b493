import { v7 } from 'uuid';
import { laneOf, type Answer, type Deed, type Draft, type Fate, type Kept } from './deeds';

/** A deed before it has its place among the others. */
export type Unplaced = Omit<Deed, 'number' | 'previous'>;

/**
 * What keeps deeds on the phone. Each function is one transaction: it has happened or it has not, also when the phone
 * dies in the middle.
 */
export interface Store {
  /** Adds a deed behind all others: with the next number, and the name of the one before it in its lane. */
  add(deed: Unplaced): Promise<Deed>;
  /** The first so many that are unsent, in the order of their numbers, except those of some lanes. */
  unsent(limit: number, except: ReadonlySet<string>): Promise<Deed[]>;
  /** The first so many that wait for somebody to decide. */
  waiting(limit: number): Promise<Deed[]>;
  /** What has become of deeds; what is not there (any more) is passed over. */
  mark(fates: ReadonlyMap<string, { fate: Fate; sentence: string }>): Promise<void>;
  all(): Promise<Kept[]>;
  /** Clears away what was done before a moment (milliseconds by the phone's clock) and has come to an end. */
  clear(before: number): Promise<void>;
}

/** The append-only list of what was done: written before the screen says so, and kept until the server has it. */
export class Journal {
  private readonly hearers = new Set<() => void>();

  constructor(
    private readonly store: Store,
    private readonly clock: () => { deviceAt: number; happenedAt: number },
    private readonly makeId: () => string = v7,
  ) {}

  /** Writes a deed down. Only when this has come back may a screen say that it is done. */
  async write(draft: Draft): Promise<Deed> {
    const { deviceAt, happenedAt } = this.clock();
    const lane = laneOf(draft.visitId);
    const deed = await this.store.add({ ...draft, id: this.makeId(), lane, deviceAt, happenedAt });
    this.tell();
    return deed;
  }

  unsent(limit: number, except: ReadonlySet<string>): Promise<Deed[]> {
    return this.store.unsent(limit, except);
  }

  waiting(limit: number): Promise<Deed[]> {
    return this.store.waiting(limit);
  }

  all(): Promise<Kept[]> {
    return this.store.all();
  }

  clear(before: number): Promise<void> {
    return this.store.clear(before);
  }

  /** Keeps what the server said. What it does not have any more is sent again. */
  async settle(answers: readonly Answer[]): Promise<void> {
    const fates = new Map<string, { fate: Fate; sentence: string }>();
    for (const { id, outcome, sentence, missing } of answers) {
      if (outcome !== 'again') fates.set(id, { fate: outcome, sentence });
      else if (missing) fates.set(missing, { fate: 'unsent', sentence: '' });
    }
    if (fates.size === 0) return;
    await this.store.mark(fates);
    this.tell();
  }

  /** Calls whenever something was written or answered. */
  subscribe(hear: () => void): () => void {
    this.hearers.add(hear);
    return () => this.hearers.delete(hear);
  }

  private tell() {
    for (const hear of this.hearers) hear();
  }
}
