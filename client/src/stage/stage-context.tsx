import { programFrames } from '@hastig/core';
import { Stage, type Clicks, type Levels, type Punctuality } from '@hastig/engine';
import { createContext, useCallback, useContext, useEffect, useMemo, useRef, useState, type ReactNode } from 'react';
import { useAppDispatch, useAppSelector } from '../store/hooks';
import { stageLocations, stageProgram } from '../store/selectors';
import { noticeSet, playheadMoved, playingChanged } from '../store/session-slice';
import { draftTold, pictureMade, readyTold } from '../store/stage-slice';
import type { RootState } from '../store/store';
import { useStore } from 'react-redux';
import { shuttleSpeed } from './shuttle';

/** What controls do with the stage. Frames are output frames. */
export interface StageControls {
  attach(canvas: HTMLCanvasElement | null): void;
  /** Which canvas it is; another number asks for another one, for the one before is of no use any more. */
  surfaceNumber: number;
  resize(width: number, height: number): void;
  seek(frame: number): void;
  /** Moves by frames from where it is, inside what is on the stage. */
  step(frames: number): void;
  toggle(): void;
  /** Plays from the playhead on, at a share of its speed; the pitch of the sound goes with it. */
  play(speed: number): void;
  /** Plays forwards (1) or backwards (−1), faster each time; 0 stops. */
  shuttle(way: 1 | -1 | 0): void;
  /** Calls back for every frame that is drawn, at once and outside React; returns the way to stop that. */
  onFrame(listener: (frame: number) => void): () => void;
  /** The output frame (real) that is seen and heard at a wall time (ms since 1970); undefined while it does not play. */
  frameAt(wall: number): number | undefined;
  /** Clicks that are heard while it plays, or none. */
  setClicks(clicks: Clicks | null): void;
  /** How loud it is now: the highest sample of left and right, as factors of full scale. */
  levels(): Levels;
  /** Stops, and says how well play kept to its clock. */
  pause(): Promise<Punctuality | undefined>;
}

/** Milliseconds between two updates of the store's playhead while playing; numbers that change faster cannot be read. */
const STORE_INTERVAL = 100;

/** Times a stage is made anew after its worker broke down. */
const MOST_BREAKDOWNS = 3;

const StageContext = createContext<StageControls | null>(null);

export function useStage(): StageControls {
  const controls = useContext(StageContext);
  if (!controls) throw new Error('useStage outside a StageProvider');
  return controls;
}

/** Keeps one stage for all places of a project; what is on it comes from the store. */
export function StageProvider({ children }: { children: ReactNode }) {
  const dispatch = useAppDispatch();
  const store = useStore<RootState>();
  const stage = useRef<Stage | null>(null);
  const surface = useRef<HTMLCanvasElement | null>(null);
  const program = useAppSelector(stageProgram);
  const locations = useAppSelector(stageLocations);
  const listeners = useRef(new Set<(frame: number) => void>());
  const speed = useRef(1);
  const heard = useRef<Clicks | null>(null);
  const breakdowns = useRef(0);
  const [surfaceNumber, setSurfaceNumber] = useState(0);

  const attach = useCallback(
    (canvas: HTMLCanvasElement | null) => {
      surface.current = canvas;
      if (!canvas) {
        void stage.current?.close();
        stage.current = null;
        return;
      }
      let updatedAt = 0;
      canvas.ariaBusy = 'true';
      const made = new Stage(canvas, {
        frame: (frame) => {
          // What is asked for meanwhile is not there yet.
          canvas.ariaBusy = String(frame !== store.getState().session.playhead && !store.getState().session.playing);
          for (const listener of listeners.current) listener(frame);
          const now = performance.now();
          if (store.getState().session.playing && now - updatedAt < STORE_INTERVAL) return;
          updatedAt = now;
          dispatch(playheadMoved(frame));
        },
        playing: (playing) => dispatch(playingChanged(playing)),
        made: (made) => dispatch(pictureMade(made)),
        ready: (ranges) => dispatch(readyTold(ranges)),
        draft: (on) => dispatch(draftTold(on)),
        fault: (message) => {
          canvas.ariaBusy = 'false';
          dispatch(noticeSet(message));
        },
        broken: () => {
          canvas.ariaBusy = 'false';
          const goesOn = ++breakdowns.current <= MOST_BREAKDOWNS;
          dispatch(
            noticeSet(
              `The preview crashed${goesOn ? ' and was started again' : '. Reload the page'}. Nothing is lost.`,
            ),
          );
          if (goesOn) setSurfaceNumber((number) => number + 1);
        },
      });
      stage.current = made;
      made.setClicks(heard.current);
      made.setLook(store.getState().stage.look);
      made.setProgram(stageProgram(store.getState()), stageLocations(store.getState()));
      void made.seek(store.getState().session.playhead);
    },
    [dispatch, store],
  );

  useEffect(() => stage.current?.setProgram(program, locations), [program, locations]);
  const look = useAppSelector((state) => state.stage.look);
  useEffect(() => stage.current?.setLook(look), [look]);

  // Another clip or sequence comes on with a playhead of its own.
  const target = useAppSelector((state) => state.session.target);
  useEffect(() => void stage.current?.seek(store.getState().session.playhead), [target, store]);

  const controls = useMemo<StageControls>(() => {
    const seek = (frame: number): void => {
      const last = programFrames(stageProgram(store.getState())) - 1;
      const to = Math.min(Math.max(0, Math.round(frame)), last);
      if (surface.current && to !== store.getState().session.playhead) surface.current.ariaBusy = 'true';
      dispatch(playheadMoved(to));
      void stage.current?.seek(to);
    };
    const play = (by: number): void => {
      const { playhead, loop, marks } = store.getState().session;
      const frames = programFrames(stageProgram(store.getState()));
      speed.current = by;
      void stage.current?.play(playhead, loop ? { from: marks.from ?? 0, to: marks.to ?? frames } : null, by);
    };
    return {
      attach,
      surfaceNumber,
      seek,
      resize: (width, height) => stage.current?.resize(width, height),
      levels: () => stage.current?.levels() ?? [0, 0],
      step: (by) => seek(store.getState().session.playhead + by),
      toggle: () => {
        if (store.getState().session.playing) void stage.current?.pause();
        else play(store.getState().compare.on?.speed ?? 1);
      },
      shuttle: (way) => {
        const now = store.getState().session.playing ? speed.current : 0;
        const next = shuttleSpeed(now, way);
        if (next === 0) void stage.current?.pause();
        else play(next);
      },
      onFrame: (listener) => {
        listeners.current.add(listener);
        return () => void listeners.current.delete(listener);
      },
      play,
      frameAt: (wall) => stage.current?.frameAt(wall),
      setClicks: (clicks) => {
        heard.current = clicks;
        stage.current?.setClicks(clicks);
      },
      pause: async () => stage.current?.pause(),
    };
  }, [attach, dispatch, store, surfaceNumber]);

  return <StageContext.Provider value={controls}>{children}</StageContext.Provider>;
}
