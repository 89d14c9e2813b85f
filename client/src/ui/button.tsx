import type { LucideIcon } from 'lucide-react-native';
import { Pressable, Text } from 'react-native';
import { Icon } from './icon';

interface ButtonProps {
  label: string;
  onPress(): void;
  icon?: LucideIcon;
  /** `primary` for the one thing a place is for. */
  kind?: 'primary' | 'plain' | 'quiet';
  disabled?: boolean;
  /** For a button that opens something beneath it: whether it is open. */
  expanded?: boolean;
}

const grounds = { primary: 'bg-bone border-bone', plain: 'bg-raised border-line', quiet: 'border-transparent' };

/** A button with words; at least 44 px high. */
export function Button({ label, onPress, icon, kind = 'plain', disabled = false, expanded }: ButtonProps) {
  const ink = kind === 'primary' ? 'text-ink' : 'text-bone';
  return (
    <Pressable
      role="button"
      accessibilityLabel={label}
      aria-expanded={expanded}
      disabled={disabled}
      onPress={onPress}
      className={`min-h-[44px] flex-row items-center justify-center gap-2 rounded-lg border px-4 hover:opacity-90 active:opacity-70 ${grounds[kind]} ${disabled ? 'opacity-40' : ''}`}
    >
      {icon ? <Icon of={icon} size={18} tone={kind === 'primary' ? 'ink' : 'bone'} /> : null}
      <Text className={`font-medium text-[15px] ${ink}`}>{label}</Text>
    </Pressable>
  );
}

interface IconButtonProps {
  label: string;
  icon: LucideIcon;
  onPress(): void;
  disabled?: boolean;
  /** For a switch: whether it is on. */
  pressed?: boolean;
  /** Larger, for what is used most; or small, for lines of a table that the mouse points at. */
  size?: 'usual' | 'large' | 'low';
  /** Narrower, for long rows on a phone; as high as any. */
  narrow?: boolean;
}

/** Pixels of an icon. */
const iconSizes = { usual: 20, large: 22, low: 16 };
const widths = {
  usual: 'h-11 w-11 hover:bg-line',
  large: 'h-11 w-14 bg-bone hover:opacity-90',
  low: 'h-[30px] w-7 hover:bg-line',
  narrow: 'h-11 w-9 hover:bg-line',
};

/** A button with an icon only; its name is for screen readers and the pointer. */
export function IconButton({
  label,
  icon,
  onPress,
  disabled = false,
  pressed,
  size = 'usual',
  narrow = false,
}: IconButtonProps) {
  return (
    <Pressable
      role="button"
      accessibilityLabel={label}
      aria-pressed={pressed}
      disabled={disabled}
      onPress={onPress}
      className={`items-center justify-center rounded-lg active:opacity-70 ${widths[narrow ? 'narrow' : size]} ${pressed ? 'bg-line' : ''} ${disabled ? 'opacity-30' : ''}`}
    >
      <Icon of={icon} size={iconSizes[size]} tone={size === 'large' ? 'ink' : 'bone'} />
    </Pressable>
  );
}
