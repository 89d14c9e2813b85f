import type { ProjectPicture as PictureOf } from '@hastig/contract';
import { Image, View } from 'react-native';
import { mediaAddress } from '../../store/api';
import { useSmallPicture, type SmallPicture } from '../../ui/small-picture';

/** Pixels: enough for a row on any screen. */
const HEIGHT = 144;

const pictureOf = ({ sha256, bytes, stills, frame, counting }: PictureOf): SmallPicture => ({
  key: `${sha256} ${frame} ${HEIGHT}`,
  location: { url: mediaAddress(sha256), bytes, stills, counting },
  ...{ frame, height: HEIGHT },
});

/** The frame that stands for a project; a dark ground where there is none, or it can't be shown here. */
export function ProjectPicture({ of, name }: { of: PictureOf | null; name: string }) {
  const address = useSmallPicture(of && pictureOf(of));
  return (
    <View aria-busy={address === undefined} className="h-[54px] w-[96px] overflow-hidden rounded-md bg-black">
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
