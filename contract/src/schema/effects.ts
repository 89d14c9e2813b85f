import type { FromSchema } from 'json-schema-to-ts';
import { idSchema } from './common';
import { easeSchema } from './keyed';
import { onlySchema, stretchSchema } from './exposure';

/** How copies of other moments and the picture are put together. */
export const combines = ['lightest', 'mean', 'sum', 'over'] as const;
export type Combine = (typeof combines)[number];

/** How a flash rises and falls: as fast all the time; slowly, fast, slowly; or ever faster towards its peak. */
export const flashCurves = ['linear', 'smooth', 'sharp'] as const;
export type FlashCurve = (typeof flashCurves)[number];

/** Most copies of a trail. */
export const MOST_COPIES = 32;
/** Seconds, and frames, by which copies of a trail lie apart at most. */
export const MOST_APART = { seconds: 10, frames: 1000 } as const;
/** Most stops of a flash: a hundredth of full light is white by then. */
export const MOST_STOPS = 10;

/** Seconds over which a box that follows is evened out at most. */
export const MOST_FOLLOWED = 10;

const common = { id: idSchema, off: { type: 'boolean' } } as const;
const shareSchema = { type: 'number', minimum: 0, maximum: 1 } as const;

/**
 * Copies of earlier pictures: each `apart` from the one before it, in seconds or frames of the film, later ones where it is
 * negative; `copies` of them, each counting `decay` of the one before; put together as `combine` says, in linear light.
 */
export const trailSchema = {
  type: 'object',
  additionalProperties: false,
  required: ['id', 'kind', 'apart', 'by', 'copies', 'decay', 'combine'],
  properties: {
    ...common,
    kind: { const: 'trail' },
    apart: { type: 'number', minimum: -1000, maximum: 1000 },
    by: { enum: ['seconds', 'frames'] },
    copies: { type: 'integer', minimum: 1, maximum: MOST_COPIES },
    decay: shareSchema,
    combine: { enum: combines },
    over: stretchSchema,
    only: onlySchema,
  },
} as const;

/**
 * Light that comes and goes over a stretch. `light`: exposure in linear light, `strength` in stops at its peak, tinted by a colour;
 * `dip`: towards a colour, `strength` as a share. The peak lies `peak` frames after the stretch's beginning.
 */
export const flashSchema = {
  type: 'object',
  additionalProperties: false,
  required: ['id', 'kind', 'way', 'strength', 'colour', 'curve', 'over', 'peak'],
  properties: {
    ...common,
    kind: { const: 'flash' },
    way: { enum: ['light', 'dip'] },
    strength: { type: 'number', minimum: 0, maximum: MOST_STOPS },
    colour: { type: 'string', pattern: '^#[0-9a-f]{6}$' },
    curve: { enum: flashCurves },
    over: stretchSchema,
    peak: { type: 'number', minimum: 0, maximum: 10_000 },
  },
} as const;

/** Part of a frame: its middle in shares of the frame's width and height, its size as a share of the largest of its shape. */
const frameBoxSchema = {
  type: 'object',
  additionalProperties: false,
  required: ['x', 'y', 'size'],
  properties: { x: shareSchema, y: shareSchema, size: { type: 'number', minimum: 0.02, maximum: 1 } },
} as const;

export type FrameBox = FromSchema<typeof frameBoxSchema>;

/**
 * What is seen of the frame: the box `from` at the beginning of a stretch, the box `to` at its end, on its way between by an ease; all
 * of the clip or film where there is no stretch. Before and after a stretch the nearer one holds. `shape` is its width by its height.
 */
export const reframeSchema = {
  type: 'object',
  additionalProperties: false,
  required: ['id', 'kind', 'shape', 'from', 'to', 'ease'],
  properties: {
    ...common,
    kind: { const: 'reframe' },
    shape: { type: 'number', minimum: 0.1, maximum: 10 },
    from: frameBoxSchema,
    to: frameBoxSchema,
    ease: easeSchema,
    /** The box's middle goes along with a track of the clip's source, evened out over so many seconds of the film. */
    follow: {
      type: 'object',
      additionalProperties: false,
      required: ['track', 'seconds'],
      properties: { track: idSchema, seconds: { type: 'number', minimum: 0, maximum: MOST_FOLLOWED } },
    },
    over: stretchSchema,
  },
} as const;

/** The clip's picture goes along with a track of another clip's source: its middle, and what it is set to lie aside, is there. */
export const carrySchema = {
  type: 'object',
  additionalProperties: false,
  required: ['id', 'kind', 'clip', 'track'],
  properties: { ...common, kind: { const: 'carry' }, clip: idSchema, track: idSchema, over: stretchSchema },
} as const;

/** What becomes of a steadied picture's edges: made larger by as much as it takes, all the time or as it is needed; or mirrored. */
export const edgeWays = ['scale', 'follow', 'mirror'] as const;
export type EdgeWay = (typeof edgeWays)[number];

/**
 * Frames of a clip's source moved so that what one of its tracks follows stands still, where it is on position `frame`; by two tracks,
 * turn and size too. It is done before anything else, whatever its place.
 */
export const steadySchema = {
  type: 'object',
  additionalProperties: false,
  required: ['id', 'kind', 'tracks', 'frame', 'edges'],
  properties: {
    ...common,
    kind: { const: 'steady' },
    tracks: { type: 'array', minItems: 1, maxItems: 2, items: idSchema },
    frame: { type: 'integer', minimum: 0, maximum: 2 ** 31 },
    edges: { enum: edgeWays },
    over: stretchSchema,
  },
} as const;

/** What of the camera's movement is taken out: its movement, turn and size; or its perspective too. */
export const cameraModels = ['similarity', 'perspective'] as const;
export type CameraModel = (typeof cameraModels)[number];
/** Seconds over which a camera's movement is smoothed, at least and at most. */
export const SMOOTHED_OVER = { least: 0.1, most: 20 } as const;

/**
 * Frames of a clip's source moved so that its camera, which an analysis of the source tells of, goes smoothly: of what swings in
 * `seconds` half is left, of what is quicker less; or, without seconds, so that it stands as on position `frame`. As steadying, it is
 * done before anything else; of both the first in the list is done.
 */
export const smoothSchema = {
  type: 'object',
  additionalProperties: false,
  required: ['id', 'kind', 'model', 'frame', 'edges'],
  properties: {
    ...common,
    kind: { const: 'smooth' },
    seconds: { type: 'number', minimum: SMOOTHED_OVER.least, maximum: SMOOTHED_OVER.most },
    model: { enum: cameraModels },
    frame: { type: 'integer', minimum: 0, maximum: 2 ** 31 },
    edges: { enum: edgeWays },
    over: stretchSchema,
  },
} as const;

/** Something done to pictures once they are made. */
const effectSchema = {
  oneOf: [trailSchema, flashSchema, reframeSchema, steadySchema, smoothSchema, carrySchema],
} as const;

export type Trail = FromSchema<typeof trailSchema>;
export type Flash = FromSchema<typeof flashSchema>;
export type Reframe = FromSchema<typeof reframeSchema>;
export type Steady = FromSchema<typeof steadySchema>;
export type Smooth = FromSchema<typeof smoothSchema>;
export type Carry = FromSchema<typeof carrySchema>;
export type Effect = Trail | Flash | Reframe | Steady | Smooth | Carry;

/** In the order in which it is done. */
export const effectsSchema = { type: 'array', minItems: 1, maxItems: 5000, items: effectSchema } as const;
