import type { SoundRun, SoundSupply } from '../run';
import { Stretcher } from './stretcher';

/** Stretched sections that are kept at once: some four seconds each, so about a minute and a half. */
const MOST_KEPT = 24;

/** Stretchers, each used for one section at a time, and what was stretched, as far as there is room for it. */
export class StretchBench {
  private readonly free = new Map<string, Stretcher[]>();
  private readonly kept = new Map<object, () => void>();

  /** @param breathe waited for now and then, so that others get their turn */
  constructor(readonly breathe: () => Promise<void> = async () => undefined) {}

  /** Works with a stretcher for a source's channels and rate and a run's focus; nobody else uses it meanwhile. */
  async with<T>(
    { channels, sampleRate }: SoundSupply,
    { voice }: SoundRun,
    task: (stretcher: Stretcher) => Promise<T>,
  ): Promise<T> {
    const { focus, formantsKept } = voice!;
    // Formants that were moved once stay so: who moves them has stretchers of their own.
    const key = [channels, sampleRate, focus, formantsKept].join(' ');
    const free = this.free.get(key) ?? [];
    this.free.set(key, free);
    const stretcher = free.pop() ?? (await Stretcher.open(channels, sampleRate, focus));
    try {
      return await task(stretcher);
    } finally {
      free.push(stretcher);
    }
  }

  /** Notes that something was used; what was not used for longest is dropped when there is too much. */
  keep(one: object, drop: () => void): void {
    this.kept.delete(one);
    this.kept.set(one, drop);
    while (this.kept.size > MOST_KEPT) {
      const [oldest, forget] = this.kept.entries().next().value!;
      this.kept.delete(oldest);
      forget();
    }
  }
}
