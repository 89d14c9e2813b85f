import type { Source } from '@hastig/contract';
import { countingOf, fileCountOf, suggestedFields } from '@hastig/core';
import { Image, View } from 'react-native';
import { mediaAddress } from '../../store/api';
import { useSmallPicture, type SmallPicture } from '../../ui/small-picture';

/** Pixels: enough for a card on a wide screen. */
const HEIGHT = 288;

function posterOf({ sha256, facts }: Pick<Source, 'sha256' | 'facts'>): SmallPicture {
  const frame = fileCountOf({ facts }).frames >> 1;
  // By what the stream says of its fields, so that a picture of one file is the same wherever it stands.
  const location = {
    url: mediaAddress(sha256),
    bytes: facts.bytes,
    stills: facts.still !== undefined,
    fields: suggestedFields({ facts }),
    counting: countingOf({ facts }),
  };
  return { key: `${sha256} ${frame} ${HEIGHT}`, location, frame, height: HEIGHT };
}

/** A small picture of a source, from its middle. */
export function Poster({ source }: { source: Source }) {
  const address = useSmallPicture(posterOf(source));
  return (
    <View aria-busy={address === undefined} className="aspect-video w-full overflow-hidden rounded-lg bg-black">
      {address ? (
        <Image
          source={{ uri: address }}
          accessibilityLabel={`A frame of ${source.name}`}
          resizeMode="contain"
          className="h-full w-full"
        />
      ) : null}
    </View>
  );
}
