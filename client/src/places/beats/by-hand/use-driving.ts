import type { ProjectDocument, RetimeMap } from '@hastig/contract';
import {
  asDriven,
  compile,
  EditRefused,
  findClip,
  mapOf,
  placeOf,
  tracked,
  withTake,
  withTiming,
  type Take,
} from '@hastig/core';
import { wallTime } from '@hastig/engine';
import { useEffect, useRef, useState } from 'react';
import { useStore } from 'react-redux';
import { useStage } from '../../../stage/stage-context';
import { commitProject } from '../../../store/edit';
import { useAppDispatch, useSession } from '../../../store/hooks';
import { noticeSet, projectTried } from '../../../store/session-slice';
import type { RootState } from '../../../store/store';
import { useStable } from '../../../ui/use-stable';
import { joinedTakes, Recorder } from './recorder';

/** Milliseconds between two programs that are shown while the hand drives: each is read anew by the sound. */
const SHOW_EVERY = 60;

/** How takes become keys. */
interface KeyChoice {
  tolerance: number;
  /** Output frames (real) of the clip that keys are drawn to; none where they stay. */
  magnets: readonly number[];
}

interface Driving {
  recording: boolean;
  takes: readonly Take[];
  /** Which take is shown, by its place; −1 for none. */
  chosen: number;
  choose(index: number): void;
  start(): void;
  stop(): void;
  /** Keeps the chosen take; whether it could be. */
  keep(): boolean;
}

/**
 * Drives a clip by hand: while it plays, the speed asked for is written down frame by frame and is seen and heard at once; each
 * recording is a take, of which one is kept.
 *
 * @param speed what the hand asks for now
 */
export function useDriving(clipId: string | undefined, speed: () => number, keys: KeyChoice): Driving {
  const dispatch = useAppDispatch();
  const store = useStore<RootState>();
  const { play, pause, frameAt, onFrame } = useStage();
  const { playing } = useSession('playing');
  const [recording, setRecording] = useState(false);
  const [takes, setTakes] = useState<readonly Take[]>([]);
  const [chosen, setChosen] = useState(-1);
  const running = useRef<{ recorder: Recorder; timer: number; before: Take | undefined } | null>(null);

  /** The document with another timing of the clip. */
  const retimed = (change: (map: RetimeMap) => RetimeMap): ProjectDocument | null => {
    const { document } = store.getState().project;
    const clip = document && clipId ? findClip(document, clipId) : undefined;
    return document && clip ? withTiming(document, clip.id, change(tracked(mapOf(document, clip)))) : null;
  };
  const shownTake = (take: Take | undefined): ProjectDocument | null => {
    if (!take) return null;
    try {
      return retimed((map) => withTake(map, take, { tolerance: keys.tolerance, magnets: keys.magnets }));
    } catch (error) {
      if (!(error instanceof EditRefused)) throw error;
      dispatch(noticeSet(error.message));
      return null;
    }
  };
  const take = takes[chosen];
  const key = `${keys.tolerance} ${keys.magnets.join()}`;
  useEffect(() => {
    if (!recording) dispatch(projectTried(shownTake(take)));
  }, [take, key, recording, clipId]);
  useEffect(() => () => void dispatch(projectTried(null)), [dispatch]);

  /** The clip's output frame (real) at a frame of the timeline. */
  const onClip = (frame: number): number => {
    const { document } = store.getState().project;
    const place = document && clipId ? placeOf(document, clipId) : undefined;
    const clip = document && clipId ? findClip(document, clipId) : undefined;
    return place && clip ? frame - place.from + clip.shown.from : 0;
  };

  const end = useStable((): void => {
    const now = running.current;
    if (!now) return;
    running.current = null;
    cancelAnimationFrame(now.timer);
    setRecording(false);
    void pause();
    const made = now.recorder.take();
    if (made.speeds.length < 2) return;
    const whole = now.before ? joinedTakes(now.before, made) : made;
    setTakes([...takes, whole]);
    setChosen(takes.length);
  });
  const start = (): void => {
    const { document } = store.getState().project;
    const clip = document && clipId ? findClip(document, clipId) : undefined;
    if (!document || !clip) return;
    const from = Math.max(0, Math.floor(onClip(store.getState().session.playhead)));
    const length = compile(mapOf(document, clip)).length;
    if (from >= length - 1) {
      dispatch(noticeSet('The playhead is at the clip’s end. Move it to where you want to begin.'));
      return;
    }
    const before = take;
    const state = { recorder: new Recorder(from), timer: 0, before };
    running.current = state;
    setRecording(true);
    let shownAt = 0;
    let last = NaN;
    const step = (): void => {
      if (running.current !== state) return;
      state.timer = requestAnimationFrame(step);
      const frame = frameAt(wallTime());
      if (frame === undefined) return;
      const at = onClip(frame);
      const now = speed();
      if (at >= from) state.recorder.at(at, now);
      if (at >= length - 1) return end();
      const time = performance.now();
      if (time - shownAt < SHOW_EVERY) return;
      shownAt = time;
      const made = state.recorder.take();
      const driven = before ? joinedTakes(before, made) : made;
      const project = retimed((map) => asDriven(map, driven, now));
      if (project) dispatch(projectTried(project));
      if (now !== last) {
        last = now;
        // In the browser's own timeline, where the time from hand to picture is measured.
        performance.mark('hastig:driven');
        const off = onFrame(() => {
          performance.mark('hastig:driven-seen');
          off();
        });
      }
    };
    state.timer = requestAnimationFrame(step);
    play(1);
  };
  // Whatever stops the playing ends the take.
  const wasPlaying = useRef(false);
  useEffect(() => {
    if (wasPlaying.current && !playing) end();
    wasPlaying.current = playing;
  }, [playing, end]);
  useEffect(() => () => cancelAnimationFrame(running.current?.timer ?? 0), []);

  const keep = (): boolean => {
    const result = shownTake(take);
    return result !== null && dispatch(commitProject('drive by hand', result));
  };
  return { recording, takes, chosen, choose: setChosen, start, stop: end, keep };
}
