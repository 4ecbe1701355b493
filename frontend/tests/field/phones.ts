import { v7 } from 'uuid';
import type { Answer, Deed, Fate, Kept, Outcome } from '@/features/field/sync/deeds';
import { Journal, type Store } from '@/features/field/sync/journal';
import { Sender, type Post } from '@/features/field/sync/sender';

/** A phone's store in memory: what is in it survives the death of the process; what was under way does not. */
export class Disk {
  readonly rows: Kept[] = [];

  /** The store as one process sees it: when that process is dead, nothing it still does comes to anything. */
  seenBy(life: { alive: boolean }): Store {
    const now = async <T>(work: () => T): Promise<T> => {
      await Promise.resolve();
      if (!life.alive) return new Promise<T>(() => undefined);
      const result = work();
      await Promise.resolve();
      return life.alive ? result : new Promise<T>(() => undefined);
    };
    return {
      add: (unplaced) =>
        now(() => {
          const last = this.rows.filter(({ deed }) => deed.lane === unplaced.lane).at(-1);
          const number = (this.rows.at(-1)?.deed.number ?? 0) + 1;
          const deed = { ...unplaced, number, previous: last?.deed.id ?? null };
          this.rows.push({ deed, fate: 'unsent', sentence: '' });
          return deed;
        }),
      unsent: (limit, except) =>
        now(() =>
          this.rows
            .filter(({ deed, fate }) => fate === 'unsent' && !except.has(deed.lane))
            .slice(0, limit)
            .map(({ deed }) => deed),
        ),
      waiting: (limit) =>
        now(() =>
          this.rows
            .filter(({ fate }) => fate === 'waiting')
            .slice(0, limit)
            .map(({ deed }) => deed),
        ),
      mark: (fates) =>
        now(() => {
          for (const row of this.rows) Object.assign(row, fates.get(row.deed.id) ?? {});
        }),
      all: () => now(() => [...this.rows]),
      clear: () => now(() => undefined),
    };
  }
}

interface Visit {
  state: string;
  technician: string;
}

/** What the server keeps of a deed. */
interface Taken {
  deed: Deed;
  phone: string;
  outcome: Exclude<Outcome, 'again'>;
}

/** The server in small: it keeps the rules that the real one keeps, and remembers what it was told. */
export class Server {
  readonly visits = new Map<number, Visit>();
  readonly taken = new Map<string, Taken>();
  /** Every deed that took effect, in the order in which it did. */
  readonly effects: string[] = [];

  constructor(visits: number) {
    for (let id = 1; id <= visits; id++) this.visits.set(id, { state: 's0', technician: 'ines' });
  }

  /** Takes in the first `whole` deeds of a batch: what dies in the middle has done no half of a deed. */
  take(phone: string, deeds: readonly Deed[], whole: number, fails: (deed: Deed) => boolean): Answer[] {
    return deeds.slice(0, whole).map((deed) => this.one(phone, deed, fails));
  }

  private one(phone: string, deed: Deed, fails: (deed: Deed) => boolean): Answer {
    const known = this.taken.get(deed.id);
    if (known) return { id: deed.id, outcome: known.outcome, sentence: '' };
    if (deed.previous !== null && !this.taken.has(deed.previous))
      return { id: deed.id, outcome: 'again', sentence: '', missing: null };
    if (fails(deed)) return { id: deed.id, outcome: 'again', sentence: 'not now' };
    const outcome = this.outcomeOf(phone, deed);
    this.taken.set(deed.id, { deed, phone, outcome });
    return { id: deed.id, outcome, sentence: '' };
  }

  private outcomeOf(phone: string, deed: Deed): Exclude<Outcome, 'again'> {
    if (deed.visitId === null) return this.apply(deed);
    const waits = [...this.taken.values()].some(
      (row) => row.phone === phone && row.deed.lane === deed.lane && row.outcome === 'waiting',
    );
    const visit = this.visits.get(deed.visitId)!;
    const asSeen = deed.basedOn?.state === visit.state && visit.technician === 'ines';
    if (waits || !asSeen) return 'waiting';
    visit.state = String(deed.body);
    return this.apply(deed);
  }

  private apply(deed: Deed): 'applied' {
    this.effects.push(deed.id);
    return 'applied';
  }
}

/** What travels: towards the server, or an answer on its way back. */
interface Letter {
  phone: Phone;
  deeds: readonly Deed[];
  answers: readonly Answer[] | null;
  arrive: (answers: readonly Answer[]) => void;
}

/** A network that does to letters what the schedule says. */
export class Network {
  letters: Letter[] = [];

  send(phone: Phone, deeds: readonly Deed[], arrive: Letter['arrive']) {
    this.letters.push({ phone, deeds, answers: null, arrive });
  }

  /** Moves a letter on by one leg. `half`: the line breaks when so much of it was taken in. */
  deliver(
    at: number,
    server: Server,
    how: { twice: boolean; half: number | null; fails: (deed: Deed) => boolean },
  ) {
    const letter = this.letters[at]!;
    if (!how.twice) this.letters.splice(at, 1);
    if (letter.answers !== null) return letter.arrive(letter.answers);
    const whole = how.half === null ? letter.deeds.length : Math.floor(how.half * letter.deeds.length);
    const answers = server.take(letter.phone.name, letter.deeds, whole, how.fails);
    if (how.half === null) this.letters.push({ ...letter, answers });
  }
}

/** A phone: a disk, and a process that is alive until it is killed. */
export class Phone {
  readonly disk = new Disk();
  /** What the screen has said was written down. */
  readonly said: string[] = [];
  clock = 1_000_000;
  private life = { alive: false };
  private journal!: Journal;
  private sender!: Sender;
  private giveUp: (() => void) | null = null;

  constructor(
    readonly name: string,
    private readonly network: Network,
  ) {
    this.start();
  }

  start() {
    this.life.alive = false;
    const life = (this.life = { alive: true });
    const time = () => ({ deviceAt: this.clock, happenedAt: this.clock });
    this.journal = new Journal(this.disk.seenBy(life), time, v7);
    const post: Post = (deeds) =>
      new Promise((resolve, reject) => {
        this.giveUp = () => reject(new Error('no answer'));
        this.network.send(this, deeds, resolve);
      });
    this.sender = new Sender(this.journal, post);
    this.giveUp = null;
  }

  kill() {
    this.life.alive = false;
  }

  write(visitId: number | null, basedOn: string, body: string) {
    const base = visitId === null ? null : { state: basedOn, start: null };
    void this.journal
      .write({ kind: 'step', visitId, body, basedOn: base, where: null })
      .then((deed) => this.said.push(deed.id));
  }

  round() {
    return this.sender.round();
  }

  timeOut() {
    this.giveUp?.();
  }

  fates(): Map<string, Fate> {
    return new Map(this.disk.rows.map(({ deed, fate }) => [deed.id, fate]));
  }
}
