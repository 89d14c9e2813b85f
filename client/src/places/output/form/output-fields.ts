import {
  chapterChoices,
  fitWays,
  OUTPUT_BOUNDS,
  pictureCodings,
  renderQualities,
  sampleRates,
  soundCodings,
  type ChapterChoice,
  type FitWay,
  type OutputForm,
  type OutputFormat,
  type PictureCoding,
  type Rate,
  type RenderQuality,
  type SoundCoding,
} from '@hastig/contract';
import {
  fileEnding,
  formatFacts,
  formatRate,
  isLossless,
  nameFrom,
  nameParts,
  parseRate,
  patternFault,
  pictureCodingNames,
  pictureCodingOf,
  rateKey,
  sizesOf,
  soundCodingNames,
  soundCodingOf,
  standardRates,
  USUAL_SOUND_BIT_RATE,
  type FormatFacts,
  type NamePart,
  type Size,
} from '@hastig/core';
import type { Encodable, RangeChoice } from '@hastig/engine';
import { choiceField, type ChoiceSpec, type Specs, type Texts } from '../../../form/specs';
import { boundField, countBetween, sideField } from './bounded-fields';

type Kind = FormatFacts['kind'];

const kindLabels: Readonly<Record<Kind, string>> = {
  film: 'Film',
  'moving-picture': 'GIF',
  stills: 'Stills',
  sound: 'Sound',
};

/** The field of formats of each kind; of a GIF there is one. */
export const formatFields = { film: 'film', stills: 'stills', sound: 'soundFile' } as const;

export const OWN = 'own';
export const CUSTOM = 'custom';

type StillsTo = 'zip' | 'folder';

/** What a form is about. */
export interface OutputOf {
  name: string;
  /** Its own size and rate. */
  size: Size;
  rate: Rate;
  audible: boolean;
  /** There is a picture. */
  seen: boolean;
  /** Whether in or out is marked, and whether there are markers, now. */
  marked(): boolean;
  markers(): boolean;
  /** Whether this browser can write into a folder that is chosen. */
  folders: boolean;
  /** What this device has encoders for; undefined while that is not known. */
  encodable(): Encodable | undefined;
  /** What a pattern of names comes to, of the first file. */
  nameParts(texts: Texts): Readonly<Record<NamePart, string>>;
}

export const kindOf = ({ kind }: Texts): Kind => kind as Kind;
const ofKind =
  (...kinds: Kind[]) =>
  (texts: Texts): boolean =>
    kinds.includes(kindOf(texts));
const inFull = ({ shown }: Texts): boolean => shown === 'all';

/** The format that is chosen. */
export function formatOf(texts: Texts): OutputFormat {
  const kind = kindOf(texts);
  return kind === 'moving-picture' ? 'gif' : (texts[formatFields[kind]] as OutputFormat);
}

const formatsOf = (kind: Kind): OutputFormat[] =>
  (Object.keys(formatFacts) as OutputFormat[]).filter((format) => formatFacts[format].kind === kind);

/** Formats of a kind, to choose from. */
const formatField = (kind: keyof typeof formatFields): ChoiceSpec<OutputFormat> => ({
  ...choiceField<OutputFormat>(
    'Format',
    kind === 'sound' ? 'wav' : formatsOf(kind)[0]!,
    formatsOf(kind).map((value) => ({ value, label: formatFacts[value].name })),
  ),
  when: ofKind(kind),
});

export const sizeKey = ({ width, height }: Size): string => `${width}x${height}`;

const qualityLabels: Readonly<Record<RenderQuality, string>> = {
  low: 'Low',
  medium: 'Medium',
  high: 'High',
  'very-high': 'Very high',
};
const fitLabels: Readonly<Record<FitWay, string>> = {
  fit: 'Fit, with bars',
  fill: 'Fill, cropped',
  crop: 'Pixel for pixel',
};

const chapterLabels: Readonly<Record<ChapterChoice, string>> = {
  hand: 'Markers set by hand',
  all: 'All markers',
  none: 'None',
};

export const loudnessTargets = ['-14', '-16', '-23'] as const;

/** What is lossless has no bit rate of its own. */
const isLossy = (texts: Texts): boolean => {
  const coding = soundCodingOf(codingTexts(texts));
  return coding !== undefined && !isLossless(coding);
};

export const codingTexts = (texts: Texts): OutputForm => ({
  format: formatOf(texts),
  pictureCoding: texts.pictureCoding as PictureCoding,
  soundCoding: texts.soundCoding as SoundCoding,
});

/** Whether the file has sound. */
export const hasSound = (texts: Texts, audible: boolean): boolean =>
  audible && (kindOf(texts) === 'sound' || (kindOf(texts) === 'film' && texts.sound === 'yes'));

/** What is asked of a file. */
export function outputFields(of: OutputOf) {
  const { name, size, rate, audible, seen } = of;
  const sizes = sizesOf(size);
  const rates = standardRates.filter((one) => rateKey(one) !== rateKey(rate));
  const pictures = ofKind('film', 'moving-picture', 'stills');
  // What is seldom changed is out of sight, unless it was.
  const detail =
    (field: string, usual: string, when: (texts: Texts) => boolean) =>
    (texts: Texts): boolean =>
      (inFull(texts) || texts[field] !== usual) && when(texts);
  const ownSize = (texts: Texts): boolean => pictures(texts) && texts.size === CUSTOM;
  const sounding = (texts: Texts): boolean => hasSound(texts, audible);
  return {
    name: {
      kind: 'words',
      label: 'File name',
      initial: '{name}',
      hint: (text: string, texts: Texts) =>
        patternFault(text) === undefined
          ? `${nameFrom(text, of.nameParts(texts))}.${fileEndingOf(texts)}`
          : `Parts: ${nameParts.map((part) => `{${part}}`).join(' ')}, such as ${name}`,
      fault: patternFault,
    },
    range: {
      ...choiceField<RangeChoice>('Range', 'all', [
        { value: 'all', label: 'All' },
        { value: 'marked', label: 'In to out' },
        { value: 'markers', label: 'Marker to marker' },
      ]),
      whyNot: (value) =>
        value === 'marked' && !of.marked()
          ? 'Mark in or out on the timeline for a part.'
          : value === 'markers' && !of.markers()
            ? 'There are no markers to begin files at.'
            : undefined,
    } satisfies ChoiceSpec<RangeChoice>,
    kind: {
      ...choiceField<Kind>(
        'Make',
        seen ? 'film' : 'sound',
        (Object.keys(kindLabels) as Kind[]).map((value) => ({ value, label: kindLabels[value] })),
      ),
      whyNot: (value) =>
        value === 'sound' ? (audible ? undefined : 'There is no sound.') : seen ? undefined : 'There is no picture.',
    } satisfies ChoiceSpec<Kind>,
    film: formatField('film'),
    stills: formatField('stills'),
    soundFile: formatField('sound'),
    to: {
      ...choiceField<StillsTo>('Save as', 'zip', [
        { value: 'zip', label: 'ZIP' },
        { value: 'folder', label: 'Files in a folder' },
      ]),
      when: ofKind('stills'),
      whyNot: (value) => (value === 'folder' && !of.folders ? 'This browser can’t write into folders.' : undefined),
      instead: (value) => (of.folders ? value : 'zip'),
    } satisfies ChoiceSpec<StillsTo>,
    shown: choiceField('Settings', 'main', [
      { value: 'main', label: 'Main' },
      { value: 'all', label: 'All' },
    ]),
    pictureCoding: {
      ...choiceField<PictureCoding>(
        'Picture codec',
        'avc',
        pictureCodings.map((value) => ({ value, label: pictureCodingNames[value] })),
      ),
      when: ofKind('film'),
      whyNot: (value, texts) => {
        const { name: container, pictures: taken } = formatFacts[formatOf(texts)];
        if (!taken.includes(value)) return `${container} takes ${taken.map((one) => pictureCodingNames[one]).join(' and ')}.`; // prettier-ignore
        if (of.encodable()?.[value] !== false) return undefined;
        const kind = texts.encoder === 'hardware' ? 'hardware encoder for' : 'encoder for';
        return `This device has no ${kind} ${pictureCodingNames[value]}.`;
      },
      instead: (_, texts) => pictureCodingOf(codingTexts(texts)) ?? 'avc',
    } satisfies ChoiceSpec<PictureCoding>,
    size: {
      ...choiceField('Frame size', OWN, [
        { value: OWN, label: `${sizes[0]!.width} × ${sizes[0]!.height}` },
        ...sizes.slice(1).map((one) => ({ value: sizeKey(one), label: `${one.width} × ${one.height}` })),
        { value: CUSTOM, label: 'Own' },
      ]),
      when: pictures,
    },
    width: {
      ...sideField('Width', sizes[0]!.width),
      when: ownSize,
    },
    height: {
      ...sideField('Height', sizes[0]!.height),
      when: ownSize,
    },
    fit: {
      ...choiceField<FitWay>(
        'Scaling',
        'fit',
        fitWays.map((value) => ({ value, label: fitLabels[value] })),
      ),
      when: ownSize,
    },
    rate: {
      ...choiceField('Frame rate', OWN, [
        { value: OWN, label: formatRate(rate) },
        ...rates.map((one) => ({ value: rateKey(one), label: formatRate(one) })),
        { value: CUSTOM, label: 'Own' },
      ]),
      when: pictures,
    },
    ownRate: {
      kind: 'words',
      label: 'Frames per second',
      initial: rateKey(rate),
      hint: () => 'As 24, 23.976 or 24000/1001.',
      fault: (text: string) => (parseRate(text) ? undefined : 'is not a frame rate: type 24, 23.976 or 24000/1001'),
      when: (texts: Texts) => pictures(texts) && texts.rate === CUSTOM,
    },
    by: {
      ...choiceField('Rate control', 'quality', [
        { value: 'quality', label: 'Quality' },
        { value: 'rate', label: 'Bit rate' },
      ]),
      when: ofKind('film'),
    },
    quality: {
      ...choiceField<RenderQuality>(
        'Quality',
        'high',
        renderQualities.map((value) => ({ value, label: qualityLabels[value] })),
      ),
      when: (texts: Texts) =>
        (kindOf(texts) === 'film' && texts.by === 'quality') || (kindOf(texts) === 'stills' && texts.stills !== 'png'),
    },
    bitRate: {
      ...boundField('Picture, kbit/s', '8000', OUTPUT_BOUNDS.bitRate),
      when: (texts: Texts) => kindOf(texts) === 'film' && texts.by === 'rate',
    },
    constant: {
      ...choiceField('Bit rate', 'average', [
        { value: 'average', label: 'Average' },
        { value: 'constant', label: 'Constant' },
      ]),
      when: (texts: Texts) => kindOf(texts) === 'film' && texts.by === 'rate',
    },
    keyEvery: {
      ...boundField('Key frame every, seconds', '2', OUTPUT_BOUNDS.keyEvery),
      when: detail('keyEvery', '2', ofKind('film')),
    },
    levels: {
      ...choiceField('Levels', 'as-is', [
        { value: 'as-is', label: 'As footage' },
        { value: 'limited', label: 'Limited' },
        { value: 'full', label: 'Full' },
      ]),
      when: detail('levels', 'as-is', ofKind('film')),
    },
    encoder: {
      ...choiceField('Encoder', 'any', [
        { value: 'any', label: 'Any' },
        { value: 'hardware', label: 'Hardware' },
        { value: 'software', label: 'Software' },
      ]),
      when: detail('encoder', 'any', ofKind('film')),
    },
    sound: {
      ...choiceField('Sound', 'yes', [
        { value: 'yes', label: 'Follows speed' },
        { value: 'no', label: 'None' },
      ]),
      when: (texts: Texts) => audible && kindOf(texts) === 'film',
    },
    soundCoding: {
      ...choiceField<SoundCoding>(
        'Sound codec',
        'aac',
        soundCodings.map((value) => ({ value, label: soundCodingNames[value] })),
      ),
      when: (texts: Texts) => sounding(texts) && formatFacts[formatOf(texts)].sounds.length > 1,
      whyNot: (value, texts) => {
        const { name: container, sounds } = formatFacts[formatOf(texts)];
        return sounds.includes(value) ? undefined : `${container} takes ${sounds.map((one) => soundCodingNames[one]).join(', ')}.`; // prettier-ignore
      },
      instead: (_, texts) => soundCodingOf(codingTexts(texts)) ?? 'aac',
    } satisfies ChoiceSpec<SoundCoding>,
    soundBitRate: {
      ...countBetween('Sound, kbit/s', String(USUAL_SOUND_BIT_RATE), OUTPUT_BOUNDS.soundBitRate),
      when: (texts: Texts) => sounding(texts) && isLossy(texts),
    },
    sampleRate: {
      ...choiceField(
        'Sample rate',
        '48000',
        sampleRates.map((value) => ({ value: String(value), label: `${value / 1000} kHz` })),
      ),
      when: detail('sampleRate', '48000', sounding),
      whyNot: (value: string, texts: Texts) => {
        const coding = soundCodingOf(codingTexts(texts));
        if (coding === 'opus' && value !== '48000') return 'Opus is at 48 kHz.';
        return coding && !isLossless(coding) && value === '96000'
          ? `${soundCodingNames[coding]} goes to 48 kHz.`
          : undefined;
      },
      instead: (value: string, texts: Texts) => {
        const coding = soundCodingOf(codingTexts(texts));
        return coding === 'opus' || (coding && !isLossless(coding) && value === '96000') ? '48000' : value;
      },
    },
    channels: {
      ...choiceField('Channels', '2', [
        { value: '2', label: 'Stereo' },
        { value: '1', label: 'Mono' },
      ]),
      when: detail('channels', '2', sounding),
    },
    loudness: {
      ...choiceField('Loudness', 'as-is', [
        { value: 'as-is', label: 'As mixed' },
        ...loudnessTargets.map((value) => ({ value, label: `${value.replace('-', '−')} LUFS` })),
        { value: CUSTOM, label: 'Own' },
      ]),
      when: sounding,
    },
    ownLoudness: {
      ...boundField('Loudness, LUFS', '-18', OUTPUT_BOUNDS.loudness),
      when: (texts: Texts) => sounding(texts) && texts.loudness === CUSTOM,
    },
    chapters: {
      ...choiceField<ChapterChoice>(
        'Chapters',
        'hand',
        chapterChoices.map((value) => ({ value, label: chapterLabels[value] })),
      ),
      when: detail('chapters', 'hand', (texts) => ofKind('film', 'sound')(texts) && of.markers()),
    },
  } as const satisfies Specs;
}

/** The ending of the file that is chosen. */
const fileEndingOf = (texts: Texts): string => fileEnding(formatOf(texts));
