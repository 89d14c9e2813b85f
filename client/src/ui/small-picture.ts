import { inWorker, type MediaLocation } from '@hastig/engine';
import { useEffect, useState } from 'react';

// One at a time: each needs a decoder of its own.
let queue: Promise<unknown> = Promise.resolve();
const made = new Map<string, Promise<string>>();

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
  const known = made.get(key);
  if (known) return known;
  const picture = queue.then(async () =>
    URL.createObjectURL(await inWorker((engine) => engine.poster(location, frame, height))),
  );
  queue = picture.catch(() => undefined);
  made.set(key, picture);
  return picture;
}

/** The address of a small picture; null while it is made, where it can't be, and of nothing. */
export function useSmallPicture(wanted: SmallPicture | null): string | null {
  const [address, setAddress] = useState<{ key: string; address: string } | null>(null);
  const key = wanted?.key;
  useEffect(() => {
    let shown = true;
    if (wanted)
      addressOf(wanted).then(
        (found) => shown && setAddress({ key: wanted.key, address: found }),
        () => undefined,
      );
    return () => {
      shown = false;
    };
    // What it is of is all in its key.
  }, [key]);
  return address && address.key === key ? address.address : null;
}
