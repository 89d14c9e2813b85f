import { MoreSheet, type CommandsProps } from './command-bar';
import type { Command } from './command';
import { ShortcutSheet } from './shortcut-sheet';
import { MORE } from './use-commands';

interface CommandSheetProps<S> extends Pick<CommandsProps, 'disabled' | 'onCommand'> {
  commands: readonly Command<never, S>[];
  /** The command whose sheet is open. */
  active: string;
  /** What its sheet is given. */
  given: S;
  onClose(): void;
}

/** The sheet of a command. */
export function CommandSheet<S extends object>({
  commands,
  active,
  given,
  disabled,
  onCommand,
  onClose,
}: CommandSheetProps<S>) {
  if (active === MORE) return <MoreSheet active={null} {...{ commands, disabled, onCommand, onClose }} />;
  if (active === 'shortcuts') return <ShortcutSheet {...{ commands, onClose }} />;
  const Sheet = commands.find(({ id }) => id === active)?.sheet;
  return Sheet ? <Sheet key={active} {...given} /> : null;
}
