import type { Marker } from '@hastig/contract';
import ArrowRight from 'lucide-react-native/icons/arrow-right';
import Trash from 'lucide-react-native/icons/trash';
import { Pressable, View } from 'react-native';
import { IconButton } from './button';
import { MarkerSign } from './marker-sign';
import { NameField } from './name-field';
import { TapNumber } from './tap-number';

interface MarkerRowProps {
  marker: Marker;
  /** Where it stands, as it is read; and how that is called to tell it from others. */
  moment: string;
  onTone(): void;
  /** Takes what was typed; gives back what is wrong with it, or nothing. */
  onEnter(text: string): string | undefined;
  onStep(by: 1 | -1): void;
  onName(name: string): void;
  onGo(): void;
  onRemove(): void;
}

/** A line about a marker: its colour, its moment, its name, the way there, and its end. */
export function MarkerRow({ marker, moment, onTone, onEnter, onStep, onName, onGo, onRemove }: MarkerRowProps) {
  return (
    <View className="flex-row items-center gap-1 rounded-lg border border-line bg-ink px-1">
      <Pressable
        role="button"
        accessibilityLabel={`Colour: ${marker.tone}. Change colour`}
        onPress={onTone}
        className="h-11 w-9 items-center justify-center rounded-lg hover:bg-line"
      >
        <MarkerSign tone={marker.tone} />
      </Pressable>
      <View className="w-[98px] flex-none">
        <TapNumber compact label="At" text={moment} onEnter={onEnter} onStep={onStep} />
      </View>
      <NameField label={`Name of marker at ${moment}`} bare="name" name={marker.name} onName={onName} />
      <IconButton narrow label={`Go to marker at ${moment}`} icon={ArrowRight} onPress={onGo} />
      <IconButton narrow label={`Remove marker at ${moment}`} icon={Trash} onPress={onRemove} />
    </View>
  );
}
