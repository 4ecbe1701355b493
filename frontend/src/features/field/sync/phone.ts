import type { Answer, Deed } from './deeds';
import { WatchedClock, type Offset } from './clock';
import { Journal } from './journal';
import { keyFrom, sealedWith, type Sealed } from './sealing';
import { Bell, keepSending, Sender, SignedOut, type Round } from './sender';
import { storeOf, type FieldDatabase } from './store';

/** What the server does for a phone. */
export interface FieldServer {
  /** Makes the phone known; the bytes of its key. */
  register(phoneId: string): Promise<{ key: Sealed; now: number }>;
  /**
   * @throws SignedOut when the server does not know who this is
   * @throws PhoneSignedOut when somebody at the office signed this phone out
   */
  post(phoneId: string, deeds: readonly Deed[]): Promise<{ answers: readonly Answer[]; now: number }>;
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

/** One person's phone, opened: what is done on it is written down here, and sent when there is a signal. */
export class FieldPhone {
  private constructor(
    readonly id: string,
    readonly journal: Journal,
    private readonly sender: Sender,
  ) {}

  /**
   * Opens what is kept on this phone. Only the first time, and after it was signed out, the server is needed for it.
   */
  static async open(database: FieldDatabase, server: FieldServer, clocks: Clocks): Promise<FieldPhone> {
    const offset = ((await database.meta.get(OFFSET))?.value as Offset | undefined) ?? null;
    const clock = new WatchedClock(clocks.wall, clocks.running, offset);
    const { id, key } = (await known(database)) ?? (await introduce(database, server, clock));
    const journal = new Journal(storeOf(database, sealedWith(key)), () => clock.now());
    await journal.clear(clocks.wall() - KEPT_DAYS * 86_400_000);
    const sender = new Sender(journal, async (deeds) => {
      const heard = clock.asking();
      try {
        const { answers, now } = await server.post(id, deeds);
        await database.meta.put({ name: OFFSET, value: heard(now) });
        return answers;
      } catch (error) {
        if (error instanceof PhoneSignedOut) await database.keys.delete(SEAL);
        throw error;
      }
    });
    return new FieldPhone(id, journal, sender);
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
    const unhear = [wakes(ring), this.journal.subscribe(ring)];
    void keepSending(this.sender, {
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
