import type { LucideIcon } from 'lucide-react-native';
import { colour, type ColourName } from './palette';

interface IconProps {
  of: LucideIcon;
  size?: number;
  tone?: ColourName;
}

/** An icon of the set, in a theme colour. Decoration only: what carries it has the name. */
export function Icon({ of: Shape, size = 20, tone = 'bone' }: IconProps) {
  return <Shape size={size} color={colour(tone)} strokeWidth={1.75} aria-hidden />;
}
