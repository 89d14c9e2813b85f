import type { LucideIcon } from 'lucide-react-native';
import { memo } from 'react';
import { colour, type ColourName } from './palette';

interface IconProps {
  of: LucideIcon;
  size?: number;
  tone?: ColourName;
}

/** An icon of the set, in a theme colour. Decoration only: what carries it has the name. */
export function Icon({ of, size = 20, tone = 'bone' }: IconProps) {
  return <Shape of={of} size={size} ink={colour(tone)} />;
}

// Toolbars full of icons are drawn anew with every edit; none of the icons need be.
const Shape = memo(function Shape({ of: Drawn, size, ink }: { of: LucideIcon; size: number; ink: string }) {
  return <Drawn size={size} color={ink} strokeWidth={1.75} aria-hidden />;
});
