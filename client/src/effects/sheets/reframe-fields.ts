import { MOST_FOLLOWED, type FrameBox, type PictureTrack, type Reframe } from '@hastig/contract';
import { easeName, formatPercent, trimDecimals } from '@hastig/core';
import {
  choiceField,
  easeField,
  numberField,
  onlyWhen,
  percentField,
  type NumberSpec,
  type Texts,
  type Values,
} from '../../form/specs';
import { shapes } from '../effect-words';

/** Smallest part of a frame that may be seen. */
const SMALLEST = 0.02;
const WHOLE: FrameBox = { x: 0.5, y: 0.5, size: 1 };

export type End = 'from' | 'to';

const isStill = ({ from, to }: Pick<Reframe, 'from' | 'to'>): boolean =>
  from.x === to.x && from.y === to.y && from.size === to.size;

const shapeOf = (shape: number, frame: number): string => {
  if (Math.abs(shape - frame) < 1e-4) return 'frame';
  return shapes.find((one) => Math.abs(one.shape - shape) < 1e-4)?.value ?? 'own';
};

/** How large a box is, and where its middle lies, as numbers that are typed. */
const sizeField = (name: string, { size }: FrameBox): NumberSpec =>
  percentField(`${name}: size`, formatPercent(size), SMALLEST, 1);
const placeFields = (end: End, name: string, { x, y }: FrameBox): Record<string, NumberSpec> => ({
  [`${end}X`]: percentField(`${name}: across`, formatPercent(x), 0, 1),
  [`${end}Y`]: percentField(`${name}: down`, formatPercent(y), 0, 1),
});

/** What stands for no track. */
const NOTHING = 'no';

/** @param frame the frame's width by its height, @param tracks those a box may follow */
export function reframeFields(before: Reframe | undefined, frame: number, tracks: readonly PictureTrack[]) {
  const from = before?.from ?? WHOLE;
  const to = before?.to ?? { x: 0.5, y: 0.5, size: 0.6 };
  const moves = ({ move }: Texts): boolean => move === 'moves';
  return {
    shape: choiceField<string>('Shape', before ? shapeOf(before.shape, frame) : 'frame', [
      { value: 'frame', label: 'Frame' },
      ...shapes.filter(({ shape }) => Math.abs(shape - frame) > 1e-4).map(({ value }) => ({ value, label: value })),
      { value: 'own', label: 'Other' },
    ]),
    own: onlyWhen(numberField('Width to height', trimDecimals(before?.shape ?? 1.85, 3), 0.1, 10), 'shape', 'own'),
    move: choiceField<'moves' | 'still'>('Box', before && isStill(before) ? 'still' : 'moves', [
      { value: 'moves', label: 'Moves' },
      { value: 'still', label: 'Stays' },
    ]),
    // Sizes stand beside each other, and what is across beside what is down.
    fromSize: sizeField('Start', from),
    toSize: { ...sizeField('End', to), when: moves },
    ...placeFields('from', 'Start', from),
    ...Object.fromEntries(
      Object.entries(placeFields('to', 'End', to)).map(([name, field]) => [name, { ...field, when: moves }]),
    ),
    follow: {
      ...choiceField<string>('Follows', before?.follow?.track ?? NOTHING, [
        { value: NOTHING, label: 'Nothing' },
        ...tracks.map(({ id, name }) => ({ value: id, label: name })),
      ]),
      when: ({ owner }: Texts) => tracks.length > 0 && owner !== 'film',
    },
    evened: {
      ...numberField('Evened out, seconds', trimDecimals(before?.follow?.seconds ?? 1, 2), 0, MOST_FOLLOWED),
      when: ({ follow, owner }: Texts) => follow !== NOTHING && owner !== 'film',
    },
    ease: { ...easeField((before && easeName(before.ease)) ?? 'ease-in-out'), when: moves },
  };
}

export type ReframeValues = Values<ReturnType<typeof reframeFields>>;

const shapeOfValues = ({ shape, own }: Pick<ReframeValues, 'shape' | 'own'>, frame: number): number =>
  shape === 'frame' ? frame : shape === 'own' ? own : shapes.find(({ value }) => value === shape)!.shape;

/** What is filled in, as it is kept. */
export function reframeOf(
  values: ReframeValues,
  frame: number,
): Pick<Reframe, 'shape' | 'from' | 'to' | 'ease' | 'follow'> {
  const numbers = values as unknown as Record<string, number>;
  const box = (end: End): FrameBox => ({
    x: numbers[`${end}X`]!,
    y: numbers[`${end}Y`]!,
    size: numbers[`${end}Size`]!,
  });
  return {
    shape: shapeOfValues(values, frame),
    from: box('from'),
    to: values.move === 'moves' ? box('to') : box('from'),
    ease: [...values.ease] as Reframe['ease'],
    ...(values.follow !== NOTHING && { follow: { track: values.follow, seconds: values.evened } }),
  };
}

/** A box as it is typed. */
export const boxTexts = (end: End, { x, y, size }: FrameBox): Texts => ({
  [`${end}X`]: formatPercent(x),
  [`${end}Y`]: formatPercent(y),
  [`${end}Size`]: formatPercent(size),
});

export const withinBox = (value: number): number => Math.min(1, Math.max(0, value));
export const withinSize = (value: number): number => Math.min(1, Math.max(SMALLEST, value));
