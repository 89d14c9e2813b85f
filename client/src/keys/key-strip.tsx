import type {
  Clip,
  KeyedSetting,
  KeyedSound,
  PictureSettings,
  ProjectDocument,
  RetimeMap,
  SoundSettings,
} from '@hastig/contract';
import {
  compile,
  EditRefused,
  findClip,
  formatMoment,
  momentAt,
  pictureKeys,
  setPicture,
  setSound,
  soundKeys,
  type KeyTools,
} from '@hastig/core';
import { useDrag } from '@use-gesture/react';
import { useRef, useState, type KeyboardEvent } from 'react';
import { useStore } from 'react-redux';
import { useStage } from '../stage/stage-context';
import { commitProject, rearrange } from '../store/edit';
import { useAppDispatch, useAppSelector, useSession } from '../store/hooks';
import { shownProject } from '../store/selectors';
import { projectTried } from '../store/session-slice';
import type { RootState } from '../store/store';
import { Playhead } from '../time-view/playhead';
import { frameToX, type TimeControl } from '../time-view/use-time-view';

const HEIGHT = 32;
/** Pixels of a key to take hold of. */
const GRIP = 28;

/** What has keys: its name, and how its settings are read from a clip and put back. */
interface KeyedPart<S, N extends string> {
  /** One word, as in “Picture key 2”. */
  name: string;
  tools: KeyTools<S, N>;
  of(clip: Clip): S | undefined;
  put(project: ProjectDocument, clipId: string, settings: S): ProjectDocument;
}

const keyedPicture: KeyedPart<PictureSettings, KeyedSetting> = {
  name: 'Framing',
  tools: pictureKeys,
  of: ({ picture }) => picture,
  put: (project, clipId, settings) => setPicture(project, [clipId], settings),
};

const keyedSound: KeyedPart<SoundSettings, KeyedSound> = {
  name: 'Sound',
  tools: soundKeys,
  of: ({ sound }) => sound,
  put: (project, clipId, settings) => setSound(project, [clipId], () => settings),
};

interface KeyStripProps {
  clip: Clip;
  map: RetimeMap;
  time: TimeControl;
}

/** The keys of a clip's picture beneath its curve. */
export const PictureKeyStrip = (props: KeyStripProps) =>
  props.clip.picture?.keys ? <KeyStrip part={keyedPicture} {...props} /> : null;

/** The keys of a clip's sound beneath its waveform. */
export const SoundKeyStrip = (props: KeyStripProps) =>
  props.clip.sound?.keys ? <KeyStrip part={keyedSound} {...props} /> : null;

/** Keys where they stand in a clip's output, moved by a drag or the arrow keys. */
function KeyStrip<S, N extends string>({ part, clip, map, time }: KeyStripProps & { part: KeyedPart<S, N> }) {
  const { name, tools, of, put } = part;
  const word = name.toLowerCase();
  const dispatch = useAppDispatch();
  const store = useStore<RootState>();
  const { seek } = useStage();
  const { unit } = useSession('unit');
  const target = useRef<HTMLDivElement>(null);
  const [held, setHeld] = useState<number | null>(null);
  const trial = useAppSelector((state) => (held === null ? null : shownProject(state)));
  const { length } = compile(map);
  const tried = trial && findClip(trial, clip.id);
  const shown = (tried && of(tried)) ?? of(clip);
  const outputs = shown ? tools.keyOutputs(shown, map) : [];

  const moved =
    (from: number, to: number) =>
    (project: ProjectDocument): ProjectDocument => {
      const now = findClip(project, clip.id);
      const settings = now && of(now);
      if (!settings) return project;
      const at = Math.min(length, Math.max(0, Math.round(to)));
      return put(project, clip.id, tools.withKeysMoved(settings, momentAt(map, from), momentAt(map, at)));
    };

  useDrag(
    ({ event, movement: [dx], first, last, tap, memo }) => {
      const from = first ? Number((event.target as HTMLElement).closest<HTMLElement>('[data-key]')?.dataset.key) : memo;
      if (!Number.isFinite(from)) return undefined;
      const at = from as number;
      if (tap) {
        seek(at);
        return at;
      }
      const to = at + (dx * (time.view.to - time.view.from)) / time.view.width;
      const { document } = store.getState().project;
      if (!document) return at;
      setHeld(last ? null : at);
      time.hold(!last);
      try {
        const result = moved(at, to)(document);
        dispatch(last ? commitProject(`move a ${word} key`, result) : projectTried(result));
      } catch (error) {
        if (!(error instanceof EditRefused)) throw error;
        if (last) dispatch(projectTried(null));
      }
      return at;
    },
    { target, filterTaps: true, pointer: { capture: false, keys: false } },
  );

  const onKeyDown = (at: number) => (event: KeyboardEvent) => {
    const by = ({ ArrowRight: 1, ArrowLeft: -1 }[event.key] ?? 0) * (event.shiftKey ? 10 : 1);
    if (by === 0 && event.key !== 'Delete') return;
    event.preventDefault();
    event.stopPropagation();
    if (by !== 0) dispatch(rearrange(`move a ${word} key`, moved(at, at + by)));
    else {
      dispatch(
        rearrange(`remove a ${word} key`, (project) => {
          const now = findClip(project, clip.id);
          const settings = now && of(now);
          return settings ? put(project, clip.id, tools.withoutKeysAt(settings, momentAt(map, at))) : project;
        }),
      );
    }
  };

  return (
    <div
      ref={target}
      role="group"
      aria-label={`${name} keys`}
      style={{
        position: 'relative',
        height: HEIGHT,
        flex: 'none',
        overflow: 'hidden',
        background: 'rgb(var(--raised))',
        touchAction: 'none',
      }}
    >
      <span
        aria-hidden
        style={{
          position: 'absolute',
          left: 4,
          top: 9,
          font: '11px SchibstedGrotesk_400Regular, sans-serif',
          color: 'rgb(var(--quiet))',
        }}
      >
        {word}
      </span>
      <Playhead view={time.view} />
      {outputs.map((output, index) => (
        <div
          key={index}
          role="slider"
          tabIndex={0}
          aria-label={`${name} key ${index + 1}`}
          aria-valuemin={0}
          aria-valuemax={Math.ceil(length)}
          aria-valuenow={Math.round(output)}
          aria-valuetext={formatMoment(Math.round(output), map.outputRate, unit)}
          data-key={output}
          onKeyDown={onKeyDown(output)}
          style={{
            position: 'absolute',
            left: frameToX(time.view, output) - GRIP / 2,
            top: (HEIGHT - GRIP) / 2,
            width: GRIP,
            height: GRIP,
            display: 'flex',
            alignItems: 'center',
            justifyContent: 'center',
            cursor: 'ew-resize',
          }}
        >
          <div
            style={{
              width: 11,
              height: 11,
              transform: 'rotate(45deg)',
              background: 'rgb(var(--bone))',
              border: '1px solid rgb(var(--ink))',
            }}
          />
        </div>
      ))}
    </div>
  );
}
