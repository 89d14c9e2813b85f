import { Button, IconButton } from '../ui/button';
import type { Command } from './command';

interface CommandButtonProps<C> {
  command: Command<C>;
  context: C;
  /** In place of the command's own name, where it says what it does now. */
  label?: string;
  icon?: Command<C>['icon'];
  /** With words; an icon alone else. */
  words?: 'plain' | 'primary';
  pressed?: boolean;
  narrow?: boolean;
  size?: 'usual' | 'large';
}

/** A button of a place's own that begins a command, where there is no bar of them. */
export function CommandButton<C>({
  command,
  context,
  label = command.label ?? command.id,
  icon = command.icon,
  words,
  pressed,
  narrow = false,
  size = 'usual',
}: CommandButtonProps<C>) {
  const press = { label, disabled: command.possible?.(context) === false, onPress: () => command.run?.(context) };
  if (words || !icon) return <Button {...press} {...(icon && { icon })} kind={words ?? 'plain'} />;
  return <IconButton {...press} {...{ icon, narrow, size }} {...(pressed !== undefined && { pressed })} />;
}
