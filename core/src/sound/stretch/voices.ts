import type { SoundRun, SoundSupply } from '../run';
import { StretchBench } from './bench';
import { VoicedSound } from './voiced-sound';

/** Runs whose plans are kept at once. */
const MOST_RUNS = 200;

/** The voiced sound of runs, known again by their keys when a program has changed elsewhere. */
export class Voices {
  private readonly bench: StretchBench;
  private readonly sounds = new Map<string, VoicedSound>();

  /** @param breathe waited for now and then while something is made, so that others get their turn */
  constructor(breathe?: () => Promise<void>) {
    this.bench = new StretchBench(breathe);
  }

  /** The sound of a run that has a voice. */
  of(run: SoundRun, supply: SoundSupply): VoicedSound {
    const key = `${run.voice!.key} ${(run.to - run.from).toFixed(9)}`;
    const known = this.sounds.get(key);
    // A source that was closed meanwhile and opened again is another supply.
    const sound = known?.supply === supply ? known : new VoicedSound(run, supply, this.bench);
    this.sounds.delete(key);
    this.sounds.set(key, sound);
    if (this.sounds.size > MOST_RUNS) this.sounds.delete(this.sounds.keys().next().value!);
    return sound;
  }

  /** Forgets all that was made: sources are others now. */
  forget(): void {
    this.sounds.clear();
  }
}
