/**
 * An edit that cannot be made as asked. The message is for people: what is in the way and what to do instead.
 * `field` names the argument it is about.
 */
export class EditRefused extends Error {
  override readonly name = 'EditRefused';

  constructor(
    readonly field: string,
    message: string,
  ) {
    super(message);
  }
}
