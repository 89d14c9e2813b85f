import type { ProjectPicture as PictureOf } from '@hastig/contract';
import { inWorker } from '@hastig/engine';
import { useEffect, useState } from 'react';
import { Image, View } from 'react-native';
import { mediaAddress } from '../../store/api';

/** Pixels: enough for a row on any screen. */
const HEIGHT = 144;

// One at a time: each needs a decoder of its own.
let queue: Promise<unknown> = Promise.resolve();
const made = new Map<string, Promise<string>>();

function pictureOf({ sha256, bytes, stills, frame, counting }: PictureOf): Promise<string> {
  const key = `${sha256} ${frame}`;
  const known = made.get(key);
  if (known) return known;
  const picture = queue.then(async () => {
    const location = { url: mediaAddress(sha256), bytes, stills, counting };
    return URL.createObjectURL(await inWorker((engine) => engine.poster(location, frame, HEIGHT)));
  });
  queue = picture.catch(() => undefined);
  made.set(key, picture);
  return picture;
}

/** The frame that stands for a project; a dark ground where there is none, or it can't be shown here. */
export function ProjectPicture({ of, name }: { of: PictureOf | null; name: string }) {
  const [address, setAddress] = useState<string | null>(null);
  useEffect(() => {
    let shown = true;
    if (of)
      pictureOf(of).then(
        (found) => shown && setAddress(found),
        () => undefined,
      );
    return () => {
      shown = false;
    };
  }, [of]);
  return (
    <View className="h-[54px] w-[96px] overflow-hidden rounded-md bg-black">
      {address ? (
        <Image
          source={{ uri: address }}
          accessibilityLabel={`A frame of ${name}`}
          resizeMode="cover"
          className="h-full w-full"
        />
      ) : null}
    </View>
  );
}
