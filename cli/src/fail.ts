import { RenderFailed } from '@hastig/worker/failed';

/** What went wrong, for people; the command ends with status 1 and this message. */
export class CommandFailed extends Error {
  override readonly name = 'CommandFailed';
}

/** Whether an error is for people: what it says is all that is to be said. */
export const isForPeople = (error: unknown): error is Error =>
  error instanceof CommandFailed || error instanceof RenderFailed;
