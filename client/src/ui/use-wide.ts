import { useWindowDimensions } from 'react-native';

/** Width in pixels from which the window counts as wide: rail and side panel instead of bars and sheets. */
const WIDE = 900;

export function useWide(): boolean {
  return useWindowDimensions().width >= WIDE;
}
