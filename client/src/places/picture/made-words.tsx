import type { SlowWay } from '@hastig/contract';
import type { MadePicture } from '@hastig/engine';
import { formatPercent } from '@hastig/core';
import { Text, View } from 'react-native';
import { useAppSelector } from '../../store/hooks';
import { Button } from '../../ui/button';

/** Share of a picture that could not be followed from which it is worth a word. */
const DOUBTFUL = 0.08;

/** What the picture at the playhead took; undefined where it is a frame as it is. */
export function useMadeHere(): MadePicture | undefined {
  const made = useAppSelector((state) => state.stage.made);
  const playhead = useAppSelector((state) => state.session.playhead);
  const playing = useAppSelector((state) => state.session.playing);
  return made && made.frame === playhead && !playing ? made : undefined;
}

interface MadeWordsProps {
  made: MadePicture | undefined;
  /** Has slow parts show something else. */
  onSlow(way: SlowWay): void;
  /** Goes to where the speed is set. */
  onPace(): void;
}

/** What making the picture at the playhead takes; and where what moves could not be followed, what helps. */
export function MadeWords({ made, onSlow, onPace }: MadeWordsProps) {
  if (!made) return null;
  const doubt = made.doubt !== null && made.doubt > DOUBTFUL ? made.doubt : undefined;
  return (
    <View className="gap-1.5">
      <Text role="status" className="font-sans text-[13px] text-quiet">
        {`This picture took ${Math.max(1, Math.round(made.milliseconds))} ms on this device.`}
      </Text>
      {doubt === undefined ? null : (
        <View role="alert" className="gap-1.5 rounded-lg border border-wrong p-2">
          <Text className="font-sans text-[13px] text-bone">
            {`${formatPercent(doubt)} of this picture can’t be followed from frame to frame and is blended. Hold or blend slow parts, or play them faster.`}
          </Text>
          <View className="flex-row flex-wrap gap-2">
            <Button label="Hold" onPress={() => onSlow('held')} />
            <Button label="Blend" onPress={() => onSlow('blended')} />
            <Button label="Change speed" onPress={onPace} />
          </View>
        </View>
      )}
    </View>
  );
}
