import type { FromSchema } from 'json-schema-to-ts';
import { idSchema } from './common';
import { keyedSchema } from './keyed';

/** What becomes of the pitch when the speed changes: it `follows`, as on tape, or it is `kept`. */
export const pitchModes = ['follows', 'kept'] as const;
export type PitchMode = (typeof pitchModes)[number];

/** What a kept pitch is kept for: the attacks of `speech`, or the tone of `music`. */
export const soundFocuses = ['music', 'speech'] as const;
export type SoundFocus = (typeof soundFocuses)[number];

/** What is heard while a picture is frozen: nothing; the tone it was frozen at, `held`; or that, `faded` out. */
export const freezeSounds = ['silent', 'held', 'faded'] as const;
export type FreezeSound = (typeof freezeSounds)[number];

/** How a fade runs: `even` in amplitude; `smooth`, slow at both ends; or of `equal` power, as two sounds that are not alike need. */
export const fadeShapes = ['even', 'smooth', 'equal'] as const;
export type FadeShape = (typeof fadeShapes)[number];

/** Decibels of a gain. */
const gainSchema = { type: 'number', minimum: -96, maximum: 24 } as const;
/** From the left, −1, to the right, 1. */
const panSchema = { type: 'number', minimum: -1, maximum: 1 } as const;
/** Cents by which a pitch is shifted. */
const centsSchema = { type: 'number', minimum: -4800, maximum: 4800 } as const;

const pitchProperties = {
  pitch: { enum: pitchModes },
  cents: centsSchema,
  /** Whether what makes a voice the one it is stays where it was when its pitch is shifted. */
  formants: { enum: ['shifted', 'kept'] },
  focus: { enum: soundFocuses },
} as const;

/** A stretch of a clip whose pitch is decided apart, in output frames (real) of the clip's timing: `from` included, `to` not. */
const pitchPartSchema = {
  type: 'object',
  additionalProperties: false,
  required: ['from', 'to', 'pitch', 'cents', 'formants', 'focus'],
  properties: {
    from: { type: 'number', minimum: 0 },
    to: { type: 'number', minimum: 0 },
    ...pitchProperties,
  },
} as const;

/** A fade over `frames` (real) of what the clip lies in. */
const fadeSchema = {
  type: 'object',
  additionalProperties: false,
  required: ['frames', 'shape'],
  properties: {
    frames: { type: 'number', minimum: 0, maximum: 100_000_000 },
    shape: { enum: fadeShapes },
    /** Frames of it that were cut off at its silent end, and at its loud end, when the clip was split in the middle of it. */
    lead: { type: 'number', minimum: 0, maximum: 100_000_000 },
    rest: { type: 'number', minimum: 0, maximum: 100_000_000 },
  },
} as const;

/**
 * How a clip sounds: its pitch, what freezes and very fast parts sound like, its level in decibels, where it lies between left and
 * right, and its fades.
 */
export const soundSettingsSchema = {
  type: 'object',
  additionalProperties: false,
  required: ['pitch', 'cents', 'formants', 'focus', 'freeze', 'gain', 'pan'],
  properties: {
    ...pitchProperties,
    freeze: { enum: freezeSounds },
    /** The speed above which it fades, gone at twice that; it does not where none is told. */
    quietAbove: { type: 'number', minimum: 1, maximum: 1000 },
    gain: gainSchema,
    pan: panSchema,
    fadeIn: fadeSchema,
    fadeOut: fadeSchema,
    /** How it takes turns with the clip before it, half on either side of the cut. */
    cross: fadeSchema,
    /** In order, without overlap. */
    parts: { type: 'array', minItems: 1, maxItems: 10_000, items: pitchPartSchema },
    /** Those that change over time; the value above is not used then. */
    keys: {
      type: 'object',
      additionalProperties: false,
      minProperties: 1,
      properties: { gain: keyedSchema, pan: keyedSchema, cents: keyedSchema },
    },
  },
} as const;

export type SoundSettings = FromSchema<typeof soundSettingsSchema>;
export type PitchPart = FromSchema<typeof pitchPartSchema>;
export type Fade = FromSchema<typeof fadeSchema>;
/** What is decided about pitch, of a clip or of a part of it. */
export type PitchSettings = Pick<SoundSettings, 'pitch' | 'cents' | 'formants' | 'focus'>;
/** The settings of sound that may change over time. */
export type KeyedSound = keyof NonNullable<SoundSettings['keys']>;

/** How one track gives way to another: by so many decibels while that is louder than the threshold. */
const duckSchema = {
  type: 'object',
  additionalProperties: false,
  required: ['under', 'threshold', 'amount', 'attack', 'release'],
  properties: {
    /** The track it gives way to. */
    under: idSchema,
    /** Decibels below full scale. */
    threshold: { type: 'number', minimum: -96, maximum: 0 },
    amount: { type: 'number', minimum: 0, maximum: 96 },
    /** Seconds in which it gives way, and in which it comes back. */
    attack: { type: 'number', minimum: 0, maximum: 10 },
    release: { type: 'number', minimum: 0, maximum: 30 },
  },
} as const;

export type Duck = FromSchema<typeof duckSchema>;

/** How a track sounds in the mix. Where any is `solo`, the others are silent. */
export const trackSoundSchema = {
  type: 'object',
  additionalProperties: false,
  required: ['gain', 'pan'],
  properties: {
    gain: gainSchema,
    pan: panSchema,
    muted: { type: 'boolean' },
    solo: { type: 'boolean' },
    duck: duckSchema,
  },
} as const;

export type TrackSound = FromSchema<typeof trackSoundSchema>;

/** What becomes of the mix as a whole: its gain, and the peak it is kept under, in decibels below full scale. */
export const masterSchema = {
  type: 'object',
  additionalProperties: false,
  required: ['gain'],
  properties: { gain: gainSchema, limit: { type: 'number', minimum: -24, maximum: 0 } },
} as const;

export type Master = FromSchema<typeof masterSchema>;
