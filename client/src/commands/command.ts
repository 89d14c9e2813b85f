import type { LucideIcon } from 'lucide-react-native';
import type { ReactNode } from 'react';

/** What shortcuts are about, in the order of their list. */
const shortcutGroups = [
  'Playback',
  'Range',
  'Markers',
  'Retiming',
  'Picture',
  'Sound',
  'Editing clips',
  'View',
  'General',
] as const;
export type ShortcutGroup = (typeof shortcutGroups)[number];

/**
 * One thing that can be started: by its place in the bar, behind “More”, by a shortcut, or by whatever else calls it by its id. All
 * of it is made from this, so that a new one is written down once.
 *
 * `C` is what it works on, `S` what its sheet is given.
 */
export interface Command<C, S = object> {
  id: string;
  /** Its name in the bar and behind “More”; one without an icon is in neither. */
  label?: string;
  icon?: LucideIcon;
  /** In the bar of every device, or of those with room for more. */
  bar?: 'always' | 'wide';
  /** What it stands under behind “More”; it is not there unless told. */
  group?: string;
  /** Its keys as `use-shortcuts` names them, what it does there in words, and what that is about. */
  shortcut?: readonly [keys: string, words: string, group: ShortcutGroup];
  /** Whether its button can be pressed now; always unless told. Its shortcut says why it cannot. */
  possible?(context: C): boolean;
  /** Asked before it is begun; where it says no, it has told why. */
  ready?(context: C): boolean;
  /** What it does at once. */
  run?(context: C): void;
  /** Or the sheet it opens. */
  sheet?(props: S): ReactNode;
}

/** What of a command the bar, “More” and the list of shortcuts show. */
export type Shown = Pick<Command<never>, 'id' | 'label' | 'icon' | 'bar' | 'group' | 'shortcut'>;

/** A command that has a place to be pressed. */
export interface Pressed extends Shown {
  label: string;
  icon: LucideIcon;
}

const isPressed = (command: Shown): command is Pressed => command.icon !== undefined && command.label !== undefined;

/** The commands of a bar, in order. */
export function inBar(commands: readonly Shown[], wide: boolean): Pressed[] {
  return commands.filter(isPressed).filter(({ bar }) => bar === 'always' || (wide && bar === 'wide'));
}

/** What is behind “More”: each group with its commands, in the order in which they first come. */
export function behindMore(commands: readonly Shown[]): (readonly [group: string, commands: Pressed[]])[] {
  const groups = new Map<string, Pressed[]>();
  for (const command of commands.filter(isPressed)) {
    if (!command.group) continue;
    const known = groups.get(command.group);
    if (known) known.push(command);
    else groups.set(command.group, [command]);
  }
  return [...groups];
}

/** All shortcuts by what they are about. */
export function shortcutList(
  commands: readonly Shown[],
): { name: ShortcutGroup; shortcuts: { keys: string; words: string }[] }[] {
  return shortcutGroups
    .map((name) => ({
      name,
      shortcuts: commands.flatMap(({ shortcut }) =>
        shortcut?.[2] === name ? [{ keys: shortcut[0], words: shortcut[1] }] : [],
      ),
    }))
    .filter(({ shortcuts }) => shortcuts.length > 0);
}

/** The command of an id. */
export function commandOf<T extends { id: string }, Id extends T['id']>(
  commands: readonly T[],
  id: Id,
): Extract<T, { id: Id }> {
  return commands.find((command): command is Extract<T, { id: Id }> => command.id === id)!;
}
