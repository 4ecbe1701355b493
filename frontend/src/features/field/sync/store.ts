import { Dexie, type EntityTable, type Table } from 'dexie';
import type { Deed, Fate, Kept } from './deeds';
import type { Store, Unplaced } from './journal';
import type { Seal, Sealed } from './sealing';

/** A deed as it lies on the phone: what it takes to send it in order is readable, what was done is not. */
interface DeedRow {
  number: number;
  id: string;
  lane: string;
  previous: string | null;
  fate: Fate;
  sealed: Sealed;
  /** What the server said of it. */
  said: Sealed | null;
}

/** The last deed of a lane, and under the name "" the last number: they outlive the rows, which are cleared away. */
interface LastRow {
  lane: string;
  id: string;
  number: number;
}

/** What was taken along, by its name. */
interface TakenRow {
  name: string;
  mark: string;
  bytes: number;
  sealed: Sealed;
}

/** What is told of a picture to whoever sends it; `waits` is 1 until all of it has arrived. */
interface PictureRow {
  id: string;
  size: number;
  sent: number;
  refused: string;
  at: number;
  waits: 0 | 1;
}

/** One person's data on this phone. */
export class FieldDatabase extends Dexie {
  deeds!: EntityTable<DeedRow, 'number'>;
  lasts!: EntityTable<LastRow, 'lane'>;
  taken!: EntityTable<TakenRow, 'name'>;
  pictures!: EntityTable<PictureRow, 'id'>;
  /** Pictures themselves, apart from what is told of them: that is read often. */
  contents!: EntityTable<{ id: string; sealed: Sealed }, 'id'>;
  /** What is being typed, by where. */
  drafts!: EntityTable<{ name: string; sealed: Sealed }, 'name'>;
  /** What the phone knows of itself: its name, and how far its clock is off. */
  meta!: EntityTable<{ name: string; value: unknown }, 'name'>;
  /** Keys that the browser keeps and does not give out. */
  keys!: Table<CryptoKey, string>;

  constructor(accountId: number) {
    // What a screen says is written down has to survive an empty battery: it is on the disk before it counts as written.
    super(`iron-relay-field-${accountId}`, { chromeTransactionDurability: 'strict' });
    this.version(1).stores({
      deeds: 'number, &id, [fate+number]',
      lasts: 'lane',
      taken: 'name',
      meta: 'name',
      keys: '',
    });
    this.version(2).stores({ pictures: 'id, waits', contents: 'id', drafts: 'name' });
  }
}

const ALL = '';

/** Names that are made on phones rise with time: the first one of a moment, in milliseconds (RFC 9562, 5.7). */
function firstIdAt(moment: number): string {
  const digits = Math.max(0, moment).toString(16).padStart(12, '0');
  return `${digits.slice(0, 8)}-${digits.slice(8)}`;
}

/** Keeps deeds in a browser's database. Opening and closing is done outside of its transactions, which do not wait. */
export function storeOf(database: FieldDatabase, seal: Seal): Store {
  const opened = async (row: DeedRow): Promise<Deed> => ({
    ...(await seal.open<Unplaced>(row.sealed)),
    number: row.number,
    previous: row.previous,
  });
  const kept = async (row: DeedRow): Promise<Kept> => ({
    deed: await opened(row),
    fate: row.fate,
    sentence: row.said ? await seal.open<string>(row.said) : '',
  });
  const first = async (fate: Fate, limit: number, except: ReadonlySet<string> = new Set()) => {
    const rows = await database.deeds
      .where('[fate+number]')
      .between([fate, Dexie.minKey], [fate, Dexie.maxKey])
      .filter(({ lane }) => !except.has(lane))
      .limit(limit)
      .toArray();
    return Promise.all(rows.map(opened));
  };
  return {
    async add(unplaced) {
      const sealed = await seal.close(unplaced);
      const { id, lane } = unplaced;
      return database.transaction('rw', database.deeds, database.lasts, async () => {
        const [last, lastOfLane] = await database.lasts.bulkGet([ALL, lane]);
        const number = (last?.number ?? 0) + 1;
        const previous = lastOfLane?.id ?? null;
        await database.deeds.add({ number, id, lane, previous, fate: 'unsent', sealed, said: null });
        await database.lasts.bulkPut([
          { lane: ALL, id, number },
          { lane, id, number },
        ]);
        return { ...unplaced, number, previous };
      });
    },
    unsent: (limit, except) => first('unsent', limit, except),
    waiting: (limit) => first('waiting', limit),
    async mark(fates) {
      const closed = new Map<string, Pick<DeedRow, 'fate' | 'said'>>();
      for (const [id, { fate, sentence }] of fates)
        closed.set(id, { fate, said: sentence ? await seal.close(sentence) : null });
      await database.transaction('rw', database.deeds, async () => {
        const rows = await database.deeds
          .where('id')
          .anyOf([...closed.keys()])
          .toArray();
        await database.deeds.bulkPut(rows.map((row) => ({ ...row, ...closed.get(row.id) })));
      });
    },
    async clear(before) {
      await database.deeds
        .where('id')
        .below(firstIdAt(before))
        .filter(({ fate }) => fate !== 'unsent' && fate !== 'waiting')
        .delete();
    },
    all: async () => Promise.all((await database.deeds.toArray()).map(kept)),
  };
}
