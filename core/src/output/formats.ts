import type { OutputForm, OutputFormat, PictureCoding, SoundCoding } from '@hastig/contract';

/** What a format holds, and what it is called. */
export interface FormatFacts {
  name: string;
  /** The ending of its files, which are one, or a ZIP of numbered ones. */
  ending: string;
  kind: 'film' | 'moving-picture' | 'stills' | 'sound';
  /** Codings of picture and sound that it takes, the usual one first. */
  pictures: readonly PictureCoding[];
  sounds: readonly SoundCoding[];
}

const film = (name: string, ending: string, pictures: readonly PictureCoding[], sounds: readonly SoundCoding[]) =>
  ({ name, ending, kind: 'film', pictures, sounds }) as const;
const stills = (name: string, ending: string) => ({ name, ending, kind: 'stills', pictures: [], sounds: [] }) as const;
const sound = (name: string, ending: string, sounds: readonly SoundCoding[]) =>
  ({ name, ending, kind: 'sound', pictures: [], sounds }) as const;

/** All formats. Which codings each takes: as their documents say (ISO/IEC 14496-14 and -12, QuickTime, WebM, RFC 9559), and players play. */
export const formatFacts: Readonly<Record<OutputFormat, FormatFacts>> = {
  mp4: film('MP4', 'mp4', ['avc', 'vp9', 'av1'], ['aac', 'opus', 'mp3', 'flac']),
  mov: film('MOV', 'mov', ['avc'], ['aac', 'pcm-s16', 'pcm-s24', 'pcm-f32']),
  webm: film('WebM', 'webm', ['vp9', 'av1'], ['opus']),
  mkv: film('MKV', 'mkv', ['avc', 'vp9', 'av1'], ['aac', 'opus', 'mp3', 'flac', 'pcm-s16', 'pcm-s24', 'pcm-f32']),
  gif: { name: 'GIF', ending: 'gif', kind: 'moving-picture', pictures: [], sounds: [] },
  png: stills('PNG', 'png'),
  jpeg: stills('JPEG', 'jpg'),
  webp: stills('WebP', 'webp'),
  wav: sound('WAV', 'wav', ['pcm-s24', 'pcm-s16', 'pcm-f32']),
  flac: sound('FLAC', 'flac', ['flac']),
  mp3: sound('MP3', 'mp3', ['mp3']),
  m4a: sound('M4A', 'm4a', ['aac']),
  ogg: sound('Ogg', 'ogg', ['opus']),
};

export const pictureCodingNames: Readonly<Record<PictureCoding, string>> = { avc: 'H.264', vp9: 'VP9', av1: 'AV1' };

export const soundCodingNames: Readonly<Record<SoundCoding, string>> = {
  aac: 'AAC',
  opus: 'Opus',
  mp3: 'MP3',
  flac: 'FLAC',
  'pcm-s16': 'PCM 16 bit',
  'pcm-s24': 'PCM 24 bit',
  'pcm-f32': 'PCM 32 bit float',
};

/** Whether a format has pictures. */
export const hasPicture = (format: OutputFormat): boolean => formatFacts[format].kind !== 'sound';

/** Whether a format can have sound. */
export const takesSound = (format: OutputFormat): boolean => formatFacts[format].sounds.length > 0;

/** The ending of the one file that a format makes. */
export const fileEnding = (format: OutputFormat): string => {
  const { kind, ending } = formatFacts[format];
  return kind === 'stills' ? 'zip' : ending;
};

/** How pictures of a form are coded; nothing where each is a picture file of its own, or there are none. */
export const pictureCodingOf = ({ format, pictureCoding }: OutputForm): PictureCoding | undefined => {
  const { pictures } = formatFacts[format];
  return pictures.find((one) => one === pictureCoding) ?? pictures[0];
};

/** How sound of a form is coded; nothing where there is none. */
export const soundCodingOf = ({ format, soundCoding }: OutputForm): SoundCoding | undefined => {
  const { sounds } = formatFacts[format];
  return sounds.find((one) => one === soundCoding) ?? sounds[0];
};

/** Whether nothing of sound is lost by a coding. */
export const isLossless = (coding: SoundCoding): boolean => coding === 'flac' || coding.startsWith('pcm');

/** Kbit/s of sound where none are told. */
export const USUAL_SOUND_BIT_RATE = 192;

/** Samples a second that a coding takes: Opus is always at 48 kHz (RFC 7845, 5.1), MP3 and AAC not beyond it here. */
export const sampleRateOf = ({ sampleRate = 48_000, ...form }: OutputForm): number => {
  const coding = soundCodingOf({ ...form, sampleRate });
  if (coding === 'opus') return 48_000;
  return coding && isLossless(coding) ? sampleRate : Math.min(48_000, sampleRate);
};
