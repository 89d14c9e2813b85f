import type { FromSchema } from 'json-schema-to-ts';
import { idSchema, nameSchema } from './common';
import { rateSchema } from './rate';

/** What a file can be: picture and sound in a container; a picture that moves; numbered pictures; or sound alone. */
export const outputFormats = ['mp4', 'mov', 'webm', 'mkv', 'gif', 'png', 'jpeg', 'webp', 'wav', 'flac', 'mp3', 'm4a', 'ogg'] as const; // prettier-ignore
export type OutputFormat = (typeof outputFormats)[number];

/** How pictures are coded: H.264 (`avc`), VP9, AV1. */
export const pictureCodings = ['avc', 'vp9', 'av1'] as const;
export type PictureCoding = (typeof pictureCodings)[number];

/** How sound is coded; of PCM the bits of a sample, whole numbers or, with 32, real ones. */
export const soundCodings = ['aac', 'opus', 'mp3', 'flac', 'pcm-s16', 'pcm-s24', 'pcm-f32'] as const;
export type SoundCoding = (typeof soundCodings)[number];

/** How good pictures are; each a step of the encoder's quality. */
export const renderQualities = ['low', 'medium', 'high', 'very-high'] as const;
export type RenderQuality = (typeof renderQualities)[number];

/** How the frame lies in a file of another shape: whole, with bars; over all of it, cut; or pixel for pixel, cut. */
export const fitWays = ['fit', 'fill', 'crop'] as const;
export type FitWay = (typeof fitWays)[number];

/** Which markers become chapters of a file: those set by hand, all, or none. */
export const chapterChoices = ['hand', 'all', 'none'] as const;
export type ChapterChoice = (typeof chapterChoices)[number];

/** Samples a second of a file's sound. */
export const sampleRates = [44_100, 48_000, 96_000] as const;

/** Pixels of a side, kbit/s of a picture and of sound, seconds between key frames, and LUFS; at least and at most. */
export const OUTPUT_BOUNDS = {
  side: { least: 16, most: 8192 },
  bitRate: { least: 50, most: 400_000 },
  soundBitRate: { least: 32, most: 320 },
  keyEvery: { least: 0.1, most: 20 },
  loudness: { least: -40, most: -5 },
} as const;

/** The schema of a number within bounds. */
const within = <const T extends 'integer' | 'number'>(type: T, { least, most }: { least: number; most: number }) =>
  ({ type, minimum: least, maximum: most }) as const;

/**
 * What is asked of a file, apart from what it shows. What is not told is as what is shown has it (size, rate), or as is usual for the
 * format. `quality` tells how good pictures are unless `bitRate` tells how large, in kbit/s, `constant` or so on average; `keyEvery` the
 * seconds between pictures that are coded by themselves; `loudness` what the sound is brought to, in LUFS.
 */
export const outputFormSchema = {
  type: 'object',
  additionalProperties: false,
  required: ['format'],
  properties: {
    format: { enum: outputFormats },
    pictureCoding: { enum: pictureCodings },
    width: within('integer', OUTPUT_BOUNDS.side),
    height: within('integer', OUTPUT_BOUNDS.side),
    fit: { enum: fitWays },
    rate: rateSchema,
    quality: { enum: renderQualities },
    bitRate: within('number', OUTPUT_BOUNDS.bitRate),
    constant: { type: 'boolean' },
    keyEvery: within('number', OUTPUT_BOUNDS.keyEvery),
    fullRange: { type: 'boolean' },
    encoder: { enum: ['hardware', 'software'] },
    sound: { type: 'boolean' },
    soundCoding: { enum: soundCodings },
    sampleRate: { enum: sampleRates },
    channels: { enum: [1, 2] },
    soundBitRate: within('number', OUTPUT_BOUNDS.soundBitRate),
    loudness: within('number', OUTPUT_BOUNDS.loudness),
    chapters: { enum: chapterChoices },
  },
} as const;

export type OutputForm = FromSchema<typeof outputFormSchema>;

/** A form that was saved under a name. */
export const presetSchema = {
  type: 'object',
  additionalProperties: false,
  required: ['id', 'name', 'form'],
  properties: { id: idSchema, name: nameSchema, form: outputFormSchema },
} as const;

export type Preset = FromSchema<typeof presetSchema>;

export const presetsSchema = { type: 'array', minItems: 1, maxItems: 100, items: presetSchema } as const;
