import type { Source } from '@hastig/contract';
import { Thumbs } from '@hastig/engine';
import { useEffect, useRef, useState } from 'react';
import { mediaAddress } from '../../../store/api';

/** Pixels of the small pictures' height; enough for a dense screen. */
const HEIGHT = 72;

/** Small pictures of a source. */
export interface SourceThumbs {
  thumbs: Thumbs | null;
  /** Changes whenever there are more of them. */
  made: number;
  /** Width over height. */
  aspect: number;
}

/** Opens a source for small pictures, for as long as the caller is shown. */
export function useThumbs(source: Source): SourceThumbs {
  const [thumbs, setThumbs] = useState<Thumbs | null>(null);
  const [made, setMade] = useState(0);
  const waiting = useRef(0);
  const { sha256, facts } = source;
  useEffect(() => {
    // Many pictures come close together; one drawing shows them all.
    const changed = (): void => {
      cancelAnimationFrame(waiting.current);
      waiting.current = requestAnimationFrame(() => setMade((now) => now + 1));
    };
    const opened = new Thumbs({ url: mediaAddress(sha256), bytes: facts.bytes }, HEIGHT, changed);
    setThumbs(opened);
    return () => {
      cancelAnimationFrame(waiting.current);
      setThumbs(null);
      opened.close();
    };
  }, [sha256, facts.bytes]);
  return { thumbs, made, aspect: facts.video.width / facts.video.height };
}
