// No id holds it.
const MARK = '#';

/** The id under which a source is opened once more, to be passed at several places at once; its own id is decoder 0. */
export function decoderOf(id: string, decoder: number): string {
  return decoder === 0 ? id : `${id}${MARK}${decoder}`;
}

/** The source that a decoder belongs to. */
export const sourceOfDecoder = (decoder: string): string => decoder.split(MARK)[0]!;
