import type { ExposureStep } from '@hastig/contract';
import ChevronDown from 'lucide-react-native/icons/chevron-down';
import ChevronUp from 'lucide-react-native/icons/chevron-up';
import Eye from 'lucide-react-native/icons/eye';
import EyeOff from 'lucide-react-native/icons/eye-off';
import Trash from 'lucide-react-native/icons/trash';
import { Pressable, Text, View } from 'react-native';
import { conditionWords, stepWords } from '../../exposure/exposure-words';
import { IconButton } from '../../ui/button';

interface StepRowProps {
  step: ExposureStep;
  /** Where it holds, in words. */
  where: string;
  first: boolean;
  last: boolean;
  onOpen(): void;
  onSwitch(): void;
  onMove(by: 1 | -1): void;
  onRemove(): void;
}

/** A line about one exposure: what it does and where, its switch, its place in the order, and its end. */
export function StepRow({ step, where, first, last, onOpen, onSwitch, onMove, onRemove }: StepRowProps) {
  const words = stepWords(step);
  const told = [where, conditionWords(step)].filter(Boolean).join(' · ');
  return (
    <View className="flex-row items-center rounded-lg border border-line bg-raised px-1">
      <IconButton
        narrow
        label={step.off ? `Switch on: ${words}` : `Switch off: ${words}`}
        icon={step.off ? EyeOff : Eye}
        pressed={!step.off}
        onPress={onSwitch}
      />
      <Pressable
        role="button"
        accessibilityLabel={`${words}, ${told}. Edit`}
        onPress={onOpen}
        className={`min-h-[52px] min-w-0 flex-1 justify-center rounded-lg px-1.5 hover:bg-line ${step.off ? 'opacity-50' : ''}`}
      >
        <Text numberOfLines={1} className="font-medium text-[15px] text-bone">
          {words}
        </Text>
        <Text numberOfLines={1} className="font-sans text-[13px] text-quiet">
          {told}
        </Text>
      </Pressable>
      {first && last ? null : (
        <>
          <IconButton narrow label={`Move up: ${words}`} icon={ChevronUp} disabled={first} onPress={() => onMove(-1)} />
          <IconButton
            narrow
            label={`Move down: ${words}`}
            icon={ChevronDown}
            disabled={last}
            onPress={() => onMove(1)}
          />
        </>
      )}
      <IconButton narrow label={`Remove: ${words}`} icon={Trash} onPress={onRemove} />
    </View>
  );
}
