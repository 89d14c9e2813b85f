import { useState } from 'react';
import { Text, View } from 'react-native';
import { useStage } from '../../stage/stage-context';
import { useAppDispatch, useSession } from '../../store/hooks';
import { snapTapsSet } from '../../store/session-slice';
import { Button } from '../../ui/button';
import { Choice } from '../../ui/choice';

interface TapPadProps {
  /** A tap at a wall time (ms since 1970). */
  onTap(wall: number): void;
  onDone(): void;
}

const speeds = [
  { value: '1', label: '100%' },
  { value: '0.75', label: '75%' },
  { value: '0.5', label: '50%' },
] as const;

/** A large pad to tap along with, while the music plays as slowly as one likes. */
export function TapPad({ onTap, onDone }: TapPadProps) {
  const dispatch = useAppDispatch();
  const { playing, snapTaps } = useSession('playing', 'snapTaps');
  const { play, pause } = useStage();
  const [speed, setSpeed] = useState<(typeof speeds)[number]['value']>('1');
  const choose = (value: typeof speed): void => {
    setSpeed(value);
    if (playing) play(Number(value));
  };
  return (
    <View role="group" aria-label="Tap along" className="gap-2 border-t border-line bg-raised p-2">
      <div
        role="button"
        tabIndex={0}
        aria-label="Tap"
        onPointerDown={(event) => {
          event.preventDefault();
          onTap(performance.timeOrigin + event.timeStamp);
        }}
        onKeyDown={(event) => {
          if (event.repeat || (event.key !== 'Enter' && event.key !== ' ')) return;
          event.preventDefault();
          event.stopPropagation();
          onTap(performance.timeOrigin + event.timeStamp);
        }}
        className="tap-pad"
        style={{
          height: 96,
          display: 'flex',
          alignItems: 'center',
          justifyContent: 'center',
          borderRadius: 14,
          border: '1px solid rgb(var(--line))',
          background: 'rgb(var(--ink))',
          touchAction: 'none',
          userSelect: 'none',
          cursor: 'pointer',
        }}
      >
        <Text className="font-medium text-[18px] text-bone">{playing ? 'Tap on the beat' : 'Play, then tap here'}</Text>
      </div>
      <View className="flex-row flex-wrap items-end gap-2">
        <View className="min-w-[150px] flex-1">
          <Choice label="Playback speed" value={speed} options={speeds} onChange={choose} />
        </View>
        <View className="min-w-[130px] flex-1">
          <Choice
            label="Taps"
            value={snapTaps ? 'snap' : 'free'}
            onChange={(value) => dispatch(snapTapsSet(value === 'snap'))}
            options={[
              { value: 'snap', label: 'Snap to hits' },
              { value: 'free', label: 'As tapped' },
            ]}
          />
        </View>
      </View>
      <View className="flex-row gap-2">
        <Button
          label={playing ? 'Pause music' : 'Play music'}
          kind="primary"
          onPress={() => (playing ? void pause() : play(Number(speed)))}
        />
        <Button label="Done" onPress={onDone} />
      </View>
    </View>
  );
}
