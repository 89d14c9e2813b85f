import { open, stat } from 'node:fs/promises';
import type { Counting, Fields, MediaFacts, Rate } from '@hastig/contract';
import { countingOf, fileCountOf, framesPerFileFrame, makeRate, suggestedFields } from '@hastig/core';
import { readFacts } from '@hastig/probe';
import { FilePathSource } from 'mediabunny';
import { CommandFailed } from './fail';

/** What a media file is. Throws CommandFailed, which names it, for what is not there or cannot be read. */
export async function factsOf(path: string): Promise<MediaFacts> {
  const { size } = await stat(path).catch(() => {
    throw new CommandFailed(`${path}: file not found`);
  });
  const file = await open(path);
  try {
    const read = async (from: number, to: number): Promise<Uint8Array> => {
      const length = Math.max(0, to - from);
      const { buffer, bytesRead } = await file.read(new Uint8Array(length), 0, length, from);
      return buffer.subarray(0, bytesRead);
    };
    return await readFacts(new FilePathSource(path), size, read);
  } catch (error) {
    throw new CommandFailed(`${path}: ${(error as Error).message}`);
  } finally {
    await file.close();
  }
}

/** A clip as its frames are taken: how its fields are used and its frames are counted, how many there are, and how many a second. */
export interface TakenClip {
  facts: MediaFacts;
  fields: Fields;
  counting: Counting;
  frames: number;
  rate: Rate;
}

/**
 * How a clip's frames are taken; what is not told is as the clip suggests. Throws CommandFailed.
 *
 * @param wanted how they are counted matters only where they come at irregular times
 */
export async function takeClip(
  path: string,
  wanted: { fields?: Partial<Fields>; counting?: Counting } = {},
): Promise<TakenClip> {
  const facts = await factsOf(path);
  const suggested = suggestedFields({ facts });
  const fields = { use: wanted.fields?.use ?? suggested.use, first: wanted.fields?.first ?? suggested.first };
  const counting = countingOf({
    ...{ facts, fields },
    ...(wanted.counting && facts.video?.varying && { counting: wanted.counting }),
  });
  const count = fileCountOf({ facts, fields, counting });
  const times = framesPerFileFrame(fields);
  return {
    ...{ facts, fields, counting, frames: count.frames * times },
    rate: times === 1 ? count.rate : makeRate(count.rate.num * times, count.rate.den),
  };
}
