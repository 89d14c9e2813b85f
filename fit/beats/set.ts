import { existsSync, mkdirSync } from 'node:fs';
import { join } from 'node:path';
import { installPackage } from '../../scripts/debian';
import { dataFolder } from '../../scripts/paths';
import { kept } from './kept';
import { play, type Played } from './play';
import { drawRecipe, type Recipe } from './recipe';
import { stylesToFit } from './styles';
import { readSound, writeSound } from './sound-file';

const PACKAGES: readonly [program: string, ...packages: string[]][] = [
  ['mma', 'mma'],
  ['fluidsynth', 'fluidsynth', 'timgm6mb-soundfont', 'fluid-soundfont-gm'],
  ['sox', 'sox', 'libsox-fmt-mp3'],
  ['espeak-ng', 'espeak-ng'],
];
/** Pieces made at a time. */
const AT_ONCE = 2;

export const setFolder = join(dataFolder, 'fit', 'beats');

/** Installs what pieces are made by. */
export function installSet(): void {
  for (const [program, ...packages] of PACKAGES) {
    if (!existsSync(`/usr/bin/${program}`)) packages.forEach(installPackage);
  }
}

/** A piece of the set: how it was made, and where its sound is. */
export interface SetPiece extends Omit<Played, 'samples'> {
  recipe: Recipe;
  samples(): Promise<Float32Array>;
}

/**
 * The set that beats are fitted to: so many pieces of each style at even places. What was made before is taken as it is.
 *
 * @param told of each piece that was made
 */
export async function beatsSet(variants: number, told: (done: number, of: number) => void): Promise<SetPiece[]> {
  installSet();
  mkdirSync(setFolder, { recursive: true });
  const recipes = stylesToFit().flatMap((style) =>
    Array.from({ length: variants }, (_, variant) => drawRecipe(style, variant)),
  );
  const made: SetPiece[] = [];
  let next = 0;
  const worker = async (): Promise<void> => {
    for (let i = next++; i < recipes.length; i = next++) {
      made[i] = await piece(recipes[i]!);
      told(i + 1, recipes.length);
    }
  };
  await Promise.all(Array.from({ length: AT_ONCE }, worker));
  return made;
}

async function piece(recipe: Recipe): Promise<SetPiece> {
  const sound = join(setFolder, `${recipe.id}.flac`);
  // The sound is written first: where its truth is known, it is there.
  const known = await kept(join(setFolder, `${recipe.id}.json`), async () => {
    const { samples, ...truth } = await play(recipe);
    await writeSound(sound, samples);
    return truth;
  });
  return { ...known, recipe, samples: () => readSound(sound) };
}
