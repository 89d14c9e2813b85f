import Download from 'lucide-react-native/icons/download';
import Pause from 'lucide-react-native/icons/pause';
import Play from 'lucide-react-native/icons/clapperboard';
import Resume from 'lucide-react-native/icons/play';
import Timer from 'lucide-react-native/icons/timer';
import X from 'lucide-react-native/icons/x';
import type { Command } from '../../commands/command';

/** What the commands of Output work on. */
interface OutputContext {
  /** Whether there is nothing to render. */
  empty: boolean;
  /** A file is being made; it waits. */
  running: boolean;
  paused: boolean;
  /** How long it will take is being found out. */
  estimating: boolean;
  /** The file that was made last, where it can be downloaded. */
  made: string | undefined;
  render(): void;
  estimate(): void;
  pause(paused: boolean): void;
  cancel(): void;
  download(name: string): void;
}

/** What is done in Output. */
export const outputCommands = [
  {
    id: 'render',
    label: 'Render',
    icon: Play,
    shortcut: ['r', 'Render', 'General'],
    possible: ({ empty }) => !empty,
    run: ({ empty, render }) => !empty && render(),
  },
  {
    id: 'estimate',
    label: 'Estimate',
    icon: Timer,
    shortcut: ['t', 'Estimate time and size of a render', 'General'],
    possible: ({ empty, running, estimating }) => !empty && !running && !estimating,
    run: ({ empty, running, estimating, estimate }) => !empty && !running && !estimating && estimate(),
  },
  {
    id: 'cancel',
    label: 'Cancel render',
    icon: X,
    possible: ({ running }) => running,
    run: ({ running, cancel }) => running && cancel(),
  },
  {
    id: 'download',
    label: 'Download',
    icon: Download,
    shortcut: ['d', 'Download the last render', 'General'],
    possible: ({ made }) => made !== undefined,
    run: ({ made, download }) => made !== undefined && download(made),
  },
  {
    id: 'pause',
    label: 'Pause render',
    icon: Pause,
    shortcut: ['p', 'Pause or resume the render', 'General'],
    possible: ({ running }) => running,
    run: ({ running, paused, pause }) => running && pause(!paused),
  },
] as const satisfies readonly Command<OutputContext>[];

/** The pictures of what is switched in Output. */
export const outputIcons = { resume: Resume };
