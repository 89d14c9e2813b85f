import type { Rate } from '@hastig/contract';
import { formatRate, rateKey, rateToNumber, standardRates, trimDecimals } from '@hastig/core';
import { gapsIn } from '@hastig/engine';
import { useState } from 'react';
import { Text, View } from 'react-native';
import { gapsInWords } from '../../project/still-words';
import { importFiles, importStills, runName, type StillsRun } from '../../store/import-files';
import { useAppDispatch } from '../../store/hooks';
import { Button } from '../../ui/button';
import { Choice } from '../../ui/choice';

interface StillsOfferProps {
  run: StillsRun;
  /** The project's rate: what is offered first. */
  rate: Rate;
  onDone(): void;
}

/** Numbered stills that were chosen together: one source at a rate, or each for itself. */
export function StillsOffer({ run, rate, onDone }: StillsOfferProps) {
  const dispatch = useAppDispatch();
  const rates = standardRates.some((one) => rateKey(one) === rateKey(rate)) ? standardRates : [rate, ...standardRates];
  const [chosen, setChosen] = useState(rateKey(rate));
  const at = rates.find((one) => rateKey(one) === chosen) ?? rate;
  const gaps = gapsIn(run.items.map(({ number }) => number));
  const pictures = run.items.length;
  const missing = gaps.reduce((sum, { count }) => sum + count, 0);
  const asOne = (): void => {
    void dispatch(importStills(run, at));
    onDone();
  };
  const single = (): void => {
    void dispatch(importFiles(run.items.map(({ item }) => item)));
    onDone();
  };
  return (
    <View
      role="group"
      aria-label={`Image sequence ${runName(run)}`}
      className="gap-3 rounded-xl border border-line bg-raised p-3"
    >
      <View className="gap-1">
        <Text className="font-medium text-[16px] text-bone">{`Image sequence, ${pictures} stills: ${runName(run)}`}</Text>
        <Text role="status" className={`font-sans text-[13px] ${missing > 0 ? 'text-wrong' : 'text-quiet'}`}>
          {missing > 0
            ? `${missing} ${missing === 1 ? 'number is' : 'numbers are'} missing: ${gapsInWords(gaps)}. The sequence skips them.`
            : 'No numbers are missing.'}
        </Text>
      </View>
      <Choice
        label="Frame rate"
        value={chosen}
        onChange={setChosen}
        options={rates.map((one) => ({ value: rateKey(one), label: formatRate(one) }))}
      />
      <Text className="font-sans text-[13px] text-quiet">
        {`Makes one clip of ${trimDecimals(pictures / rateToNumber(at), 2)} s. You can change the rate later.`}
      </Text>
      <View className="flex-row flex-wrap gap-2">
        <Button label="Import as one clip" kind="primary" onPress={asOne} />
        <Button label="Import as separate stills" onPress={single} />
        <Button label="Cancel" kind="quiet" onPress={onDone} />
      </View>
    </View>
  );
}
