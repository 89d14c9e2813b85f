import type { FrameBox, PictureTrack, Reframe } from '@hastig/contract';
import { boxInFrame, effectList, frameSize, type Point } from '@hastig/core';
import { nanoid } from '@reduxjs/toolkit';
import { useMemo, useRef, useState, type ReactNode } from 'react';
import { FormFields } from '../../form/form-fields';
import { ProjectSheet } from '../../form/project-sheet';
import type { Texts } from '../../form/specs';
import { useEntries } from '../../form/use-entries';
import { usePutGrip, type StageGrip } from '../../stage/grip-context';
import { useAppSelector } from '../../store/hooks';
import { Choice } from '../../ui/choice';
import { effectWords } from '../effect-words';
import type { ExtentChoice, ExtentValues } from '../use-extent';
import {
  boxTexts,
  reframeFields,
  reframeOf,
  withinBox,
  withinSize,
  type End,
  type ReframeValues,
} from './reframe-fields';

interface ReframeSheetProps {
  /** Whose it is: a clip's, by its id, or the film's. */
  owner: string | 'film';
  effect?: string;
  /** Fields that say for whom and for which stretch, and what is chosen in them. */
  extent: ExtentChoice;
  /** Tracks that a box may follow. */
  tracks?: readonly PictureTrack[];
  /** Whether the stage shows the frame that the boxes lie in. */
  onStage: boolean;
  onClose(): void;
  children?: ReactNode;
}

type Shown = 'boxes' | 'result';

const ends: Record<End, string> = { from: 'Start', to: 'End' };

/** What is seen of the frame: a box, or one that becomes another; by numbers, or by hand on the stage. */
export function ReframeSheet(props: ReframeSheetProps) {
  const { owner, effect, extent, tracks = [], onStage, onClose, children } = props;
  const project = useAppSelector((state) => state.project.document)!;
  const before = effectList
    .of(project, owner)
    .find((one): one is Reframe => one.kind === 'reframe' && one.id === effect);
  const id = useMemo(() => effect ?? nanoid(12), [effect]);
  const frame = frameSize(project);
  const wide = frame.width / frame.height;
  const [shown, setShown] = useState<Shown>(onStage ? 'boxes' : 'result');
  const [end, setEnd] = useState<End>('from');
  const { specs, texts, values, faults, set } = useEntries(() => ({
    ...extent.fields,
    ...reframeFields(before, wide, tracks),
  }));
  const filled = values as unknown as (ReframeValues & ExtentValues) | undefined;
  const key = filled && JSON.stringify(filled);
  const made = useMemo(() => filled && reframeOf(filled, wide), [key, wide]);
  const boxes = onStage && shown === 'boxes';
  // With the boxes all of the frame is seen.
  const edits = useMemo(() => {
    if (!filled || !made) return undefined;
    const put =
      (off: boolean) =>
      (state: typeof project): typeof project => {
        const { owner: whose, over } = extent.chosen(filled);
        // The film has no points of its own.
        const { follow, ...box } = made;
        return effectList.put(state, whose, {
          ...{ id, kind: 'reframe' as const },
          ...box,
          ...(follow && whose !== 'film' && { follow }),
          ...(off && { off: true }),
          ...(over && { over }),
        });
      };
    return { kept: put(!!before?.off), hidden: put(true) };
  }, [key, made, id, before?.off]);
  const moves = made && filled?.move === 'moves';
  const at: End = moves ? end : 'from';
  const held = useRef<FrameBox>({ x: 0.5, y: 0.5, size: 1 });
  const grip = useMemo<StageGrip | null>(() => {
    if (!boxes || !made) return null;
    const put = (box: FrameBox): void => set(boxTexts(at, box));
    const move = (x: number, y: number): void =>
      put({ ...held.current, x: withinBox(held.current.x + x), y: withinBox(held.current.y + y) });
    const other: End = at === 'from' ? 'to' : 'from';
    const outline = (box: FrameBox): Point[] => cornersOf(box, made.shape, frame);
    return {
      label: `${ends[at]} box`,
      corners: outline(made[at]),
      beside: moves ? [{ word: ends[other], corners: outline(made[other]) }] : [],
      hold: () => (held.current = middled(made[at], made.shape, frame)),
      drag: move,
      step: move,
      scale: (factor) => put({ ...held.current, size: withinSize(held.current.size * factor) }),
    };
  }, [boxes, made, at, moves, frame.width, frame.height]);
  usePutGrip(grip);
  return (
    <ProjectSheet
      title={before ? 'Reframe' : 'Add reframe'}
      label={before ? 'change a reframe' : 'add a reframe'}
      edit={boxes ? edits?.hidden : edits?.kept}
      {...(edits && { kept: edits.kept })}
      onClose={onClose}
      outcome={(_, after) => {
        const now = effectList.of(after, owner).find((one) => one.id === id);
        return now ? effectWords(now) : 'Nothing changes here';
      }}
    >
      {onStage ? (
        <Choice<Shown>
          label="Stage shows"
          value={shown}
          onChange={setShown}
          options={[
            { value: 'boxes', label: 'Boxes' },
            { value: 'result', label: 'Result' },
          ]}
        />
      ) : null}
      {boxes && moves ? (
        <Choice<End>
          label="Drag on the stage"
          value={end}
          onChange={setEnd}
          options={[
            { value: 'from', label: 'Start' },
            { value: 'to', label: 'End' },
          ]}
        />
      ) : null}
      <FormFields
        specs={specs}
        texts={texts}
        faults={faults}
        onChange={(name, text) => set({ [name]: text } as Texts)}
      />
      {children}
    </ProjectSheet>
  );
}

/** The corners of a box in shares of the frame. */
function cornersOf(box: FrameBox, shape: number, frame: { width: number; height: number }): Point[] {
  const { left, top, width, height } = boxInFrame(box, shape, frame);
  return [
    { x: left, y: top },
    { x: left + width, y: top },
    { x: left + width, y: top + height },
    { x: left, y: top + height },
  ];
}

/** A box with its middle where it is seen to be: it is moved in where it would lie out. */
function middled(box: FrameBox, shape: number, frame: { width: number; height: number }): FrameBox {
  const { left, top, width, height } = boxInFrame(box, shape, frame);
  return { ...box, x: left + width / 2, y: top + height / 2 };
}
