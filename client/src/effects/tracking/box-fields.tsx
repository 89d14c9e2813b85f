import type { ReactNode } from 'react';
import { Text, View } from 'react-native';
import { Button } from '../../ui/button';
import { Choice } from '../../ui/choice';
import type { BoxTracking } from './use-box-tracking';
import { WaitingRow } from './waiting-row';

interface BoxFieldsProps {
  tracking: BoxTracking;
  /** What is to be done with the box. */
  hint: string;
  /** Buttons beside the one that tracks. */
  children?: ReactNode;
}

/** How a box is followed, and the way to begin; while it goes on, how far it is. */
export function BoxFields({ tracking, hint, children }: BoxFieldsProps) {
  const { way, setWay, placing, tooLong, begin, progress } = tracking;
  return (
    <>
      <Text className="font-sans text-[13px] text-quiet">{tooLong ?? hint}</Text>
      {placing && !tooLong ? (
        <>
          <Choice<'kept' | 'renewed'>
            label="Look"
            value={way.renewed ? 'renewed' : 'kept'}
            onChange={(look) => setWay({ ...way, renewed: look === 'renewed' })}
            options={[
              { value: 'kept', label: 'As in this frame' },
              { value: 'renewed', label: 'Renewed as it changes' },
            ]}
          />
          <Choice<'colour' | 'grey'>
            label="Track by"
            value={way.grey ? 'grey' : 'colour'}
            onChange={(by) => setWay({ ...way, grey: by === 'grey' })}
            options={[
              { value: 'colour', label: 'Colour' },
              { value: 'grey', label: 'Brightness' },
            ]}
          />
        </>
      ) : null}
      {progress === null ? (
        <View className="flex-row flex-wrap gap-2">
          {placing && !tooLong ? <Button label="Track" kind="primary" onPress={begin} /> : null}
          {children}
        </View>
      ) : null}
      <WaitingRow waiting={tracking} label="Tracking" cancel="Cancel tracking" />
    </>
  );
}
