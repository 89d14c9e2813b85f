import type { Source } from '@hastig/contract';
import { Stage, type Punctuality } from '@hastig/engine';
import { createContext, useCallback, useContext, useEffect, useMemo, useRef, type ReactNode } from 'react';
import { mediaAddress } from '../store/api';
import { useAppDispatch, useAppSelector } from '../store/hooks';
import { shownMap } from '../store/selectors';
import { noticeSet, playheadMoved, playingChanged } from '../store/session-slice';
import type { RootState } from '../store/store';
import { useStore } from 'react-redux';

/** What controls do with the stage. Frames are output frames. */
export interface StageControls {
  attach(canvas: HTMLCanvasElement | null): void;
  resize(width: number, height: number): void;
  seek(frame: number): void;
  /** Moves by frames from where it is, inside the clip. */
  step(frames: number): void;
  toggle(): void;
  /** Calls back for every frame that is drawn, at once and outside React; returns the way to stop that. */
  onFrame(listener: (frame: number) => void): () => void;
  /** Stops, and says how well play kept to its clock. */
  pause(): Promise<Punctuality | undefined>;
}

/** Milliseconds between two updates of the store's playhead while playing; numbers that change faster cannot be read. */
const STORE_PACE = 100;

const StageContext = createContext<StageControls | null>(null);

export function useStage(): StageControls {
  const controls = useContext(StageContext);
  if (!controls) throw new Error('useStage outside a StageProvider');
  return controls;
}

/** Keeps one stage for a clip, its source and timing those of the store. */
export function StageProvider({
  clipId,
  source,
  frames,
  children,
}: {
  clipId: string;
  source: Source;
  frames: number;
  children: ReactNode;
}) {
  const dispatch = useAppDispatch();
  const store = useStore<RootState>();
  const stage = useRef<Stage | null>(null);
  const map = useAppSelector((state) => shownMap(state, clipId));
  const listeners = useRef(new Set<(frame: number) => void>());
  // The file and nothing else of the source: a canvas is handed over once, and the rate is the map's.
  const { sha256 } = source;
  const { bytes } = source.facts;
  const count = useRef(frames);
  count.current = frames;

  const attach = useCallback(
    (canvas: HTMLCanvasElement | null) => {
      if (!canvas) {
        void stage.current?.close();
        stage.current = null;
        return;
      }
      let told = 0;
      const made = new Stage(canvas, {
        frame: (frame) => {
          for (const listener of listeners.current) listener(frame);
          const now = performance.now();
          if (store.getState().session.playing && now - told < STORE_PACE) return;
          told = now;
          dispatch(playheadMoved(frame));
        },
        playing: (playing) => dispatch(playingChanged(playing)),
        fault: (message) => dispatch(noticeSet(message)),
      });
      stage.current = made;
      made.load({ url: mediaAddress(sha256), bytes }).then(
        () => {
          const current = shownMap(store.getState(), clipId);
          if (current) made.setMap(current);
        },
        (error: Error) => dispatch(noticeSet(error.message)),
      );
    },
    [dispatch, sha256, bytes, clipId, store],
  );

  useEffect(() => {
    if (map) stage.current?.setMap(map);
  }, [map]);

  const controls = useMemo<StageControls>(() => {
    const seek = (frame: number): void => {
      const to = Math.min(Math.max(0, Math.round(frame)), count.current - 1);
      dispatch(playheadMoved(to));
      void stage.current?.seek(to);
    };
    return {
      attach,
      seek,
      resize: (width, height) => stage.current?.resize(width, height),
      step: (by) => seek(store.getState().session.playhead + by),
      toggle: () => {
        const { playing, playhead, loop } = store.getState().session;
        void (playing ? stage.current?.pause() : stage.current?.play(playhead, loop));
      },
      onFrame: (listener) => {
        listeners.current.add(listener);
        return () => void listeners.current.delete(listener);
      },
      pause: async () => stage.current?.pause(),
    };
  }, [attach, dispatch, store]);

  return <StageContext.Provider value={controls}>{children}</StageContext.Provider>;
}
