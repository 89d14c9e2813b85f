import { useWindowDimensions } from 'react-native';

/** Width in pixels from which the window counts as wide: rail and side panel instead of bars and sheets. */
const WIDE = 900;
/** Height in pixels below which picture and place stand side by side: a phone that is turned. */
const LOW = 540;

/** How the parts of a place are arranged in the window. */
export type Arrangement = 'phone' | 'turned' | 'wide';

export function useArrangement(): Arrangement {
  const { width, height } = useWindowDimensions();
  // A phone held upright with its keyboard open is low too, but narrower than it is high otherwise.
  if (height < LOW && width > height) return 'turned';
  return width >= WIDE ? 'wide' : 'phone';
}

export function useWide(): boolean {
  return useArrangement() === 'wide';
}
