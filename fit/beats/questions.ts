import { createHash } from 'node:crypto';
import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { drumLoops } from '@hastig/core/test/loops';
import { songs, sound } from '@hastig/core/test/songs';
import { installPackage } from '../../scripts/debian';
import { rootFolder } from '../../scripts/paths';
import { beatless } from './beatless';
import { kept } from './kept';
import { measure, type KnownPiece, type Measured } from './measure';
import { beatsSet, setFolder } from './set';
import { RATE } from './sound-file';

/** A piece with what the judges are told of it. */
export interface AskedPiece extends Measured {
  id: string;
  style: string;
  family: string;
  /** What it counts beside others. */
  weight: number;
}

/** Styles that no judge could learn from: an organ that holds a chord for a bar has no beat that is heard. */
const UNHEARD = new Set(['hymn']);
/** Pieces that are not of a style count for more, since there are few of them. */
const OTHERS = 8;

/** Files of the core that say what is measured. */
const MEASURING =
  /^(agents|bar-features|candidates|envelope|features|marks|mean|note-changes|onsets|beat-shapes|same-beats|tempo|track|ways)\.ts$/;

/** What the code is by which pieces are measured: when it changes, all are measured anew. */
function codeDigest(): string {
  const folder = join(rootFolder, 'core/src/beats');
  const hash = createHash('sha256');
  for (const name of readdirSync(folder).sort()) {
    if (MEASURING.test(name)) hash.update(readFileSync(join(folder, name)));
  }
  return hash.digest('hex').slice(0, 12);
}

const measuredOnce = (piece: KnownPiece, id: string, digest: string): Promise<Measured> =>
  kept(join(setFolder, `${id}.${digest}`), () => measure(piece, join(setFolder, id)));

function others(): (KnownPiece & { id: string; style: string })[] {
  const made = songs.map(({ name, beats, seconds, hits }) => ({
    ...{ id: `made ${name}`, style: 'made', beats },
    samples: () => Promise.resolve(sound(RATE, seconds, hits)),
  }));
  for (const name of ['sonic-pi-samples', 'flac']) if (drumLoops(1).length === 0) installPackage(name);
  const loops = drumLoops(40)
    .filter(({ rate }) => rate === RATE)
    .map(({ name, samples, beats }) => ({
      ...{ id: `drums ${name}`, style: 'drums', beats },
      samples: () => Promise.resolve(samples),
    }));
  return [...made, ...loops];
}

/**
 * All pieces that the judges are fitted to: the set of styles, songs made of hits, and loops of played drums.
 *
 * @param variants pieces of each style
 * @param told how far it is, now and then
 */
export async function askedPieces(variants: number, told: (words: string) => void): Promise<AskedPiece[]> {
  const set = await beatsSet(variants, (done, of) => done % 50 === 0 && told(`${done} of ${of} pieces made`));
  const digest = codeDigest();
  const all: AskedPiece[] = [];
  for (const { recipe, beats, first, samples } of set) {
    const { id, style } = recipe;
    if (UNHEARD.has(style.name)) continue;
    const known = { beats, first, meter: style.meter, samples };
    all.push({ ...(await measuredOnce(known, id, digest)), id, style: style.name, family: style.family, weight: 1 });
    if (all.length % 50 === 0) told(`${all.length} pieces measured`);
  }
  for (const one of others()) {
    const { id, style } = one;
    all.push({ ...(await measuredOnce(one, id, digest)), id, style, family: style, weight: OTHERS });
  }
  return all;
}

/** What is known of the readings of sounds without a beat. */
export async function beatlessPieces(count: number): Promise<number[][][]> {
  const digest = codeDigest();
  const all: number[][][] = [];
  for (const { id, samples } of beatless(count)) {
    const { readings } = await measuredOnce({ samples, beats: [] }, id, digest);
    all.push(readings.map(({ features }) => features));
  }
  return all;
}
