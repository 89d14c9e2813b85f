import AudioLines from 'lucide-react-native/icons/audio-lines';
import ThereBack from 'lucide-react-native/icons/arrow-right-left';
import StairsUp from 'lucide-react-native/icons/chart-no-axes-column-increasing';
import Valley from 'lucide-react-native/icons/chevrons-down';
import Footprints from 'lucide-react-native/icons/footprints';
import Mountain from 'lucide-react-native/icons/mountain';
import Rewind from 'lucide-react-native/icons/rewind';
import ScanEye from 'lucide-react-native/icons/scan-eye';
import Target from 'lucide-react-native/icons/target';
import Timer from 'lucide-react-native/icons/timer';
import TrendingUp from 'lucide-react-native/icons/trending-up';
import Zap from 'lucide-react-native/icons/zap';
import {
  DipSheet,
  RewindSheet,
  StairsSheet,
  StopMotionSheet,
  SurgeSheet,
  ThereAndBackSheet,
  TimeLapseSheet,
} from '../sheets/recipes';
import { MomentsSheet } from '../sheets/moments-sheet';
import { LandSheet } from '../sheets/land-sheet';
import { BurstsSheet, DriveSheet, FollowSheet } from '../sheets/on-beats';
import type { PaceCommand } from './context';

/** Whole courses of speed. */
export const recipeCommands = [
  { id: 'surge', label: 'Surge', icon: Mountain, group: 'Recipes', sheet: SurgeSheet },
  { id: 'dip', label: 'Dip', icon: Valley, group: 'Recipes', sheet: DipSheet },
  { id: 'stairs', label: 'Stairs', icon: StairsUp, group: 'Recipes', sheet: StairsSheet },
  { id: 'there-and-back', label: 'There & back', icon: ThereBack, group: 'Recipes', sheet: ThereAndBackSheet },
  { id: 'rewind', label: 'Rewind', icon: Rewind, group: 'Recipes', sheet: RewindSheet },
  { id: 'stop-motion', label: 'Stop-motion', icon: Footprints, group: 'Recipes', sheet: StopMotionSheet },
  { id: 'time-lapse', label: 'Time-lapse', icon: Timer, group: 'Recipes', sheet: TimeLapseSheet },
  { id: 'moments', label: 'Find moments', icon: ScanEye, group: 'On markers', sheet: MomentsSheet },
  { id: 'bursts', label: 'Bursts', icon: Zap, group: 'On markers', sheet: BurstsSheet },
  { id: 'drive', label: 'Drive', icon: TrendingUp, group: 'On markers', sheet: DriveSheet },
  { id: 'follow', label: 'Follow loudness', icon: AudioLines, group: 'On markers', sheet: FollowSheet },
  { id: 'land', label: 'Land on markers', icon: Target, group: 'On markers', sheet: LandSheet },
] as const satisfies readonly PaceCommand[];
