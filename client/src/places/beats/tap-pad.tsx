import Magnet from 'lucide-react-native/icons/magnet';
import Pause from 'lucide-react-native/icons/pause';
import Play from 'lucide-react-native/icons/play';
import { useState } from 'react';
import { View } from 'react-native';
import { useStage } from '../../stage/stage-context';
import { useAppDispatch, useSession } from '../../store/hooks';
import { snapTapsSet } from '../../store/session-slice';
import { Button, IconButton } from '../../ui/button';
import { TapTarget } from './tap-target';

interface TapPadProps {
  /** A tap at a wall time (ms since 1970). */
  onTap(wall: number): void;
  onDone(): void;
}

/** Speeds that music is tapped along with at. */
const SPEEDS = [1, 0.75, 0.5] as const;

/** A large pad to tap along with, while the music plays as slowly as one likes. */
export function TapPad({ onTap, onDone }: TapPadProps) {
  const dispatch = useAppDispatch();
  const { playing, snapTaps } = useSession('playing', 'snapTaps');
  const { play, pause } = useStage();
  const [speed, setSpeed] = useState<number>(1);
  const percent = `${speed * 100}%`;
  const slower = (): void => {
    const next = SPEEDS[(SPEEDS.findIndex((one) => one === speed) + 1) % SPEEDS.length]!;
    setSpeed(next);
    if (playing) play(next);
  };
  return (
    <View role="group" aria-label="Tap along" className="gap-2 border-t border-line bg-raised p-2">
      <TapTarget name="Tap" words={playing ? 'Tap on the beat' : 'Play, then tap here'} onTap={onTap} />
      <View className="flex-row items-center gap-2">
        <IconButton
          label={playing ? 'Pause music' : 'Play music'}
          icon={playing ? Pause : Play}
          onPress={() => (playing ? void pause() : play(speed))}
        />
        <Button label={`Speed ${percent}`} kind="quiet" onPress={slower} />
        <IconButton
          label="Snap taps to hits"
          icon={Magnet}
          pressed={snapTaps}
          onPress={() => dispatch(snapTapsSet(!snapTaps))}
        />
        <View className="flex-1" />
        <Button label="Done" onPress={onDone} />
      </View>
    </View>
  );
}
