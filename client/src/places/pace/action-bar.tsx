import type { LucideIcon } from 'lucide-react-native';
import ArrowLeftRight from 'lucide-react-native/icons/arrow-left-right';
import Diamond from 'lucide-react-native/icons/diamond';
import Gauge from 'lucide-react-native/icons/gauge';
import Pencil from 'lucide-react-native/icons/pencil';
import Scissors from 'lucide-react-native/icons/scissors';
import Snowflake from 'lucide-react-native/icons/snowflake';
import Spline from 'lucide-react-native/icons/spline';
import Trash from 'lucide-react-native/icons/trash';
import Undo2 from 'lucide-react-native/icons/undo-2';
import { Pressable, Text, View } from 'react-native';
import { Icon } from '../../ui/icon';

/** What the bar starts: an edit at once, or a sheet for its numbers. */
export type PaceAction = 'key' | 'remove-key' | 'speed' | 'ramp' | 'freeze' | 'reverse' | 'fit' | 'trim' | 'draw';

const actions: readonly { action: PaceAction; label: string; icon: LucideIcon }[] = [
  { action: 'key', label: 'Key', icon: Diamond },
  { action: 'speed', label: 'Speed', icon: Gauge },
  { action: 'ramp', label: 'Ramp', icon: Spline },
  { action: 'freeze', label: 'Freeze', icon: Snowflake },
  { action: 'reverse', label: 'Reverse', icon: Undo2 },
  { action: 'fit', label: 'Fit', icon: ArrowLeftRight },
  { action: 'trim', label: 'Trim', icon: Scissors },
  { action: 'draw', label: 'Draw', icon: Pencil },
  { action: 'remove-key', label: 'Remove key', icon: Trash },
];

export interface ActionBarProps {
  active: PaceAction | null;
  canRemoveKey: boolean;
  onAction(action: PaceAction): void;
}

export function ActionBar({ active, canRemoveKey, onAction }: ActionBarProps) {
  return (
    <View
      role="toolbar"
      aria-label="Pace actions"
      className="flex-none flex-row flex-wrap justify-center border-t border-line bg-raised px-1"
    >
      {actions.map(({ action, label, icon }) => {
        const disabled = action === 'remove-key' && !canRemoveKey;
        return (
          <Pressable
            key={action}
            role="button"
            accessibilityLabel={label}
            aria-pressed={active === action}
            disabled={disabled}
            onPress={() => onAction(action)}
            className={`min-h-[48px] min-w-[72px] items-center justify-center gap-0.5 rounded-lg px-2 hover:bg-line active:opacity-70 ${active === action ? 'bg-line' : ''} ${disabled ? 'opacity-35' : ''}`}
          >
            <Icon of={icon} size={20} />
            <Text numberOfLines={1} className="font-sans text-[12px] text-bone">
              {label}
            </Text>
          </Pressable>
        );
      })}
    </View>
  );
}
