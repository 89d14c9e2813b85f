import { compareCommand } from '../../../commands/compare';
import { leadingCommands, timeCommands } from '../../../commands/general';
import { clipCommands, lookCommands } from './clip';
import { editCommands } from './edits';
import { keyCommands, newKeyCommand } from './keys';
import { recipeCommands } from './recipes';

/** Everything that can be started in Pace, in the order of its bar. */
export const paceCommands = [
  newKeyCommand,
  ...editCommands,
  ...recipeCommands,
  ...keyCommands,
  ...clipCommands,
  compareCommand,
  ...lookCommands,
  ...timeCommands,
  ...leadingCommands('Inspect'),
] as const;

export type PaceCommandId = (typeof paceCommands)[number]['id'];
