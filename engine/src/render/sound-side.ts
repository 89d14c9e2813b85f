import type { MixedSound, Program } from '@hastig/core';
import { expose, transfer, wrap } from 'comlink';
import { ProgramSound } from '../media/program-sound';
import { SourcePool, type SourceLocations } from '../media/source-pool';

/** The sound of a program, as a render asks for it: made here, or in another worker. */
export interface SoundSide {
  /** Whether any of its sources has sound that can be decoded here. */
  audible(): Promise<boolean>;
  /** Output samples of the program, see `ProgramMix`. */
  read(first: number, count: number, rate: number): Promise<MixedSound>;
}

/** Makes the sound of a program for a render in another worker, which asks for it through the port. */
export function serveSound(program: Program, sources: SourceLocations, port: MessagePort): void {
  const pool = new SourcePool();
  const ready = pool.locate(sources).then(() => new ProgramSound(program, pool));
  const side: SoundSide = {
    audible: async () => (await ready).audible(),
    read: async (first, count, rate) => {
      const mixed = await (await ready).read(first, count, rate);
      return transfer(mixed, mixed.channels?.map(({ buffer }) => buffer) ?? []);
    },
  };
  expose(side, port);
}

/** The sound that another worker makes, see `serveSound`. */
export const askSound = (port: MessagePort): SoundSide => wrap<SoundSide>(port);
