import type { LucideIcon, LucideProps } from 'lucide-react-native';
import { forwardRef, type ComponentRef } from 'react';
import Svg, { Path, Rect } from 'react-native-svg';

/** One frame held: a frame between those before and after it, with the two bars of a pause. Drawn like the icons of the set. */
export const HeldFrameIcon: LucideIcon = forwardRef<ComponentRef<typeof Svg>, LucideProps>(function HeldFrameIcon(
  { size = 24, color = 'currentColor', strokeWidth = 2, ...rest },
  ref,
) {
  return (
    <Svg ref={ref} width={size} height={size} viewBox="0 0 24 24" fill="none" {...rest}>
      <Rect x={6.5} y={4} width={11} height={16} rx={1.5} stroke={color} strokeWidth={strokeWidth} />
      <Path
        d="M2.5 8v8M21.5 8v8M10.5 9.5v5M13.5 9.5v5"
        stroke={color}
        strokeWidth={strokeWidth}
        strokeLinecap="round"
      />
    </Svg>
  );
});
