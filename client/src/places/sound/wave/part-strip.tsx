import type { PitchSettings, SoundSettings } from '@hastig/contract';
import { plainSound } from '@hastig/core';
import { Pressable, Text } from 'react-native';
import { pitchWords, shortPitchWords } from '../../../sound/pitch-words';
import { frameToX, type TimeView } from '../../../time-view/use-time-view';

const HEIGHT = 44;
/** Pixels below which words are not drawn. */
const ROOM = 40;

interface Stretch extends PitchSettings {
  from: number;
  to: number;
  /** Whether it is decided apart from the clip. */
  apart: boolean;
}

/** A clip's output in stretches, each with what is decided about its pitch. */
function stretchesOf(settings: SoundSettings = plainSound, length: number): Stretch[] {
  const { pitch, cents, formants, focus } = settings;
  const found: Stretch[] = [];
  let at = 0;
  const own = (to: number): void => {
    if (to > at) found.push({ from: at, to, pitch, cents, formants, focus, apart: false });
  };
  for (const part of settings.parts ?? []) {
    if (part.from >= length) break;
    own(part.from);
    at = Math.min(length, part.to);
    found.push({ ...part, to: at, apart: true });
  }
  own(length);
  return found;
}

interface PartStripProps {
  settings: SoundSettings | undefined;
  length: number;
  view: TimeView;
  onChoose(from: number, to: number): void;
}

/** What is decided about the pitch, stretch by stretch, under the waveform; one is chosen by a tap. */
export function PartStrip({ settings, length, view, onChoose }: PartStripProps) {
  return (
    <div
      role="group"
      aria-label="Pitch of parts"
      style={{ position: 'relative', height: HEIGHT, flex: 'none', overflow: 'hidden' }}
    >
      {stretchesOf(settings, length).map((stretch) => {
        const { from, to, pitch, apart } = stretch;
        const [x, end] = [Math.max(0, frameToX(view, from)), Math.min(view.width, frameToX(view, to))];
        if (end <= x) return null;
        const words = pitchWords(stretch);
        const kept = pitch === 'kept';
        return (
          <Pressable
            key={from}
            role="button"
            accessibilityLabel={`${words}, frames ${Math.round(from)} to ${Math.round(to)}`}
            onPress={() => onChoose(from, to)}
            className={`justify-center rounded-lg border px-1.5 hover:bg-line ${kept ? 'border-slow' : 'border-quiet'} ${apart ? (kept ? 'bg-slow/20' : 'bg-quiet/20') : ''}`}
            style={{ position: 'absolute', left: x + 1, width: Math.max(2, end - x - 2), top: 2, bottom: 2 }}
          >
            {end - x > ROOM ? (
              <Text numberOfLines={1} className="text-center font-sans text-[13px] text-bone">
                {shortPitchWords(stretch)}
              </Text>
            ) : null}
          </Pressable>
        );
      })}
    </div>
  );
}
