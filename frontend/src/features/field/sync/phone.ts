import type { Answer, Deed } from './deeds';
import { WatchedClock, type Offset } from './clock';
import { Journal } from './journal';
import { Drafts } from './drafts';
import { Pictures, type PieceAnswer } from './pictures';
import { keyFrom, sealedWith, type Seal, type Sealed } from './sealing';
import { Bell, keepSending, Sender, SignedOut, type Round } from './sender';
import { storeOf, type FieldDatabase } from './store';
import { Taken, type Item, type News } from './taken';

/** What the server does for a phone. */
export interface FieldServer {
  /** Makes the phone known; the bytes of its key. */
  register(phoneId: string): Promise<{ key: Sealed; now: number }>;
  /**
   * @throws SignedOut when the server does not know who this is
   * @throws PhoneSignedOut when somebody at the office signed this phone out
   */
  post(phoneId: string, deeds: readonly Deed[]): Promise<{ answers: readonly Answer[]; now: number }>;
  /**
   * What is to be taken along. `known`: marks of what is there, by name.
   *
   * @throws SignedOut, PhoneSignedOut
   */
  along(phoneId: string, known: Record<string, string>): Promise<News>;
  /**
   * A piece of a picture.
   *
   * @throws SignedOut, PhoneSignedOut
   */
  piece(phoneId: string, pictureId: string, at: number, piece: Sealed): Promise<PieceAnswer>;
}

/** Somebody at the office has signed this phone out: what it keeps is closed until somebody signs in here again. */
export class PhoneSignedOut extends SignedOut {}

export interface Clocks {
  wall: () => number;
  running: () => number;
}

// What has come to an end stays on the phone for so long, to be looked at.
const KEPT_DAYS = 14;
const PHONE = 'phone';
const OFFSET = 'offset';
const SEAL = 'seal';
const TAKEN_AT = 'taken at';

/** One person's phone, opened: what is done on it is written down here, and sent when there is a signal. */
export class FieldPhone {
  private shut = false;

  readonly journal: Journal;
  readonly taken: Taken;
  readonly pictures: Pictures;
  readonly drafts: Drafts;
  private readonly sender: Sender;

  private constructor(
    readonly id: string,
    seal: Seal,
    private readonly database: FieldDatabase,
    private readonly server: FieldServer,
    private readonly clock: WatchedClock,
  ) {
    this.journal = new Journal(storeOf(database, seal), () => clock.now());
    this.taken = new Taken(database, seal);
    this.drafts = new Drafts(database, seal);
    this.sender = new Sender(this.journal, (deeds) => this.minding(() => this.post(deeds)));
    const piece = (name: string, at: number, content: Sealed) =>
      this.minding(() => server.piece(id, name, at, content));
    this.pictures = new Pictures(database, seal, piece, () => clock.now().deviceAt);
  }

  /**
   * Opens what is kept on this phone. Only the first time, and after it was signed out, the server is needed for it.
   */
  static async open(database: FieldDatabase, server: FieldServer, clocks: Clocks): Promise<FieldPhone> {
    const offset = ((await database.meta.get(OFFSET))?.value as Offset | undefined) ?? null;
    const clock = new WatchedClock(clocks.wall, clocks.running, offset);
    const { id, key } = (await known(database)) ?? (await introduce(database, server, clock));
    const phone = new FieldPhone(id, sealedWith(key), database, server, clock);
    await phone.tidy(clocks.wall());
    return phone;
  }

  private async tidy(now: number): Promise<void> {
    await this.journal.clear(now - KEPT_DAYS * 86_400_000);
    const kept = await this.journal.all();
    const told = kept
      .filter(({ deed }) => deed.kind === 'picture' || deed.kind === 'fuel')
      .map(({ deed }) => (deed.body as { id: string }).id);
    await this.pictures.clearStray(new Set(told));
  }

  /** Whether the office has signed it out since it was opened. */
  get closed(): boolean {
    return this.shut;
  }

  /** Takes along what is new at the office; the things that are new here. Where the server does not answer, nothing. */
  async takeAlong(): Promise<readonly Item[]> {
    const known = await this.taken.marks();
    const news = await this.minding(() => this.server.along(this.id, known));
    await this.taken.keep(news);
    await this.database.meta.put({ name: TAKEN_AT, value: this.clock.now().happenedAt });
    return news.news;
  }

  /**
   * Keeps a picture here. Where there is no room, the oldest pictures that have arrived at the office go first.
   *
   * @throws QuotaExceededError when there is no room even then
   */
  async keepPicture(id: string, content: Sealed): Promise<void> {
    try {
      await this.pictures.keep(id, content);
    } catch (error) {
      if ((await this.pictures.makeRoom(content.byteLength * 2)) === 0) throw error;
      await this.pictures.keep(id, content);
    }
  }

  /** When the server was last asked what to take along, in milliseconds by its clock; null: never. */
  async takenAt(): Promise<number | null> {
    return ((await this.database.meta.get(TAKEN_AT))?.value as number | undefined) ?? null;
  }

  private async post(deeds: readonly Deed[]): Promise<readonly Answer[]> {
    const heard = this.clock.asking();
    const { answers, now } = await this.server.post(this.id, deeds);
    await this.database.meta.put({ name: OFFSET, value: heard(now) });
    return answers;
  }

  /** Whatever is asked: a phone that the office has signed out throws its key away the moment it hears of it. */
  private async minding<T>(ask: () => Promise<T>): Promise<T> {
    try {
      return await ask();
    } catch (error) {
      if (error instanceof PhoneSignedOut) {
        await this.database.keys.delete(SEAL);
        this.shut = true;
      }
      throw error;
    }
  }

  /** Asks what was decided about what waits. */
  ask(): Promise<void> {
    return this.sender.ask();
  }

  /** Keeps sending until `stop` is called. `wakes` says what makes it worth trying at once. */
  keepSending(wakes: (wake: () => void) => () => void, after: (round: Round) => void): () => void {
    let stopped = false;
    const bell = new Bell();
    const ring = () => bell.ring();
    const unhear = [wakes(ring), this.journal.subscribe(ring), this.pictures.subscribe(ring)];
    // Pictures only when nothing else is left to send: what was done is worth more than how it looked.
    const both = {
      round: async () => {
        const round = await this.sender.round();
        return round === 'nothing to send' ? this.pictures.round() : round;
      },
    };
    void keepSending(both, {
      wait: (milliseconds) => bell.wait(milliseconds),
      stopped: () => stopped,
      random: Math.random,
      after,
    });
    return () => {
      stopped = true;
      bell.ring();
      for (const stop of unhear) stop();
    };
  }
}

async function known(database: FieldDatabase) {
  const [row, key] = await Promise.all([database.meta.get(PHONE), database.keys.get(SEAL)]);
  return row && key ? { id: row.value as string, key } : null;
}

/** The name stays when only the key was taken away: what lies here is opened with the same key again. */
async function introduce(database: FieldDatabase, server: FieldServer, clock: WatchedClock) {
  const id = ((await database.meta.get(PHONE))?.value as string | undefined) ?? crypto.randomUUID();
  const heard = clock.asking();
  const { key: bytes, now } = await server.register(id);
  const offset = heard(now);
  const key = await keyFrom(bytes);
  await database.transaction('rw', database.meta, database.keys, async () => {
    await database.meta.bulkPut([
      { name: PHONE, value: id },
      { name: OFFSET, value: offset },
    ]);
    await database.keys.put(key, SEAL);
  });
  return { id, key };
}
