import { Thumbs } from '@hastig/engine';
import { createContext, useContext, useEffect, useMemo, useRef, useState, type ReactNode } from 'react';
import { useAppSelector } from '../store/hooks';
import { stageLocations } from '../store/selectors';

/** Pixels of the small pictures' height; enough for a dense screen. */
const HEIGHT = 96;

/** Small pictures of the project's sources. */
interface ProjectThumbs {
  thumbs: Thumbs | null;
  /** Changes whenever there are more of them. */
  made: number;
}

const ThumbsContext = createContext<ProjectThumbs>({ thumbs: null, made: 0 });

export function useThumbs(): ProjectThumbs {
  return useContext(ThumbsContext);
}

/** Makes small pictures of the open project's sources for all places; they outlive the places that show them. */
export function ThumbsProvider({ children }: { children: ReactNode }) {
  const locations = useAppSelector(stageLocations);
  const [thumbs, setThumbs] = useState<Thumbs | null>(null);
  const [made, setMade] = useState(0);
  const waiting = useRef(0);
  useEffect(() => {
    // Many pictures come close together; one drawing shows them all.
    const changed = (): void => {
      cancelAnimationFrame(waiting.current);
      waiting.current = requestAnimationFrame(() => setMade((now) => now + 1));
    };
    const opened = new Thumbs(HEIGHT, changed);
    setThumbs(opened);
    return () => {
      cancelAnimationFrame(waiting.current);
      setThumbs(null);
      opened.close();
    };
  }, []);
  useEffect(() => thumbs?.locate(locations), [thumbs, locations]);
  const playing = useAppSelector((state) => state.session.playing);
  useEffect(() => thumbs?.whilePlaying(playing), [thumbs, playing]);
  const value = useMemo(() => ({ thumbs, made }), [thumbs, made]);
  return <ThumbsContext value={value}>{children}</ThumbsContext>;
}
