import { inWorker } from '@hastig/engine';
import { useEffect, useState } from 'react';
import { Image, View } from 'react-native';
import { mediaAddress } from '../../store/api';

/** Pixels: enough for a card on a wide screen. */
const HEIGHT = 288;

// One at a time: each needs a decoder of its own.
let queue: Promise<unknown> = Promise.resolve();
const made = new Map<string, Promise<string>>();

function posterOf(sha256: string, bytes: number, frame: number): Promise<string> {
  const known = made.get(sha256);
  if (known) return known;
  const poster = queue.then(async () => {
    const blob = await inWorker((engine) => engine.poster({ url: mediaAddress(sha256), bytes }, frame, HEIGHT));
    return URL.createObjectURL(blob);
  });
  queue = poster.catch(() => undefined);
  made.set(sha256, poster);
  return poster;
}

/** A small picture of a source, from its middle. */
export function Poster({
  sha256,
  bytes,
  frames,
  name,
}: {
  sha256: string;
  bytes: number;
  frames: number;
  name: string;
}) {
  const [address, setAddress] = useState<string | null>(null);
  useEffect(() => {
    let shown = true;
    posterOf(sha256, bytes, frames >> 1).then(
      (made) => shown && setAddress(made),
      () => undefined,
    );
    return () => {
      shown = false;
    };
  }, [sha256, bytes, frames]);
  return (
    <View className="aspect-video w-full overflow-hidden rounded-lg bg-black">
      {address ? (
        <Image
          source={{ uri: address }}
          accessibilityLabel={`A frame of ${name}`}
          resizeMode="contain"
          className="h-full w-full"
        />
      ) : null}
    </View>
  );
}
