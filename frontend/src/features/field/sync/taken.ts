import type { Seal } from './sealing';
import type { FieldDatabase } from './store';

/** One thing that was taken along: what the server calls it, a mark of its content, and the content. */
export interface Item {
  name: string;
  mark: string;
  content: unknown;
}

/** What the server says is to be on the phone: all names, and whole what is new there or has changed. */
export interface News {
  names: readonly string[];
  news: readonly Item[];
}

/**
 * How what is taken along looks to these pages. It is counted up when the server sends something that they cannot do
 * without: what an older version took along is then fetched anew instead of being misread.
 */
const SHAPE = 6;
const shaped = (mark: string) => `${SHAPE} ${mark}`;
const isOurs = ({ mark }: { mark: string }) => mark.startsWith(shaped(''));
const bare = (mark: string) => mark.slice(shaped('').length);

/** What was taken along, to work without a signal. Sealed like what was recorded. */
export class Taken {
  constructor(
    private readonly database: FieldDatabase,
    private readonly seal: Seal,
  ) {}

  /** Marks by name: what the phone has already. */
  async marks(): Promise<Record<string, string>> {
    return Object.fromEntries((await this.rows()).map(({ name, mark }) => [name, bare(mark)]));
  }

  /** Keeps what was fetched by itself, until the server is asked for all again. */
  async add(name: string, content: unknown): Promise<void> {
    await this.database.taken.put(await this.row({ name, mark: '', content }));
  }

  private async row({ name, mark, content }: Item) {
    const sealed = await this.seal.close(content);
    return { name, mark: shaped(mark), sealed, bytes: sealed.byteLength };
  }

  /** Keeps what is new and drops what is not to be here any more: all of it, or nothing. */
  async keep({ names, news }: News): Promise<void> {
    const rows = await Promise.all(news.map((item) => this.row(item)));
    const { taken } = this.database;
    await this.database.transaction('rw', taken, async () => {
      await taken.bulkPut(rows);
      await taken
        .where('name')
        .noneOf([...names])
        .delete();
    });
  }

  async all(): Promise<Item[]> {
    const rows = await this.rows();
    return Promise.all(
      rows.map(async ({ name, mark, sealed }) => ({
        name,
        mark: bare(mark),
        content: await this.seal.open(sealed),
      })),
    );
  }

  private async rows() {
    return (await this.database.taken.toArray()).filter(isOurs);
  }

  /** How much it is, in bytes, and how many things. */
  async size(): Promise<{ bytes: number; things: number }> {
    const rows = await this.rows();
    return { bytes: rows.reduce((sum, { bytes }) => sum + bytes, 0), things: rows.length };
  }
}
