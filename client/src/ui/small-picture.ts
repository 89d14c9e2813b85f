import { inWorker, type MediaLocation } from '@hastig/engine';
import { useEffect, useState } from 'react';

// One at a time: each needs a decoder of its own.
let queue: Promise<unknown> = Promise.resolve();
const pictures = new Map<string, Promise<string>>();

/** A frame of a file, as small pictures are made of it. */
export interface SmallPicture {
  /** Told apart by it: the same frame of the same file is made once. */
  key: string;
  location: MediaLocation;
  /** Frame of the file, as the location counts. */
  frame: number;
  /** Pixels. */
  height: number;
}

function addressOf({ key, location, frame, height }: SmallPicture): Promise<string> {
  const known = pictures.get(key);
  if (known) return known;
  const picture = queue.then(async () =>
    URL.createObjectURL(await inWorker((engine) => engine.poster(location, frame, height))),
  );
  queue = picture.catch(() => undefined);
  pictures.set(key, picture);
  return picture;
}

/** The address of a small picture; undefined while it is made, null where it can't be, and of nothing. */
export function useSmallPicture(wanted: SmallPicture | null): string | null | undefined {
  const [made, setMade] = useState<{ key: string; address: string | null } | null>(null);
  const key = wanted?.key;
  useEffect(() => {
    let shown = true;
    if (wanted)
      addressOf(wanted).then(
        (address) => shown && setMade({ key: wanted.key, address }),
        () => shown && setMade({ key: wanted.key, address: null }),
      );
    return () => {
      shown = false;
    };
    // What it is of is all in its key.
  }, [key]);
  if (!wanted) return null;
  return made?.key === key ? made?.address : undefined;
}
