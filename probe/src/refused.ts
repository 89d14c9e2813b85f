/** Why a file cannot be a source. The message is for people and says what to do where something can be done. */
export class RefusedMedia extends Error {
  override readonly name = 'RefusedMedia';
}
