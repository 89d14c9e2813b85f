/** Why a file can't be rendered, in words; `kind` is the name of the fault in the engine. */
export class RenderFailed extends Error {
  override readonly name = 'RenderFailed';

  constructor(
    message: string,
    readonly kind?: string,
  ) {
    super(message);
  }
}
