import type { Seal } from './sealing';
import type { FieldDatabase } from './store';

/**
 * What is being typed, kept with every keystroke: a page that is killed opens again with it.
 *
 * One write at a time: what is typed while one is under way waits, and only its last state is written. So nothing is
 * overtaken by what was typed before it, and a page is never more than two writes behind a hand.
 */
export class Drafts {
  /** By name; null: to be dropped. */
  private readonly waiting = new Map<string, string | null>();
  private running: Promise<void> | null = null;

  constructor(
    private readonly database: FieldDatabase,
    private readonly seal: Seal,
  ) {}

  keep(name: string, text: string): Promise<void> {
    return this.put(name, text);
  }

  drop(name: string): Promise<void> {
    return this.put(name, null);
  }

  async find(name: string): Promise<string | null> {
    // Whoever wrote hears of a write that failed; here it is only waited for.
    await this.running?.catch(() => undefined);
    const row = await this.database.drafts.get(name);
    return row ? this.seal.open<string>(row.sealed) : null;
  }

  private put(name: string, text: string | null): Promise<void> {
    this.waiting.set(name, text);
    this.running ??= this.write().finally(() => {
      this.running = null;
    });
    return this.running;
  }

  private async write(): Promise<void> {
    for (let next = this.take(); next; next = this.take()) {
      const [name, text] = next;
      if (text === null) await this.database.drafts.delete(name);
      else await this.database.drafts.put({ name, sealed: await this.seal.close(text) });
    }
  }

  private take(): [string, string | null] | undefined {
    const [next] = this.waiting;
    if (next) this.waiting.delete(next[0]);
    return next;
  }
}
