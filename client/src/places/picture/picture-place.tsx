import type { Clip, ExposureStep, ProjectDocument, RetimeMap, SlowWay } from '@hastig/contract';
import {
  baseStep,
  compile,
  exposuresOf,
  findClip,
  formatMoment,
  formatTime,
  moveExposure,
  placeOf,
  putExposure,
  removeExposure,
  SEQUENCE,
  setExposures,
  withBase,
  type ExposureOwner,
} from '@hastig/core';
import { nanoid } from '@reduxjs/toolkit';
import { useRef, useState } from 'react';
import { ScrollView, Text, View } from 'react-native';
import { CommandBar } from '../../commands/command-bar';
import { CommandSheet } from '../../commands/command-sheet';
import { slowOptions } from '../../exposure/exposure-words';
import { PlaceFrame } from '../../project/place-frame';
import { rearrange } from '../../store/edit';
import { useAppDispatch, useAppSelector, useSession } from '../../store/hooks';
import { openClip, shownMap, shownProject } from '../../store/selectors';
import { MarkButtons } from '../../time-view/mark-buttons';
import { useSize } from '../../time-view/use-size';
import { useTimeView } from '../../time-view/use-time-view';
import { Choice } from '../../ui/choice';
import { ToolBar } from '../../ui/tool-bar';
import { useWide } from '../../ui/use-wide';
import { pictureCommands } from './commands';
import type { PictureSheetProps } from './commands/context';
import { ExposureStrip } from './exposure-strip';
import { StepRow } from './step-row';
import { usePictureCommands } from './use-picture-commands';

/** The place where it is chosen how a clip's pictures are made: what is seen between frames and across them. */
export function PicturePlace({ clipId }: { clipId: string }) {
  const open = useAppSelector((state) => openClip(state, clipId));
  const shown = useAppSelector((state) => shownMap(state, clipId));
  const sound = useAppSelector(({ project: { document } }) => (document ? isSound(document, clipId) : false));
  if (!open || !shown) return null;
  if (sound) {
    return (
      <View className="flex-1 items-center justify-center p-6">
        <Text className="text-center font-sans text-[15px] text-quiet">
          This clip is sound. Choose a clip on a picture track.
        </Text>
      </View>
    );
  }
  return <OpenPicture clip={open.clip} map={open.map} shown={shown} />;
}

const isSound = (project: ProjectDocument, clipId: string): boolean => placeOf(project, clipId)?.track.kind === 'sound';

function OpenPicture({ clip, map, shown }: { clip: Clip; map: RetimeMap; shown: RetimeMap }) {
  const wide = useWide();
  const project = useAppSelector(shownProject)!;
  const frame = useRef<HTMLDivElement>(null);
  const { width } = useSize(frame);
  const time = useTimeView(compile(shown).length, width);
  const [chosen, setChosen] = useState<{ step?: string; film?: boolean }>({});
  const { active, disabled, act, open, close } = usePictureCommands(clip, time, () => setChosen({}));
  const tried = findClip(project, clip.id) ?? clip;
  const inFilm = placeOf(project, clip.id)?.containerId === SEQUENCE;
  const edit = (step: string, film: boolean): void => {
    setChosen({ step, film });
    open('exposure');
  };
  const sheet = active ? (
    <CommandSheet<PictureSheetProps>
      key={chosen.step ?? 'new'}
      commands={pictureCommands}
      given={{ clipId: clip.id, map, ...chosen, onClose: close }}
      {...{ active, disabled, onClose: close }}
      onCommand={act}
    />
  ) : null;
  const bar = (
    <CommandBar name="Picture actions" commands={pictureCommands} active={active} disabled={disabled} onCommand={act} />
  );
  return (
    <PlaceFrame bar={bar} sheet={sheet}>
      <ToolBar>
        <MarkButtons narrow={!wide} />
      </ToolBar>
      <div ref={frame} style={{ display: 'flex', flexDirection: 'column', flex: 1, minHeight: 0 }}>
        <ScrollView className="min-h-0 flex-1" contentContainerClassName="gap-2 px-3 py-2">
          <SlowChoice clip={clip} />
          <StepList
            name="This clip"
            steps={exposuresOf(project, clip.id)}
            owner={{ clips: [clip.id] }}
            empty="Each picture is an instant, and slow parts hold their frames. Open the shutter, or choose what slow parts show."
            where={(step) => clipWords(step, shown)}
            onOpen={(step) => edit(step, false)}
          />
          {inFilm ? (
            <StepList
              name="Film"
              steps={exposuresOf(project, 'film')}
              owner="film"
              empty="What is set for the film counts over its clips. Add an exposure for a stretch of it from in to out."
              where={({ over }) => filmWords(over, project)}
              onOpen={(step) => edit(step, true)}
            />
          ) : null}
          <Text className="font-sans text-[13px] text-quiet">
            The picture at rest is the one that is rendered. While it plays, each is an instant.
          </Text>
        </ScrollView>
        <ExposureStrip steps={tried.exposures ?? []} map={shown} view={time.view} />
      </div>
    </PlaceFrame>
  );
}

/** What slow parts of the clip show, one tap away. */
function SlowChoice({ clip }: { clip: Clip }) {
  const dispatch = useAppDispatch();
  const slow = baseStep(clip.exposures ?? [])?.slow ?? 'held';
  const choose = (value: SlowWay): void => {
    dispatch(
      rearrange('choose what slow parts show', (project) =>
        setExposures(project, { clips: [clip.id] }, (steps) => withBase(steps, { slow: value }, nanoid(12))),
      ),
    );
  };
  return <Choice label="Slow parts" value={slow} onChange={choose} options={slowOptions} />;
}

const clipWords = ({ over }: ExposureStep, map: RetimeMap): string => {
  if (!over) return 'all of the clip';
  const [from, to] = [over.from, over.to].map((at) =>
    over.by === 'source' ? String(Math.round(at)) : formatMoment(at, map.outputRate, 'frames'),
  );
  return over.by === 'source' ? `source ${from} to ${to}` : `output ${from} to ${to}`;
};

const filmWords = (over: ExposureStep['over'], { sequence: { rate, startFrame } }: ProjectDocument): string =>
  over
    ? `${formatTime(over.from + startFrame, rate, 'timecode')} to ${formatTime(over.to + startFrame, rate, 'timecode')}`
    : 'all of the film';

interface StepListProps {
  name: string;
  steps: readonly ExposureStep[];
  owner: ExposureOwner;
  empty: string;
  where(step: ExposureStep): string;
  onOpen(step: string): void;
}

/** The exposures of a clip or of the film, in order. */
function StepList({ name, steps, owner, empty, where, onOpen }: StepListProps) {
  const dispatch = useAppDispatch();
  const { trial } = useSession('trial');
  const change = (label: string, how: (project: ProjectDocument) => ProjectDocument): void =>
    void dispatch(rearrange(label, how));
  return (
    <View role="group" aria-label={`Exposures: ${name}`} className="gap-1.5">
      <Text className="font-medium text-[13px] text-quiet">{name}</Text>
      {steps.length === 0 ? <Text className="font-sans text-[13px] text-quiet">{empty}</Text> : null}
      {steps.map((step, index) => (
        <StepRow
          key={step.id}
          step={step}
          where={where(step)}
          first={index === 0}
          last={index === steps.length - 1}
          onOpen={() => trial === null && onOpen(step.id)}
          onSwitch={() =>
            change(step.off ? 'switch an exposure on' : 'switch an exposure off', (project) => {
              const { off, ...rest } = step;
              return putExposure(project, owner, off ? rest : { ...rest, off: true });
            })
          }
          onMove={(by) => change('reorder exposures', (project) => moveExposure(project, owner, step.id, by))}
          onRemove={() => change('remove an exposure', (project) => removeExposure(project, owner, step.id))}
        />
      ))}
    </View>
  );
}
