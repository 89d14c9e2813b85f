import type {
  CameraModel,
  Combine,
  EdgeWay,
  Effect,
  Flash,
  FlashCurve,
  Reframe,
  Smooth,
  Steady,
  Trail,
} from '@hastig/contract';
import { formatPercent, isSteadying, trimDecimals } from '@hastig/core';
import { conditionWords } from '../exposure/exposure-words';

const combineWords: Record<Combine, string> = { lightest: 'Lightest', mean: 'Mean', sum: 'Sum', over: 'Over' };
const curveWords: Record<FlashCurve, string> = { linear: 'Linear', smooth: 'Smooth', sharp: 'Sharp' };

const edgeWords: Record<EdgeWay, string> = { scale: 'Scaled', follow: 'Scaled as needed', mirror: 'Mirrored edges' };

const optionsOf = <T extends string>(words: Record<T, string>): { value: T; label: string }[] =>
  (Object.keys(words) as T[]).map((value) => ({ value, label: words[value] }));

export const combineOptions = optionsOf(combineWords);
export const curveOptions = optionsOf(curveWords);
export const edgeOptions = optionsOf(edgeWords);

const modelWords: Record<CameraModel, string> = {
  similarity: 'Position, rotation and size',
  perspective: 'Perspective too',
};
export const modelOptions = optionsOf(modelWords);

/** Shapes of a frame that are usual, by their width and height. */
export const shapes = [
  { value: '16:9', shape: 16 / 9 },
  { value: '9:16', shape: 9 / 16 },
  { value: '1:1', shape: 1 },
  { value: '4:5', shape: 4 / 5 },
  { value: '2.39:1', shape: 2.39 },
] as const;

/** A shape as it is called: `9:16`, or its width by its height. */
const shapeWords = (shape: number): string =>
  shapes.find((one) => Math.abs(one.shape - shape) < 1e-4)?.value ?? `${trimDecimals(shape, 2)}:1`;

function trailWords({ copies, apart, by, decay, combine }: Trail): string {
  const far = `${trimDecimals(Math.abs(apart), 3)} ${by === 'seconds' ? 's' : Math.abs(apart) === 1 ? 'frame' : 'frames'}`;
  const many = `${copies} ${copies === 1 ? 'copy' : 'copies'}`;
  return `Trail: ${many}, ${far} ${apart > 0 ? 'earlier' : 'later'}, ${formatPercent(decay)}, ${combineWords[combine].toLowerCase()}`;
}

/** What a colour is called, where it has a name here. */
export const colourNames: Readonly<Record<string, string>> = { '#ffffff': 'white', '#000000': 'black' };

function flashWords({ way, strength, colour }: Flash): string {
  const name = colourNames[colour] ?? colour;
  if (way === 'dip') return `Dip to ${name}: ${formatPercent(strength)}`;
  return `Flash: ${trimDecimals(strength, 2)} ${strength === 1 ? 'stop' : 'stops'}${colour === '#ffffff' ? '' : `, ${name}`}`;
}

function reframeWords({ shape, from, to, follow }: Reframe): string {
  const still = from.x === to.x && from.y === to.y && from.size === to.size;
  const size = still ? formatPercent(from.size) : `${formatPercent(from.size)} to ${formatPercent(to.size)}`;
  return `Reframe: ${shapeWords(shape)}, ${size}${follow ? ', follows a point' : ''}`;
}

/** How a camera is smoothed. */
export const cameraWords = ({ seconds }: Smooth): string =>
  seconds === undefined ? 'camera as on a tripod' : `camera smoothed over ${trimDecimals(seconds, 2)} s`;

/** How a clip is steadied, but for its edges. */
export const steadyWords = (effect: Steady | Smooth): string =>
  `Steady: ${effect.kind === 'smooth' ? cameraWords(effect) : effect.tracks.length === 1 ? 'one point' : 'two points'}`;

/** What an effect does, in a few words. */
export function effectWords(effect: Effect): string {
  if (effect.kind === 'trail') return trailWords(effect);
  if (isSteadying(effect)) return `${steadyWords(effect)}, ${edgeWords[effect.edges].toLowerCase()}`;
  if (effect.kind === 'carry') return 'Attached to a point';
  return effect.kind === 'flash' ? flashWords(effect) : reframeWords(effect);
}

/** When it holds, apart from a stretch; nothing where it always does. */
export const effectCondition = (effect: Effect): string | undefined =>
  effect.kind === 'trail' ? conditionWords(effect) : undefined;
