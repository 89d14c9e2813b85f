import { ClickRun } from '@hastig/engine';
import { useEffect, useRef, useState } from 'react';
import { Text, View } from 'react-native';
import { keepTapDelay, measuredDelay, tapDelay } from '../../../beats/tap-delay';
import { FormFields } from '../../../form/form-fields';
import { percentField } from '../../../form/specs';
import { useEntries } from '../../../form/use-entries';
import { useAppDispatch, useSession } from '../../../store/hooks';
import { clickLoudnessSet, clicksToggled } from '../../../store/session-slice';
import { Button } from '../../../ui/button';
import { Choice } from '../../../ui/choice';
import { SheetFrame } from '../../../ui/sheet-frame';
import { TapTarget } from '../tap-target';

/** Clicks that are tapped along with. */
const CLICKS = 8;

/** The click on markers: on or off, how loud; and the delay of taps, measured once for this device. */
export function ClickSheet({ onClose }: { onClose(): void }) {
  const dispatch = useAppDispatch();
  const { clicks, clickLoudness } = useSession('clicks', 'clickLoudness');
  const { specs, texts, values, faults, set } = useEntries(() => ({
    loudness: percentField('Click loudness', `${Math.round(clickLoudness * 100)}%`, 0, 1),
  }));
  const loudness = values?.loudness;
  useEffect(() => {
    if (loudness !== undefined) dispatch(clickLoudnessSet(loudness));
  }, [dispatch, loudness]);
  return (
    <SheetFrame title="Click" onClose={onClose}>
      <Choice
        label="Click on each marker of the set"
        value={clicks ? 'on' : 'off'}
        onChange={(value) => {
          if ((value === 'on') !== clicks) dispatch(clicksToggled());
        }}
        options={[
          { value: 'on', label: 'On' },
          { value: 'off', label: 'Off' },
        ]}
      />
      <FormFields specs={specs} texts={texts} faults={faults} onChange={(name, text) => set({ [name]: text })} />
      <Text className="font-sans text-[12px] text-quiet">Downbeats are higher.</Text>
      <TapDelay />
    </SheetFrame>
  );
}

function TapDelay() {
  const [delay, setDelay] = useState(tapDelay);
  const [running, setRunning] = useState(false);
  const [fault, setFault] = useState<string>();
  const run = useRef<ClickRun | null>(null);
  const taps = useRef<number[]>([]);
  useEffect(() => () => void run.current?.stop(), []);

  const measure = async (): Promise<void> => {
    const clicks = new ClickRun(CLICKS);
    run.current = clicks;
    taps.current = [];
    setFault(undefined);
    setRunning(true);
    try {
      await clicks.start();
      const found = measuredDelay(taps.current, clicks.heard());
      if (found === undefined) setFault('Too few taps were near a click. Try again and tap on each.');
      else {
        keepTapDelay(found);
        setDelay(found);
      }
    } finally {
      setRunning(false);
      await clicks.stop();
    }
  };
  const reset = (): void => {
    keepTapDelay(0);
    setDelay(0);
  };
  return (
    <View className="gap-2">
      <Text role="status" className={`font-sans text-[13px] ${fault ? 'text-wrong' : 'text-quiet'}`}>
        {fault ?? (delay === 0 ? 'Tap delay not measured.' : `Tap delay ${delay} ms, compensated.`)}
      </Text>
      {running ? (
        <TapTarget name="Tap with the click" words="Tap with each click" onTap={(wall) => taps.current.push(wall)} />
      ) : (
        <View className="flex-row gap-2">
          <Button label="Measure tap delay" onPress={() => void measure()} />
          {delay === 0 ? null : <Button label="Reset" kind="quiet" onPress={reset} />}
        </View>
      )}
    </View>
  );
}
