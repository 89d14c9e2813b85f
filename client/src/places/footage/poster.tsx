import type { Source } from '@hastig/contract';
import { countingOf, fileCountOf, suggestedFields } from '@hastig/core';
import { inWorker } from '@hastig/engine';
import { useEffect, useState } from 'react';
import { Image, View } from 'react-native';
import { mediaAddress } from '../../store/api';

/** Pixels: enough for a card on a wide screen. */
const HEIGHT = 288;

// One at a time: each needs a decoder of its own.
let queue: Promise<unknown> = Promise.resolve();
const made = new Map<string, Promise<string>>();

function posterOf({ sha256, facts }: Pick<Source, 'sha256' | 'facts'>): Promise<string> {
  const known = made.get(sha256);
  if (known) return known;
  const poster = queue.then(async () => {
    // By what the stream says of its fields, so that a picture of one file is the same wherever it stands.
    const location = {
      url: mediaAddress(sha256),
      bytes: facts.bytes,
      stills: facts.still !== undefined,
      fields: suggestedFields({ facts }),
      counting: countingOf({ facts }),
    };
    const blob = await inWorker((engine) => engine.poster(location, fileCountOf({ facts }).frames >> 1, HEIGHT));
    return URL.createObjectURL(blob);
  });
  queue = poster.catch(() => undefined);
  made.set(sha256, poster);
  return poster;
}

/** A small picture of a source, from its middle. */
export function Poster({ source }: { source: Source }) {
  const { sha256, facts, name } = source;
  const [address, setAddress] = useState<string | null>(null);
  useEffect(() => {
    let shown = true;
    posterOf({ sha256, facts }).then(
      (made) => shown && setAddress(made),
      () => undefined,
    );
    return () => {
      shown = false;
    };
  }, [sha256, facts]);
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
