/** What went wrong, for people; the command ends with status 1 and this message. */
export class CommandFailed extends Error {
  override readonly name = 'CommandFailed';
}
