import type { OutputForm, Preset, ProjectDocument } from '@hastig/contract';
import { hasPicture } from './formats';

/** Forms that are there from the beginning, by what a file is for. Sizes are of the platform they are posted on: common practice. */
export const builtInPresets: readonly Preset[] = [
  { id: 'post-upright', name: 'Post upright', form: { format: 'mp4', width: 1080, height: 1920, fit: 'fill', quality: 'high', loudness: -14 } }, // prettier-ignore
  { id: 'post-wide', name: 'Post wide', form: { format: 'mp4', width: 1920, height: 1080, fit: 'fit', quality: 'high', loudness: -14 } }, // prettier-ignore
  { id: 'screen', name: 'Screen', form: { format: 'mp4', quality: 'very-high', soundBitRate: 320 } },
  { id: 'archive', name: 'Archive', form: { format: 'mkv', quality: 'very-high', keyEvery: 1, soundCoding: 'flac' } },
  { id: 'edit-further', name: 'Edit further', form: { format: 'mov', quality: 'very-high', keyEvery: 0.25, soundCoding: 'pcm-s24' } }, // prettier-ignore
  { id: 'sound-only', name: 'Sound only', form: { format: 'wav' } },
];

/** All presets of a project: those that are always there, then its own. */
export const presetsOf = ({ presets = [] }: Pick<ProjectDocument, 'presets'>): readonly Preset[] => [
  ...builtInPresets,
  ...presets,
];

/** The project with a form saved under a name; in the place of its own one of that name. */
export function savePreset(project: ProjectDocument, name: string, form: OutputForm, id: string): ProjectDocument {
  const own = project.presets ?? [];
  const before = own.find((preset) => preset.name === name);
  const preset = { id: before?.id ?? id, name, form };
  return { ...project, presets: before ? own.map((one) => (one === before ? preset : one)) : [...own, preset] };
}

/** The project without one of its own presets. */
export function removePreset(project: ProjectDocument, id: string): ProjectDocument {
  const { presets = [], ...rest } = project;
  const left = presets.filter((preset) => preset.id !== id);
  return left.length > 0 ? { ...rest, presets: left } : rest;
}

/** Why a preset can't be taken for what is to become a file, in words; undefined where it can. */
export function presetFault(
  { format }: OutputForm,
  { seen, audible }: { seen: boolean; audible: boolean },
): string | undefined {
  if (hasPicture(format)) return seen ? undefined : 'There is no picture.';
  return audible ? undefined : 'There is no sound.';
}
