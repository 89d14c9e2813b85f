import { pictureCodings, type OutputForm, type PictureCoding } from '@hastig/contract';
import type { Size } from '@hastig/core';
import { canEncodeVideo } from 'mediabunny';
import { inWorker } from '../worker/handle';

/** Which codings of pictures a device has an encoder for. */
export type Encodable = Readonly<Record<PictureCoding, boolean>>;

/** What is asked: pictures of a size, by an encoder of a kind. */
export type EncodableQuestion = Size & Pick<OutputForm, 'encoder'>;

/** Which codings of pictures of a size this device has an encoder for; asked where renders encode. */
export const encodable = (question: EncodableQuestion): Promise<Encodable> =>
  inWorker((api) => api.encodable(question));

/** The same, where it is answered. */
export async function findEncodable({ width, height, encoder }: EncodableQuestion): Promise<Encodable> {
  const found = pictureCodings.map(async (coding) => {
    const hardware = encoder === 'hardware' && { hardwareAcceleration: 'prefer-hardware' as const };
    return [coding, await canEncodeVideo(coding, { width, height, ...hardware })] as const;
  });
  return Object.fromEntries(await Promise.all(found)) as Record<PictureCoding, boolean>;
}
