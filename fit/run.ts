import { writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { beatsJudge, gateScore, likelihoods, type Gate } from '@hastig/core/fit';
import { rootFolder } from '../scripts/paths';
import { choiceOf } from './beats/fit';
import { fitGate } from './beats/gate';
import { judgeOf, leftOutFigures } from './beats/left-out';
import { askedPieces, beatlessPieces, type AskedPiece } from './beats/questions';
import { gateFile, judgeFile } from './beats/write-judge';

/** Pieces of each style. */
const VARIANTS = 16;

const say = (words: string): void => console.log(words);

const [name, variants] = process.argv.slice(2);
/** Sounds without a beat of each kind. */
const BEATLESS = 50;

/** Fits what tells music from sound without a beat, and tells how far apart the two are where half of each was left out. */
async function fitGateTo(pieces: readonly AskedPiece[]): Promise<string> {
  const music = pieces
    .map(({ readings }) => ({
      features: readings.map(({ features }) => features),
      f: readings.map(({ f }) => f),
      beat: true,
    }))
    .filter(({ features, f }) => f[choiceOf(beatsJudge, { features })]! > 0.9);
  const none = (await beatlessPieces(BEATLESS)).map((features) => ({ features, beat: false }));
  const all = [...music, ...none.filter(({ features }) => features.length > 0)];
  const half = fitGate(
    beatsJudge,
    all.filter((_, i) => i % 2 === 0),
  ).gate;
  const left = all.filter((_, i) => i % 2 === 1).map(({ features, beat }) => ({ beat, score: gateOf(half, features) }));
  const scores = (side: boolean): number[] => left.filter(({ beat }) => beat === side).map(({ score }) => score);
  say(`gate: ${scores(false).length} sounds without a beat at most ${Math.max(...scores(false)).toFixed(1)}`);
  say(`gate: ${scores(true).length} pieces of music at least ${Math.min(...scores(true)).toFixed(1)}`);
  return gateFile(fitGate(beatsJudge, all).gate, music.length, all.length - music.length);
}

function gateOf(gate: Gate, features: number[][]): number {
  const likely = likelihoods(beatsJudge, features);
  const share = Math.max(...likely);
  return gateScore(gate, beatsJudge, features[likely.indexOf(share)]!, share);
}

if (name !== 'beats' && name !== 'bars' && name !== 'gate') {
  console.error('npm run fit -- beats|bars|gate [pieces of each style]');
  process.exit(1);
}
const pieces = await askedPieces(Number(variants ?? VARIANTS), say);
const folder = join(rootFolder, 'core/src/beats');
if (name === 'gate') writeFileSync(join(folder, 'beat-gate.ts'), await fitGateTo(pieces));
else {
  for (const words of leftOutFigures(name, pieces)) say(`${name}: ${words}`);
  writeFileSync(join(folder, `${name}-judge.ts`), await judgeFile(name, judgeOf(name, pieces), pieces.length));
}
