import { LRUCache } from 'lru-cache';

/** Something that is being opened or is open. */
export interface Held<Thing> {
  readonly opening: Promise<Thing>;
  /** Undefined until it is open. */
  readonly open: Thing | undefined;
}

interface Entry<Thing> extends Held<Thing> {
  open: Thing | undefined;
  closing: Promise<void> | undefined;
}

/** Things kept open at once; where there are too many, the one not used for longest is closed. */
export class KeptOpen<Key extends string | number, Thing extends { close(): Promise<void> }> {
  private readonly entries: LRUCache<Key, Entry<Thing>>;

  constructor(most: number) {
    this.entries = new LRUCache<Key, Entry<Thing>>({
      max: most,
      dispose: (entry) => {
        entry.closing = entry.opening.then(
          (thing) => thing.close(),
          // What could not be opened needs no closing; whoever waits for it is told why.
          () => undefined,
        );
      },
    });
  }

  /** What is kept under a key, used by this. */
  use(key: Key): Held<Thing> | undefined {
    return this.entries.get(key);
  }

  /** What is open under a key; this is no use of it. */
  peek(key: Key): Thing | undefined {
    return this.entries.peek(key)?.open;
  }

  /** Keeps what is being opened. What cannot be opened is not kept, so that it is tried again when it is next wanted. */
  add(key: Key, opening: Promise<Thing>): Held<Thing> {
    const entry: Entry<Thing> = { opening, open: undefined, closing: undefined };
    this.entries.set(key, entry);
    opening.then(
      (thing) => (entry.open = thing),
      () => this.entries.peek(key) === entry && this.entries.delete(key),
    );
    return entry;
  }

  /** All that is kept. */
  all(): [Key, Held<Thing>][] {
    return [...this.entries.entries()];
  }

  /** Closes what is kept under a key. */
  async close(key: Key): Promise<void> {
    const entry = this.entries.peek(key);
    this.entries.delete(key);
    await entry?.closing;
  }

  async closeAll(): Promise<void> {
    await Promise.all(this.all().map(([key]) => this.close(key)));
  }
}
