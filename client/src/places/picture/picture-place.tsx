import type {
  Clip,
  Effect,
  ExposureStep,
  ProjectDocument,
  RetimeMap,
  SlowWay,
  Smooth,
  Steady,
  Stretch,
} from '@hastig/contract';
import {
  baseStep,
  clipSteadied,
  compile,
  effectList,
  exposureOf,
  findClip,
  formatMoment,
  formatTime,
  isSteadying,
  moveEffect,
  placeOf,
  SEQUENCE,
  wishOf,
  withBase,
  exposureList,
} from '@hastig/core';
import type { MadePicture } from '@hastig/engine';
import { nanoid } from '@reduxjs/toolkit';
import { useLocalSearchParams, useRouter } from 'expo-router';
import { useMemo, useRef, useState } from 'react';
import { ScrollView, Text, View } from 'react-native';
import { CommandBar } from '../../commands/command-bar';
import { CommandSheet } from '../../commands/command-sheet';
import { EffectBars } from '../../effects/effect-bars';
import { effectRuns } from '../../effects/effect-runs';
import { effectCondition, effectWords } from '../../effects/effect-words';
import { conditionWords, exposureWords, slowOptions, stepWords } from '../../exposure/exposure-words';
import { doesSmooth } from '../../effects/sheets/smooth-film';
import { PlaceFrame } from '../../project/place-frame';
import { Beside } from '../../project/side';
import { rearrange } from '../../store/edit';
import { useAppDispatch, useAppSelector } from '../../store/hooks';
import { openClip, shownMap, shownProject } from '../../store/selectors';
import { MarkButtons } from '../../time-view/mark-buttons';
import { useSize } from '../../time-view/use-size';
import { useTimeView } from '../../time-view/use-time-view';
import { Choice } from '../../ui/choice';
import { ToolBar } from '../../ui/tool-bar';
import { useWide } from '../../ui/use-wide';
import { pictureCommands, type PictureCommandId } from './commands';
import type { PictureSheetProps } from './commands/context';
import { exposureRuns, type FilmSteps } from './exposure-runs';
import { ExposureStrip } from './exposure-strip';
import { LookBar } from './look-bar';
import { MadeWords, useMadeHere } from './made-words';
import { OwnedRows } from './owned-rows';
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

/** Milliseconds that the last picture of each kind of exposure took, by its words. */
function useCosts(
  made: MadePicture | undefined,
  map: RetimeMap,
  clip: Clip,
  film: FilmSteps | undefined,
): Readonly<Partial<Record<string, number>>> {
  const costs = useRef<Partial<Record<string, number>>>({});
  const last = useRef(made);
  // Once for each picture that was made: what is chosen after it is not how it was made.
  if (made && made !== last.current) {
    last.current = made;
    const runs = exposureRuns(map, clip.exposures ?? [], film);
    const run = runs.find(({ from, to }) => made.frame >= from && made.frame < to);
    if (run) costs.current[exposureWords(run.exposure)] = made.milliseconds - made.moved - made.mixed;
    const kinds = new Set((clip.effects ?? []).filter(({ off }) => !off).map(({ kind }) => kind));
    if (made.moved > 0) costs.current.steady = costs.current.smooth = made.moved;
    // Where copies are made, light costs next to nothing beside them.
    if (made.mixed > 0) costs.current[kinds.has('trail') ? 'trail' : 'flash'] = made.mixed;
  }
  return costs.current;
}

const isSound = (project: ProjectDocument, clipId: string): boolean => placeOf(project, clipId)?.track.kind === 'sound';

function OpenPicture({ clip, map, shown }: { clip: Clip; map: RetimeMap; shown: RetimeMap }) {
  const wide = useWide();
  const project = useAppSelector(shownProject)!;
  const frame = useRef<HTMLDivElement>(null);
  const { width, height } = useSize(frame);
  const time = useTimeView(compile(shown).length, width);
  const [chosen, setChosen] = useState<{ step?: string; effect?: string; film?: boolean }>({});
  const { active, disabled, act, open, close } = usePictureCommands(clip, time, () => setChosen({}));
  const tried = findClip(project, clip.id) ?? clip;
  const dispatch = useAppDispatch();
  const router = useRouter();
  const { id } = useLocalSearchParams<{ id: string }>();
  const made = useMadeHere();
  const place = placeOf(project, clip.id);
  const inFilm = place?.containerId === SEQUENCE;
  const filmSteps = project.sequence.exposures;
  const shift = inFilm ? place.from - tried.shown.from : 0;
  const film = useMemo(
    () => (inFilm && filmSteps ? { steps: filmSteps, shift } : undefined),
    [inFilm, filmSteps, shift],
  );
  const costs = useCosts(made, shown, tried, film);
  const edit = (step: string, film: boolean): void => {
    setChosen({ step, film });
    open('exposure');
  };
  const editEffect = ({ id: effect, kind }: Effect, film: boolean): void => {
    setChosen({ effect, film });
    open(kind === 'smooth' ? 'steady' : kind);
  };
  const toldOf =
    (where: (over: Stretch | undefined) => string) =>
    (step: ExposureStep): string => {
      const cost = costs[exposureWords(exposureOf(wishOf([step], 1)))];
      const takes = cost === undefined ? undefined : `${Math.max(1, Math.round(cost))} ms`;
      return [where(step.over), conditionWords(step), takes].filter(Boolean).join(' · ');
    };
  const effectTold =
    (where: (over: Stretch | undefined) => string, does: (effect: Steady | Smooth) => boolean) =>
    (effect: Effect): string => {
      const takes = costs[effect.kind];
      if (isSteadying(effect) && !does(effect)) return 'Does nothing yet: open it';
      const cost = takes === undefined || effect.off ? undefined : `${Math.max(1, Math.round(takes))} ms`;
      return [where(effect.over), effectCondition(effect), cost].filter(Boolean).join(' · ');
    };
  const inClip = (over: Stretch | undefined): string => clipWords(over, shown);
  const inWhole = (over: Stretch | undefined): string => filmWords(over, project);
  // What holds all the time stands in the list.
  const parts = useMemo(
    () => (tried.effects ?? []).filter((effect) => effect.over || effectCondition(effect)),
    [tried.effects],
  );
  const runs = useMemo(() => effectRuns(shown, parts), [shown, parts]);
  const owner = { clips: [clip.id] };
  const sheet = active ? (
    <CommandSheet<PictureSheetProps>
      key={chosen.step ?? chosen.effect ?? 'new'}
      commands={pictureCommands}
      given={{ clipId: clip.id, map, ...chosen, onClose: close }}
      {...{ active, disabled, onClose: close }}
      onCommand={act}
    />
  ) : null;
  const bar = (
    <CommandBar name="Picture actions" commands={pictureCommands} active={active} disabled={disabled} onCommand={act} />
  );
  const chooseSlow = (value: SlowWay): void =>
    void dispatch(
      rearrange('choose what slow parts show', (state) =>
        exposureList.set(state, { clips: [clip.id] }, (steps) => withBase(steps, { slow: value }, nanoid(12))),
      ),
    );
  return (
    <PlaceFrame bar={bar} sheet={sheet}>
      <ToolBar>
        <MarkButtons narrow={!wide} />
        <LookBar narrow={!wide} onCommand={act} />
      </ToolBar>
      <div ref={frame} style={{ display: 'flex', flexDirection: 'column', flex: 1, minHeight: 0 }}>
        <Beside shown={!wide || !sheet}>
          <ScrollView className="min-h-0 flex-1" contentContainerClassName="gap-2 px-3 py-2">
            <SlowChoice clip={clip} onChoose={chooseSlow} />
            <ShutterChoice clip={clip} onChoose={act} />
            <OwnedRows
              name="Clip"
              noun="exposure"
              list={exposureList}
              all={exposureList.of(project, clip.id)}
              owner={owner}
              empty="Each picture is an instant, and slow parts hold their frames. Open the shutter, or choose what slow parts show."
              words={stepWords}
              told={toldOf(inClip)}
              onOpen={(step) => edit(step.id, false)}
            />
            <OwnedRows
              name="Clip"
              noun="effect"
              list={effectList}
              all={effectList.of(project, clip.id)}
              owner={owner}
              empty="Add a trail, a flash or a reframe, or steady the clip. Effects apply from top to bottom."
              words={effectWords}
              told={effectTold(inClip, (effect) => !!clipSteadied(project, tried, shown, effect))}
              onOpen={(effect) => editEffect(effect, false)}
            />
            {inFilm ? (
              <OwnedRows
                name="Film"
                noun="exposure"
                list={exposureList}
                all={exposureList.of(project, 'film')}
                owner="film"
                empty="What is set for the film counts over its clips. Add an exposure for a stretch of it from in to out."
                words={stepWords}
                told={toldOf(inWhole)}
                onOpen={(step) => edit(step.id, true)}
              />
            ) : null}
            {inFilm ? (
              <OwnedRows
                name="Film"
                noun="effect"
                list={effectList}
                all={effectList.of(project, 'film')}
                owner="film"
                empty="Flashes at cuts, reframes and steady cameras of the whole film are added in Timeline; they are seen there."
                words={effectWords}
                told={effectTold(inWhole, (effect) => effect.kind === 'smooth' && doesSmooth(project, effect))}
                onOpen={(effect) => editEffect(effect, true)}
              />
            ) : null}
            <MadeWords
              made={made}
              onSlow={chooseSlow}
              onPace={() => router.push(`/project/${id}/clip/${clip.id}/pace`)}
            />
            <Text className="font-sans text-[13px] text-quiet">
              The picture at rest is the one that is rendered. It plays like that where a line marks it as ready;
              elsewhere as a draft, each picture an instant.
            </Text>
          </ScrollView>
        </Beside>
        <EffectBars
          name="Effects of parts"
          runs={runs}
          view={time.view}
          onOpen={(id) =>
            editEffect(
              (tried.effects ?? []).find((one) => one.id === id)!,
              false,
            )
          }
          onMove={(id, by) => void dispatch(rearrange('move an effect', (now) => moveEffect(now, owner, id, by)))}
        />
        <ExposureStrip
          steps={tried.exposures ?? []}
          {...(film && { film })}
          map={shown}
          view={time.view}
          {...(wide && { height })}
        />
      </div>
    </PlaceFrame>
  );
}

/** What slow parts of the clip show, one tap away. */
function SlowChoice({ clip, onChoose }: { clip: Clip; onChoose(value: SlowWay): void }) {
  const slow = baseStep(clip.exposures ?? [])?.slow ?? 'held';
  return <Choice label="Slow parts" value={slow} onChange={onChoose} options={slowOptions} />;
}

const shutters = [
  { value: 'closed', label: 'Closed', angle: 0 },
  { value: 'half', label: '180°', angle: 180 },
  { value: 'full', label: '360°', angle: 360 },
] as const;

/** The shutters that are used most, one tap away. */
function ShutterChoice({ clip, onChoose }: { clip: Clip; onChoose(id: PictureCommandId): void }) {
  const angle = baseStep(clip.exposures ?? [])?.shutter ?? 0;
  const chosen = shutters.find((one) => one.angle === angle)?.value;
  return (
    <Choice<PictureCommandId> label="Shutter" value={chosen ?? 'exposure'} onChange={onChoose} options={shutters} />
  );
}

const clipWords = (over: Stretch | undefined, map: RetimeMap): string => {
  if (!over) return 'all of the clip';
  const [from, to] = [over.from, over.to].map((at) =>
    over.by === 'source' ? String(Math.round(at)) : formatMoment(at, map.outputRate, 'frames'),
  );
  return over.by === 'source' ? `source ${from} to ${to}` : `output ${from} to ${to}`;
};

const filmWords = (over: Stretch | undefined, { sequence: { rate, startFrame } }: ProjectDocument): string =>
  over
    ? `${formatTime(over.from + startFrame, rate, 'timecode')} to ${formatTime(over.to + startFrame, rate, 'timecode')}`
    : 'all of the film';
