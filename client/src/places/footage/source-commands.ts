import BracketsIn from 'lucide-react-native/icons/arrow-right-from-line';
import BracketsOut from 'lucide-react-native/icons/arrow-right-to-line';
import Bookmark from 'lucide-react-native/icons/bookmark';
import Plus from 'lucide-react-native/icons/plus';
import X from 'lucide-react-native/icons/x';
import type { Command } from '../../commands/command';

/** What the commands of a source's place work on. */
interface SourceContext {
  /** A still has no part, and nothing in it to mark. */
  still: boolean;
  /** Only a part of it is used. */
  marked: boolean;
  markIn(): void;
  markOut(): void;
  clearPart(): void;
  marker(): void;
  add(): void;
}

const moving = ({ still }: SourceContext): boolean => !still;

/** What is done with a source, in the order of its buttons. */
export const sourceCommands = [
  {
    id: 'mark-in',
    label: 'Mark in',
    icon: BracketsIn,
    shortcut: ['i', 'Mark in', 'Range'],
    possible: moving,
    run: (context) => moving(context) && context.markIn(),
  },
  {
    id: 'mark-out',
    label: 'Mark out',
    icon: BracketsOut,
    shortcut: ['o', 'Mark out', 'Range'],
    possible: moving,
    run: (context) => moving(context) && context.markOut(),
  },
  {
    id: 'clear-part',
    label: 'Clear in and out',
    icon: X,
    shortcut: ['x', 'Clear in and out', 'Range'],
    possible: ({ marked }) => marked,
    run: ({ clearPart }) => clearPart(),
  },
  {
    id: 'marker',
    label: 'Marker',
    icon: Bookmark,
    shortcut: ['m', 'Add marker', 'Markers'],
    possible: moving,
    run: (context) => moving(context) && context.marker(),
  },
  {
    id: 'add',
    label: 'Add to timeline',
    icon: Plus,
    shortcut: ['a', 'Add to timeline', 'Editing clips'],
    run: ({ add }) => add(),
  },
] as const satisfies readonly Command<SourceContext>[];
