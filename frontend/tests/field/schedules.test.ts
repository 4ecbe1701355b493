import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { Network, Phone, Server } from './phones';

const VISITS = 3;
const SCHEDULES = 10_000;

type Act =
  | { do: 'write'; phone: number; visit: number; stale: boolean }
  | { do: 'round'; phone: number }
  | { do: 'time out' | 'kill'; phone: number }
  | { do: 'start'; phone: number }
  | { do: 'deliver'; letter: number; twice: boolean; half: number | null; fails: boolean }
  | { do: 'drop'; letter: number }
  | { do: 'office'; visit: number; takes: boolean }
  | { do: 'set clock'; phone: number; by: number };

const phone = fc.nat(1);
const visit = fc.nat(VISITS - 1);
const letter = fc.nat(7);
const act: fc.Arbitrary<Act> = fc.oneof(
  {
    weight: 6,
    // Visit 0 stands for the day, which nobody can take away.
    arbitrary: fc.record({ do: fc.constant('write' as const), phone, visit, stale: fc.boolean() }),
  },
  { weight: 5, arbitrary: fc.record({ do: fc.constant('round' as const), phone }) },
  {
    weight: 8,
    arbitrary: fc.record({
      do: fc.constant('deliver' as const),
      letter,
      twice: fc.boolean(),
      fails: fc.boolean(),
      half: fc.oneof({ weight: 4, arbitrary: fc.constant(null) }, fc.double({ min: 0, max: 1, noNaN: true })),
    }),
  },
  { weight: 2, arbitrary: fc.record({ do: fc.constant('drop' as const), letter }) },
  { weight: 2, arbitrary: fc.record({ do: fc.constantFrom('time out' as const, 'kill' as const), phone }) },
  { weight: 2, arbitrary: fc.record({ do: fc.constant('start' as const), phone }) },
  { weight: 1, arbitrary: fc.record({ do: fc.constant('office' as const), visit, takes: fc.boolean() }) },
  {
    weight: 1,
    arbitrary: fc.record({
      do: fc.constant('set clock' as const),
      phone,
      by: fc.integer({ min: -9e6, max: 9e6 }),
    }),
  },
);

/** Lets everything happen that can happen without the world outside. */
const settle = async (ticks = 20) => {
  for (let tick = 0; tick < ticks; tick++) await Promise.resolve();
};

class World {
  readonly server = new Server(VISITS);
  readonly network = new Network();
  readonly phones = [new Phone('one', this.network), new Phone('two', this.network)];
  private written = 0;

  async play(acts: readonly Act[]) {
    for (const one of acts) {
      this.do(one);
      // Sometimes the next thing happens before the last one is through.
      await settle(this.written % 3 === 0 ? 2 : 20);
    }
  }

  private do(one: Act) {
    if (one.do === 'deliver' || one.do === 'drop') {
      const { letters } = this.network;
      if (letters.length === 0) return;
      const at = one.letter % letters.length;
      if (one.do === 'drop') letters.splice(at, 1);
      else
        this.network.deliver(at, this.server, {
          twice: one.twice,
          half: one.half,
          fails: () => one.fails && this.server.taken.size % 3 === 0,
        });
    } else if (one.do === 'office') this.office(one.visit, one.takes);
    else this.on(this.phones[one.phone]!, one);
  }

  private office(id: number, takes: boolean) {
    const visit = this.server.visits.get(id + 1)!;
    if (takes) visit.technician = visit.technician === 'ines' ? 'milo' : 'ines';
    else visit.state = `office ${this.written++}`;
  }

  private on(phone: Phone, one: Extract<Act, { phone: number }>) {
    if (one.do === 'write') {
      const seen = this.server.visits.get(one.visit)?.state ?? '';
      const id = one.visit === 0 ? null : one.visit;
      phone.write(id, one.stale ? 'long ago' : seen, `s${++this.written}`);
    } else if (one.do === 'round') void phone.round();
    else if (one.do === 'time out') phone.timeOut();
    else if (one.do === 'kill') phone.kill();
    else if (one.do === 'start') phone.start();
    else if (one.do === 'set clock') phone.clock += one.by;
  }

  /** In the end there is signal again, and everybody is awake. */
  async heal() {
    for (const phone of this.phones) phone.start();
    for (let turn = 0; turn < 500; turn++) {
      for (const phone of this.phones) void phone.round();
      await settle();
      while (this.network.letters.length > 0) {
        this.network.deliver(0, this.server, { twice: false, half: null, fails: () => false });
        await settle();
      }
      if (this.phones.every(({ disk }) => disk.rows.every(({ fate }) => fate !== 'unsent'))) return;
    }
    throw new Error('it never came to an end');
  }
}

function check({ server, phones }: World) {
  for (const phone of phones) {
    const fates = phone.fates();
    // Nothing that the screen has said is lost, and everything on the phone has come to an end that the server knows.
    for (const id of phone.said) expect(fates.has(id)).toBe(true);
    for (const [id, fate] of fates) expect(server.taken.get(id)?.outcome).toBe(fate);
    // In its order, lane by lane.
    const numbers = new Map<string, number>();
    for (const { deed, phone: whose } of server.taken.values()) {
      if (whose !== phone.name) continue;
      expect(deed.number).toBeGreaterThan(numbers.get(deed.lane) ?? 0);
      numbers.set(deed.lane, deed.number);
    }
    expect(phone.disk.rows.map(({ deed }) => deed.number)).toEqual(
      phone.disk.rows.map((_, index) => index + 1),
    );
  }
  // Once: what was applied took effect exactly one time, and nothing else did.
  const applied = [...server.taken.values()]
    .filter(({ outcome }) => outcome === 'applied')
    .map(({ deed }) => deed.id);
  expect(server.effects).toEqual(applied);
  expect(new Set(server.effects).size).toBe(server.effects.length);
  // Nothing from nowhere.
  const all = phones.flatMap(({ disk }) => disk.rows.map(({ deed }) => deed.id));
  expect([...server.taken.keys()].sort()).toEqual(all.sort());
}

describe('a phone and the server', () => {
  test(`agree after ${SCHEDULES} schedules of drops, delays, repeats, deaths and changes at the office`, async () => {
    let waited = 0;
    let applied = 0;
    await fc.assert(
      fc.asyncProperty(fc.array(act, { maxLength: 60, minLength: 5, size: 'max' }), async (acts) => {
        const world = new World();
        await world.play(acts);
        await world.heal();
        check(world);
        for (const { outcome } of world.server.taken.values()) {
          waited += Number(outcome === 'waiting');
          applied += Number(outcome === 'applied');
        }
      }),
      { numRuns: SCHEDULES },
    );
    // The schedules were not empty ones.
    expect(waited).toBeGreaterThan(SCHEDULES);
    expect(applied).toBeGreaterThan(SCHEDULES);
  });
});
