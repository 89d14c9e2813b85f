import type { Clip, Fade, RetimeMap, SoundSettings } from '@hastig/contract';
import { formatTime, plainSound, setSound } from '@hastig/core';
import { Text, View } from 'react-native';
import { numberField } from '../../form/specs';
import { decibelWords, pitchWords } from '../../sound/pitch-words';
import { SidePanel } from '../../project/side-panel';
import { rearrange } from '../../store/edit';
import { useAppDispatch, useSession } from '../../store/hooks';
import { TapNumber } from '../../ui/tap-number';

interface SoundSideProps {
  clip: Clip;
  map: RetimeMap;
  hidden: boolean;
}

interface Range {
  least: number;
  most: number;
}

/** Decibels of a gain, and a pan from the left to the right, as their sheet takes them. */
const GAIN: Range = { least: -96, most: 24 };
const PAN: Range = { least: -100, most: 100 };

const within = (value: number, { least, most }: Range): number => Math.min(most, Math.max(least, value));

/** A clip's levels, fades and pitch beside the picture; level and pan are typed or stepped there. */
export function SoundSide({ clip, map, hidden }: SoundSideProps) {
  const dispatch = useAppDispatch();
  const { unit } = useSession('unit');
  const sound = clip.sound ?? plainSound;
  const change = (label: string, how: (settings: SoundSettings) => SoundSettings): void =>
    void dispatch(rearrange(label, (project) => setSound(project, [clip.id], how)));
  const typed = (text: string, { least, most }: Range, set: (value: number) => void): string | undefined => {
    const parsed = numberField('', text, least, most).parse(text);
    if (!parsed.ok) return parsed.reason;
    set(parsed.value);
    return undefined;
  };
  const setGain = (gain: number): void => change('change level', (settings) => ({ ...settings, gain }));
  const setPan = (pan: number): void => change('change pan', (settings) => ({ ...settings, pan: pan / 100 }));
  const pan = Math.round(sound.pan * 100);
  const fade = (length: Fade | undefined): string =>
    length ? formatTime(length.frames, map.outputRate, unit) : 'none';
  const rows = [
    ['Pitch', pitchWords(sound)],
    ['Fade in', fade(sound.fadeIn)],
    ['Fade out', fade(sound.fadeOut)],
    ['Crossfade', fade(sound.cross)],
  ] as const;
  return (
    <SidePanel title={`Levels of ${clip.name}`} hidden={hidden}>
      <View className="flex-row">
        {sound.keys?.gain ? null : (
          <TapNumber
            label="Gain (dB)"
            text={decibelWords(sound.gain)}
            onEnter={(text) => typed(text, GAIN, setGain)}
            onStep={(by) => setGain(within(sound.gain + by, GAIN))}
          />
        )}
        {sound.keys?.pan ? null : (
          <TapNumber
            label="Pan"
            text={String(pan)}
            onEnter={(text) => typed(text, PAN, setPan)}
            onStep={(by) => setPan(within(pan + by, PAN))}
          />
        )}
      </View>
      {sound.keys ? <Text className="font-sans text-[13px] text-quiet">What has keys is edited in Keys.</Text> : null}
      {clip.muted ? <Text className="font-sans text-[13px] text-wrong">This clip is muted.</Text> : null}
      <View role="list" aria-label="Sound settings" className="gap-1">
        {rows.map(([name, value]) => (
          <View key={name} role="listitem" className="flex-row gap-3">
            <Text className="w-[104px] font-sans text-[14px] text-quiet">{name}</Text>
            <Text className="flex-1 font-sans text-[14px] text-bone">{value}</Text>
          </View>
        ))}
      </View>
    </SidePanel>
  );
}
