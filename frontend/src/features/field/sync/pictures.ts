import type { Seal, Sealed } from './sealing';
import type { FieldDatabase } from './store';
import type { Round } from './sender';

/** So much of a picture travels at once: a signal that breaks off costs no more than that. */
export const PIECE = 128 * 1024;
const HOUR = 3_600_000;
const [STRAY_AFTER, STRAY_UNTIL] = [HOUR, 13 * 24 * HOUR];

/** What the server says of a piece. */
export type PieceAnswer =
  | { length: number }
  /** Pieces before it are missing: so much is there. */
  | { from: number }
  /** Nobody has told of the picture yet, or what was told waits: another time. */
  | 'later'
  /** It will never be taken. */
  | { refused: string };

/** Brings a piece of a picture. Rejects when no answer came. */
export type PostPiece = (id: string, at: number, piece: Sealed) => Promise<PieceAnswer>;

/** What lies on the phone of a picture, besides itself. */
export interface PictureState {
  id: string;
  size: number;
  /** So many bytes have arrived. */
  sent: number;
  refused: string;
}

/** Photos and signatures on the phone: kept sealed, and sent in pieces, the smaller ones first. */
export class Pictures {
  private readonly hearers = new Set<() => void>();
  private readonly later = new Set<string>();

  constructor(
    private readonly database: FieldDatabase,
    private readonly seal: Seal,
    private readonly post: PostPiece,
    private readonly now: () => number,
  ) {}

  /** Keeps a picture. Only then may what is told of it be written down. */
  async keep(id: string, content: Sealed): Promise<void> {
    const sealed = await this.seal.closeBytes(content);
    const row = { id, size: content.byteLength, sent: 0, refused: '', at: this.now(), waits: 1 as const };
    await this.database.transaction('rw', this.database.pictures, this.database.contents, async () => {
      await this.database.contents.put({ id, sealed });
      await this.database.pictures.put(row);
    });
    // Nobody is told: it is sent once what is told of it is written down, and not before.
  }

  /** Lets go of a picture that nobody could be told of. */
  async drop(id: string): Promise<void> {
    const { pictures, contents } = this.database;
    await this.database.transaction('rw', pictures, contents, () =>
      Promise.all([pictures.delete(id), contents.delete(id)]),
    );
  }

  /**
   * Lets go of pictures that no deed tells of: the phone died between the two. Only such as are old enough not to be
   * between the two just now, and not so old that the deed itself may have been cleared away.
   */
  async clearStray(told: ReadonlySet<string>): Promise<void> {
    const age = (at: number) => this.now() - at;
    const waiting = await this.database.pictures.where('waits').equals(1).toArray();
    for (const { id, at } of waiting)
      if (!told.has(id) && age(at) > STRAY_AFTER && age(at) < STRAY_UNTIL) await this.drop(id);
  }

  /** A picture itself, as long as it is here. */
  async content(id: string): Promise<Sealed | null> {
    const row = await this.database.contents.get(id);
    return row ? this.seal.openBytes(row.sealed) : null;
  }

  /** Those that have not arrived whole, the smallest first. */
  async waiting(): Promise<PictureState[]> {
    const rows = await this.database.pictures.where('waits').equals(1).sortBy('size');
    return rows.map(({ id, size, sent, refused }) => ({ id, size, sent, refused }));
  }

  /** Sends the next piece of the smallest picture that waits. */
  async round(): Promise<Round> {
    const rows = (await this.waiting()).filter(({ id, refused }) => !refused && !this.later.has(id));
    const [next] = rows;
    if (!next) {
      const waits = this.later.size > 0;
      this.later.clear();
      return waits ? 'server is busy' : 'nothing to send';
    }
    const content = await this.content(next.id);
    if (!content) {
      await this.database.pictures.update(next.id, {
        waits: 0,
        refused: 'It is not on this phone any more.',
      });
      return 'sent a piece';
    }
    let answer: PieceAnswer;
    try {
      answer = await this.post(next.id, next.sent, content.slice(next.sent, next.sent + PIECE));
    } catch {
      return 'no answer';
    }
    await this.take(next, answer);
    return 'sent a piece';
  }

  private async take({ id, size }: PictureState, answer: PieceAnswer): Promise<void> {
    if (answer === 'later') this.later.add(id);
    else if ('refused' in answer) await this.database.pictures.update(id, { refused: answer.refused });
    else {
      const sent = 'from' in answer ? answer.from : answer.length;
      await this.database.pictures.update(id, { sent, waits: sent >= size ? 0 : 1 });
    }
    this.tell();
  }

  /** Makes room: the oldest pictures that have arrived go first. What has not arrived is never let go. */
  async makeRoom(bytes: number): Promise<number> {
    const arrived = await this.database.pictures.where('waits').equals(0).sortBy('at');
    let freed = 0;
    for (const { id, size } of arrived) {
      if (freed >= bytes) break;
      const there = await this.database.contents.where('id').equals(id).count();
      if (there === 0) continue;
      await this.database.contents.delete(id);
      freed += size;
    }
    return freed;
  }

  /** Calls whenever one was kept or has gone on. */
  subscribe(hear: () => void): () => void {
    this.hearers.add(hear);
    return () => this.hearers.delete(hear);
  }

  private tell() {
    for (const hear of this.hearers) hear();
  }
}
