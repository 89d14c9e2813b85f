import type { OutputForm } from '@hastig/contract';
import { builtInPresets, makeRate } from '@hastig/core';
import { initialTexts, readForm } from '../../../form/read';
import { formIn, textsOf, type OutputValues } from './form-texts';
import { outputFields } from './output-fields';

const of = { size: { width: 1280, height: 720 }, rate: makeRate(24) };
const specs = outputFields({
  ...of,
  ...{ name: 'The drop', audible: true, seen: true, marked: () => false, markers: () => false, folders: false },
  encodable: () => ({ avc: true, vp9: true, av1: false }),
  nameParts: () => ({ name: 'The drop', project: '', range: '', number: '', size: '', rate: '', date: '' }),
});

/** The form that the fields say, once one was put into them. */
function back(form: OutputForm): OutputForm | undefined {
  const texts = { ...initialTexts(specs), ...textsOf(form, of) };
  const { values } = readForm(specs, texts);
  return values && formIn(values as OutputValues, texts, true);
}

const forms: OutputForm[] = [
  ...builtInPresets.map(({ form }) => form),
  { format: 'webm', quality: 'low', width: 640, height: 360, sound: false },
  { format: 'mkv', pictureCoding: 'vp9', bitRate: 2500, constant: true, keyEvery: 0.5, encoder: 'hardware', fullRange: false, soundCoding: 'opus', soundBitRate: 96 }, // prettier-ignore
  { format: 'mp4', quality: 'high', rate: makeRate(30_000, 1001), sampleRate: 44_100, channels: 1, loudness: -17.5 },
  { format: 'gif', width: 405, height: 300, fit: 'crop', rate: makeRate(25, 2) },
  { format: 'jpeg', quality: 'medium' },
  { format: 'mp3', soundBitRate: 320, loudness: -23 },
];

it.each(forms.map((form) => [JSON.stringify(form), form] as const))('%s is in the fields as it is', (_, form) => {
  const read = back(form)!;
  // Quality is told even where it is the usual one.
  const { quality = 'high', ...told } = form;
  const picture = !['gif', 'png', 'wav', 'mp3'].includes(form.format) && form.bitRate === undefined;
  expect(read).toEqual({ ...told, ...(picture && { quality }) });
});

it('what a format does not take is not chosen any more, and says why', () => {
  const texts = { ...initialTexts(specs), film: 'mov', pictureCoding: 'av1' };
  expect(specs.pictureCoding.whyNot!('av1', texts)).toBe('MOV takes H.264.');
  expect(specs.pictureCoding.whyNot!('av1', { ...texts, film: 'mkv' })).toMatch(/no encoder for AV1/);
  expect(specs.pictureCoding.instead!('av1', texts)).toBe('avc');
  expect(specs.range.whyNot('marked')).toMatch(/^Mark in or out/);
});
