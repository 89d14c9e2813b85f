import type { ChapterChoice, FitWay, OutputForm, RenderQuality } from '@hastig/contract';
import {
  formatFacts,
  isLossless,
  parseRate,
  pictureCodingOf,
  rateKey,
  sizesOf,
  soundCodingOf,
  standardRates,
  USUAL_SOUND_BIT_RATE,
} from '@hastig/core';
import type { Texts } from '../../../form/specs';
import {
  codingTexts,
  CUSTOM,
  formatFields,
  formatOf,
  hasSound,
  kindOf,
  loudnessTargets,
  OWN,
  sizeKey,
  type outputFields,
  type OutputOf,
} from './output-fields';

/** A number of a form, and back: nothing where it is the usual one. */
const textOf = (value: number | undefined, usual: string): string => (value === undefined ? usual : String(value));

/** What is put into the fields for a form. */
export function textsOf(form: OutputForm, { size, rate }: Pick<OutputOf, 'size' | 'rate'>): Texts {
  const { kind } = formatFacts[form.format];
  const [own, ...smaller] = sizesOf(size);
  const wanted = form.width !== undefined && form.height !== undefined && { width: form.width, height: form.height };
  const known = wanted && !form.fit && smaller.some((one) => sizeKey(one) === sizeKey(wanted));
  const rates = standardRates.filter((one) => rateKey(one) !== rateKey(rate)).map(rateKey);
  const rateText = form.rate && rateKey(form.rate);
  const loudness = form.loudness === undefined ? 'as-is' : String(form.loudness);
  const isTarget = loudness === 'as-is' || (loudnessTargets as readonly string[]).includes(loudness);
  return {
    kind,
    ...(kind !== 'moving-picture' && { [formatFields[kind]]: form.format }),
    pictureCoding: form.pictureCoding ?? 'avc',
    size: !wanted ? OWN : known ? sizeKey(wanted) : CUSTOM,
    width: String((wanted || own!).width),
    height: String((wanted || own!).height),
    fit: form.fit ?? 'fit',
    rate: !rateText ? OWN : rates.includes(rateText) ? rateText : CUSTOM,
    ownRate: rateText ?? rateKey(rate),
    by: form.bitRate === undefined ? 'quality' : 'rate',
    quality: form.quality ?? 'high',
    bitRate: textOf(form.bitRate, '8000'),
    constant: form.constant ? 'constant' : 'average',
    keyEvery: textOf(form.keyEvery, '2'),
    levels: form.fullRange === undefined ? 'as-is' : form.fullRange ? 'full' : 'limited',
    encoder: form.encoder ?? 'any',
    sound: form.sound === false ? 'no' : 'yes',
    soundCoding: form.soundCoding ?? 'aac',
    soundBitRate: textOf(form.soundBitRate, '192'),
    sampleRate: textOf(form.sampleRate, '48000'),
    channels: textOf(form.channels, '2'),
    loudness: isTarget ? loudness : CUSTOM,
    ownLoudness: textOf(form.loudness, '-18'),
    chapters: form.chapters ?? 'hand',
  };
}

/** What is read of the fields. */
export type OutputValues = Readonly<Record<keyof ReturnType<typeof outputFields>, string | number>>;

/** The form that the fields come to; what is as usual is not told. */
export function formIn(values: OutputValues, texts: Texts, audible: boolean): OutputForm {
  const format = formatOf(texts);
  const kind = kindOf(texts);
  const [pictures, film] = [kind !== 'sound', kind === 'film'];
  const sounding = hasSound(texts, audible);
  const [pictureCoding, soundCoding] = [pictureCodingOf(codingTexts(texts)), soundCodingOf(codingTexts(texts))];
  const [wide, high] =
    texts.size === CUSTOM ? [values.width, values.height] : texts.size === OWN ? [] : texts.size!.split('x');
  const rate = texts.rate === OWN ? undefined : parseRate(texts.rate === CUSTOM ? texts.ownRate! : texts.rate!);
  const byRate = film && texts.by === 'rate';
  const lossy = soundCoding !== undefined && !isLossless(soundCoding);
  const loudness = texts.loudness === CUSTOM ? values.ownLoudness : texts.loudness;
  return {
    format,
    ...(film && pictureCoding && pictureCoding !== formatFacts[format].pictures[0] && { pictureCoding }),
    ...(pictures && wide !== undefined && { width: Number(wide), height: Number(high) }),
    ...(pictures && texts.size === CUSTOM && { fit: texts.fit as FitWay }),
    ...(pictures && rate && { rate }),
    ...(pictures && !byRate && format !== 'png' && format !== 'gif' && { quality: texts.quality as RenderQuality }),
    ...(byRate && { bitRate: Number(values.bitRate), ...(texts.constant === 'constant' && { constant: true }) }),
    ...(film && Number(values.keyEvery) !== 2 && { keyEvery: Number(values.keyEvery) }),
    ...(film && texts.levels !== 'as-is' && { fullRange: texts.levels === 'full' }),
    ...(film && texts.encoder !== 'any' && { encoder: texts.encoder as 'hardware' | 'software' }),
    ...(film && audible && texts.sound === 'no' && { sound: false }),
    ...(sounding && {
      ...(soundCoding !== soundCodingOf({ format }) && { soundCoding }),
      ...(lossy && Number(values.soundBitRate) !== USUAL_SOUND_BIT_RATE && { soundBitRate: Number(values.soundBitRate) }), // prettier-ignore
      ...(Number(values.sampleRate) !== 48_000 && { sampleRate: Number(values.sampleRate) as 44_100 | 96_000 }),
      ...(Number(values.channels) === 1 && { channels: 1 as const }),
      ...(loudness !== 'as-is' && { loudness: Number(loudness) }),
    }),
    ...((film || kind === 'sound') && texts.chapters !== 'hand' && { chapters: texts.chapters as ChapterChoice }),
  };
}
