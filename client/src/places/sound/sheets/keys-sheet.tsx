import type { KeyedSound, SoundSettings } from '@hastig/contract';
import { findClip, momentAt, plainSound, setSound, soundKeys, trimDecimals } from '@hastig/core';
import { useEffect, useMemo, useState } from 'react';
import { Text } from 'react-native';
import { FormFields } from '../../../form/form-fields';
import { ProjectSheet } from '../../../form/project-sheet';
import { readForm } from '../../../form/read';
import { numberField, type Texts } from '../../../form/specs';
import { useEntries } from '../../../form/use-entries';
import { SettingKeys } from '../../../keys/setting-keys';
import { decibelWords, shiftWords } from '../../../sound/pitch-words';
import { useStage } from '../../../stage/stage-context';
import { useAppSelector } from '../../../store/hooks';
import type { SoundSheetProps } from '../commands/context';

/** What may change over time. */
const groups: readonly { value: KeyedSound; label: string; names: readonly KeyedSound[] }[] = [
  { value: 'gain', label: 'Gain', names: ['gain'] },
  { value: 'pan', label: 'Pan', names: ['pan'] },
  { value: 'cents', label: 'Pitch shift', names: ['cents'] },
];

const textsOf = ({ gain, pan, cents }: SoundSettings): Texts => ({
  gain: trimDecimals(gain, 2),
  pan: trimDecimals(100 * pan, 1),
  cents: trimDecimals(cents, 1),
});

const wordsOf: Record<KeyedSound, (settings: SoundSettings) => string> = {
  gain: ({ gain }) => `${decibelWords(gain)} dB`,
  pan: ({ pan }) => (pan === 0 ? 'centre' : `${Math.round(100 * Math.abs(pan))}% ${pan < 0 ? 'left' : 'right'}`),
  cents: ({ cents }) => shiftWords(cents),
};

/** Gain, pan and pitch shift of a clip that change over time: their keys, and what they are at the playhead. */
export function KeysSheet({ clipId, map, onClose }: SoundSheetProps) {
  const project = useAppSelector((state) => state.project.document)!;
  const clip = findClip(project, clipId)!;
  const { seek } = useStage();
  const playhead = useAppSelector((state) => state.session.playhead);
  const last = clip.shown.from + clip.shown.frames - 1;
  const at = Math.min(last, Math.max(clip.shown.from, playhead));
  const moment = useMemo(() => momentAt(map, at), [map, at]);
  const [all, setAll] = useState<SoundSettings>(clip.sound ?? plainSound);
  const now = useMemo(() => soundKeys.now(all, moment), [all, moment]);
  const keyed = groups.filter(({ value }) => all.keys?.[value]).map(({ value }) => value);
  const { specs, texts, values, faults, set } = useEntries(() => {
    const initial = textsOf(now) as Record<KeyedSound, string>;
    return {
      gain: numberField('Gain (dB)', initial.gain, -96, 24),
      pan: numberField('Pan', initial.pan, -100, 100, '−100 left, 100 right'),
      cents: numberField('Pitch shift (cents)', initial.cents, -4800, 4800),
    };
  });
  const valid = values !== undefined;
  const edit = useMemo(
    () => (valid ? (before: typeof project) => setSound(before, [clipId], () => all) : undefined),
    [valid, all, clipId],
  );
  // What has keys is shown as it is at the playhead.
  useEffect(() => set(textsOf(now)), [at]);

  const takeKeys = (next: SoundSettings): void => {
    setAll(next);
    set(textsOf(soundKeys.now(next, moment)));
  };
  const onChange = (name: string, text: string): void => {
    const { values: typed } = readForm(specs, { ...texts, [name]: text });
    set({ [name]: text });
    if (!typed) return;
    const value = name === 'pan' ? typed.pan / 100 : typed[name as KeyedSound];
    setAll((before) => soundKeys.atMoment(before, { [name]: value }, moment));
  };
  const shown = Object.fromEntries(keyed.map((name) => [name, specs[name]]));
  return (
    <ProjectSheet
      title="Keys"
      label="change sound keys"
      edit={edit}
      onClose={onClose}
      outcome={() => (keyed.length > 0 ? `Here: ${keyed.map((name) => wordsOf[name](now)).join(', ')}` : 'No keys')}
    >
      {keyed.length > 0 ? <FormFields specs={shown} {...{ texts, faults, onChange }} /> : null}
      <SettingKeys
        tools={soundKeys}
        {...{ groups, map, at }}
        settings={all}
        outside={at !== playhead}
        onChange={takeKeys}
        onGo={seek}
      />
      {keyed.length > 0 ? null : (
        <Text className="font-sans text-[13px] text-quiet">
          Choose what to animate. Each value you then set adds a key at the playhead.
        </Text>
      )}
    </ProjectSheet>
  );
}
