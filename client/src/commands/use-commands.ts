import { useMemo, useState } from 'react';
import { useStable } from '../ui/use-stable';
import type { Command } from './command';
import { useShortcuts } from './use-shortcuts';

/** The command that leads to all others. */
export const MORE = 'more';

/** Commands at their keys, at once; for those that open no sheet. */
export function useCommandKeys<C>(commands: readonly Command<C>[], context: C): void {
  useShortcuts(
    Object.fromEntries(
      commands.flatMap(({ shortcut, run }) => (shortcut && run ? [[shortcut[0], () => run(context)]] : [])),
    ),
  );
}

/** The commands of a place in use: which sheet is open, what cannot be done now, and how one is begun. */
export interface PlaceCommands<Id extends string> {
  /** The command whose sheet is open. */
  active: Id | null;
  disabled: ReadonlySet<string>;
  /** The same function for as long as the place is open. */
  act(id: Id): void;
  open(id: Id | null): void;
}

/**
 * Puts a place's commands to use, their keys too.
 *
 * @param contextOf what they work on; it is given a way to open another command's sheet, or to shut the one that is open
 * @param onOpen called when a command opens its sheet
 */
export function usePlaceCommands<C, S, Id extends string>(
  commands: readonly (Command<C, S> & { id: Id })[],
  contextOf: (open: (id: Id | null) => void) => C,
  onOpen?: () => void,
): PlaceCommands<Id> & { context: C } {
  const [active, open] = useState<Id | null>(null);
  const context = contextOf(open);
  const act = useStable((id: Id): void => {
    const command = commands.find((one) => one.id === id)!;
    if (command.ready && !command.ready(context)) return;
    if (!command.run) {
      onOpen?.();
      return open(active === id ? null : id);
    }
    command.run(context);
    if (active === MORE) open(null);
  });
  const off = commands.flatMap(({ id, possible }) => (possible && !possible(context) ? [id] : []));
  // The same set as long as the same cannot be done, so that the bar need not be drawn anew.
  const offIds = off.join(' ');
  const disabled = useMemo(() => new Set(offIds === '' ? [] : offIds.split(' ')), [offIds]);
  useShortcuts(
    Object.fromEntries(commands.flatMap(({ id, shortcut }) => (shortcut ? [[shortcut[0], () => act(id)]] : []))),
  );
  return { active, disabled, act, open, context };
}
