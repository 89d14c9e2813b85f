import ChartNoAxesGantt from 'lucide-react-native/icons/chart-no-axes-gantt';
import Upload from 'lucide-react-native/icons/upload';
import type { Command } from '../../commands/command';

/** What the commands of Footage work on. */
interface FootageContext {
  /** There is footage. */
  some: boolean;
  /** Lets one choose files. */
  choose(): void;
  toTimeline(): void;
}

/** What is done in Footage. */
export const footageCommands = [
  {
    id: 'import',
    label: 'Import clips',
    icon: Upload,
    shortcut: ['i', 'Import clips', 'General'],
    run: ({ choose }) => choose(),
  },
  {
    id: 'timeline',
    label: 'Timeline',
    icon: ChartNoAxesGantt,
    shortcut: ['t', 'Go to the timeline', 'General'],
    possible: ({ some }) => some,
    run: ({ some, toTimeline }) => some && toTimeline(),
  },
] as const satisfies readonly Command<FootageContext>[];
