import type { ProjectDocument } from '@hastig/contract';
import { programOf, SEQUENCE, setMaster, type Loudness } from '@hastig/core';
import { startLoudness, type Running } from '@hastig/engine';
import { useEffect, useRef, useState } from 'react';
import { Text, View } from 'react-native';
import { decibelWords } from '../../../sound/pitch-words';
import { rearrange } from '../../../store/edit';
import { useAppDispatch, useAppSelector } from '../../../store/hooks';
import { sourceLocations } from '../../../store/selectors';
import { Button } from '../../../ui/button';
import { Choice } from '../../../ui/choice';
import { Progress } from '../../../ui/progress';

const targets = ['-14', '-16', '-23'] as const;
type Target = (typeof targets)[number];

/** LU by which a film may be off: EBU R 128 allows so much. */
const TOLERANCE = 0.5;
/** What peaks are limited to where that is the remedy, in dBTP: EBU R 128. */
const LIMIT = -1;

/** Decibels that the mix is changed by at most. */
const MOST_GAIN = 24;

interface Heard {
  of: ProjectDocument;
  loudness: Loudness | null;
}

/** Whether the film's sound is over full scale, or off a loudness; measured when one asks. */
export function SoundCheck({ project }: { project: ProjectDocument }) {
  const dispatch = useAppDispatch();
  const sources = useAppSelector(sourceLocations);
  const [target, setTarget] = useState<Target>('-14');
  const [share, setShare] = useState<number | null>(null);
  const [heard, setHeard] = useState<Heard | null>(null);
  const [fault, setFault] = useState<string | null>(null);
  const running = useRef<Running<Loudness | null> | null>(null);
  const stop = (): void => {
    running.current?.cancel();
    running.current = null;
    setShare(null);
  };
  useEffect(() => () => running.current?.cancel(), []);
  const measure = (): void => {
    setFault(null);
    setShare(0);
    const mine = startLoudness(
      programOf(project, SEQUENCE),
      sources,
      (now) => running.current === mine && setShare(now),
    );
    running.current = mine;
    mine.result.then(
      (loudness) => running.current === mine && (setHeard({ of: project, loudness }), setShare(null)),
      (error: Error) => running.current === mine && (setFault(error.message), setShare(null)),
    );
  };
  // What was measured of another film is not told of this one.
  const now = heard?.of === project ? heard.loudness : undefined;
  const { gain = 0, limit } = project.sequence.master ?? {};
  const off = now ? now.integrated - Number(target) : 0;
  const set = (words: string, master: { gain: number; limit?: number }): void =>
    void dispatch(rearrange(words, (state) => setMaster(state, master)));
  return (
    <View className="gap-2">
      <Choice<Target>
        label="Loudness target"
        value={target}
        onChange={setTarget}
        options={targets.map((value) => ({ value, label: `${value.replace('-', '−')} LUFS` }))}
      />
      {share === null ? (
        <View className="flex-row">
          <Button label="Check sound" onPress={measure} />
        </View>
      ) : (
        <>
          <Progress label="Checking sound" value={share} />
          <View className="flex-row">
            <Button label="Cancel sound check" onPress={stop} />
          </View>
        </>
      )}
      {fault ? (
        <Text role="alert" className="font-sans text-[14px] text-wrong">
          {`The sound can’t be checked: ${fault}`}
        </Text>
      ) : null}
      {now === null ? <Text className="font-sans text-[14px] text-quiet">There is no sound.</Text> : null}
      {now ? (
        <Text role="status" className="font-sans text-[14px] text-bone">
          {`${decibelWords(now.integrated)} LUFS, true peak ${decibelWords(now.truePeak)} dBTP.`}
        </Text>
      ) : null}
      {now && now.truePeak > 0 ? (
        <View className="gap-2 rounded-lg border border-line bg-ink p-3">
          <Text className="font-sans text-[14px] text-bone">The sound is over full scale.</Text>
          <View className="flex-row">
            <Button
              label={`Limit peaks to ${String(LIMIT).replace('-', '−')} dBTP`}
              onPress={() => set('limit peaks', { gain, limit: LIMIT })}
            />
          </View>
        </View>
      ) : null}
      {now && Number.isFinite(now.integrated) && Math.abs(off) > TOLERANCE ? (
        <View className="gap-2 rounded-lg border border-line bg-ink p-3">
          <Text className="font-sans text-[14px] text-bone">
            {`${Math.abs(off).toFixed(1)} LU ${off < 0 ? 'below' : 'above'} the target.`}
          </Text>
          <View className="flex-row">
            <Button
              label={`Set the mix to ${target.replace('-', '−')} LUFS`}
              onPress={() =>
                set('set the loudness', {
                  gain: Math.min(MOST_GAIN, Math.max(-MOST_GAIN, gain - off)),
                  limit: limit ?? LIMIT,
                })
              }
            />
          </View>
        </View>
      ) : null}
    </View>
  );
}
