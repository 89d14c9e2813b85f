import { leadingCommands, timeCommands } from '../../../commands/general';
import { clipCommands } from './clip';
import { sequenceCommands } from './sequence';
import { severalCommands } from './several';

/** Everything that can be started on the timeline, in the order of its bar. */
export const timelineCommands = [
  ...clipCommands,
  ...severalCommands,
  ...sequenceCommands,
  ...timeCommands,
  ...leadingCommands('Sequence'),
] as const;

export type TimelineCommandId = (typeof timelineCommands)[number]['id'];
