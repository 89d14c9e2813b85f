import type { ProjectDocument } from '@hastig/contract';
import { containerFrames, effectList, findClip, findContainer, moveEffect, SEQUENCE } from '@hastig/core';
import { useMemo, useRef, useState } from 'react';
import { ScrollView, Text, View } from 'react-native';
import type { Spot, SpotAt } from '../../sound-effects/drag-effect';
import { PlaceFrame } from '../../project/place-frame';
import { EffectBars } from '../../effects/effect-bars';
import { rearrange } from '../../store/edit';
import { useAppDispatch, useAppSelector, useSession } from '../../store/hooks';
import { shownProject } from '../../store/selectors';
import { useSize } from '../../time-view/use-size';
import { useTimeView, type TimeView } from '../../time-view/use-time-view';
import { CommandBar } from '../../commands/command-bar';
import { CommandSheet } from '../../commands/command-sheet';
import { useStable } from '../../ui/use-stable';
import { Button } from '../../ui/button';
import { useArrangement } from '../../ui/use-wide';
import { timelineCommands } from './commands';
import { aimedClips, type TimelineSheetProps } from './commands/context';
import { Lanes } from './lanes/lanes';
import { Overview } from './overview';
import { Ruler } from './ruler';
import { TimelineBar } from './timeline-bar';
import { TimelineSide } from './timeline-side';
import { useTimelineCommands } from './use-timeline-commands';

/** Room behind the last clip, as a share of all, so that something can be laid there. */
const ROOM_BEHIND = 0.08;
const LEAST_SECONDS = 5;

/** Frames from the left to the right end where all is seen: some room, at least a few seconds. */
function framesInView(project: ProjectDocument | null, containerId: string): number {
  const container = project ? findContainer(project, containerId) : undefined;
  if (!project || !container) return 0;
  const least = (LEAST_SECONDS * container.rate.num) / container.rate.den;
  return Math.max(least, Math.ceil(containerFrames(project, container) * (1 + ROOM_BEHIND)));
}

/** The place where clips are laid in a row: the sequence's, or a group's inside. */
export function TimelinePlace({ containerId }: { containerId: string }) {
  const arrangement = useArrangement();
  const project = useAppSelector(shownProject);
  const frame = useRef<HTMLDivElement>(null);
  const { width } = useSize(frame);
  const { unit } = useSession('unit');
  const container = project ? findContainer(project, containerId) : undefined;
  const length = project && container ? containerFrames(project, container) : 0;
  const time = useTimeView(framesInView(project, containerId), width);
  const saved = useAppSelector((state) => state.project.document);
  // While a clip is dragged, all that does not move with it stands still.
  const frames = framesInView(time.held ? saved : project, containerId);
  const [effect, setEffect] = useState<string>();
  const dispatch = useAppDispatch();
  const { active, disabled, several, act, open, choose, chooseNone, close } = useTimelineCommands(
    containerId,
    time,
    () => setEffect(undefined),
  );
  const onEffect = useStable((id: string) => {
    const kind = project && effectList.of(project, 'film').find((one) => one.id === id)?.kind;
    setEffect(id);
    if (kind === 'flash' || kind === 'reframe') open(kind);
    else if (kind === 'smooth') open('steady');
  });
  const onEffectMoved = useStable(
    (id: string, by: number) => void dispatch(rearrange('move an effect', (now) => moveEffect(now, 'film', id, by))),
  );
  const spot = useRef<SpotAt>(null);
  const spotAt = useStable((x: number, y: number): Spot | null => spot.current?.(x, y) ?? null);
  const onSeveral = useStable(() => act('several'));
  const onMarker = useStable(() => act('markers'));
  const onCloser = useStable((from: number, to: number) => time.show(from, to));
  const { from, to } = time.view;
  // The same one as long as nothing of it changes, so that what only depends on it stays as it is.
  const view = useMemo(() => ({ from, to, width }), [from, to, width]);
  if (!project || !container) return null;
  const start = containerId === SEQUENCE ? project.sequence.startFrame : 0;
  const sheet = active ? (
    <OpenSheet
      {...{ active, containerId, disabled, spotAt }}
      {...(effect && { effect })}
      onCommand={act}
      onClose={close}
    />
  ) : null;
  const bar = (
    <CommandBar
      name="Timeline actions"
      commands={timelineCommands}
      active={active}
      disabled={disabled}
      onCommand={act}
    />
  );
  return (
    <PlaceFrame bar={bar} sheet={sheet}>
      <TimelineSide containerId={containerId} hidden={!!sheet} />
      <TimelineBar several={several} onSeveral={onSeveral} onCommand={act} />
      <div ref={frame} style={{ display: 'flex', flexDirection: 'column', flex: 1, minHeight: 0 }}>
        {arrangement === 'wide' || !sheet ? <Overview {...{ containerId, project, frames, time }} /> : null}
        <Ruler {...{ containerId, container, unit, start, onMarker, onCloser }} view={view} />
        {containerId === SEQUENCE ? (
          <FilmEffects project={project} length={length} view={view} onOpen={onEffect} onMove={onEffectMoved} />
        ) : null}
        <ScrollView className="min-h-0 flex-1" contentContainerClassName="flex-grow">
          <Lanes {...{ containerId, project, time }} spotAt={spot} onChoose={choose} onNowhere={chooseNone} />
          {length === 0 && !sheet ? <Empty onAdd={() => act('add')} /> : null}
        </ScrollView>
      </div>
    </PlaceFrame>
  );
}

interface OpenSheetProps {
  active: string;
  effect?: string;
  containerId: string;
  disabled: ReadonlySet<string>;
  spotAt: SpotAt;
  onCommand(id: string): void;
  onClose(): void;
}

/** The sheet of a command, about the clips that are meant meanwhile. */
function OpenSheet({ containerId, spotAt, effect, ...props }: OpenSheetProps) {
  const project = useAppSelector((state) => state.project.document)!;
  const { selectedClips, playhead } = useSession('selectedClips', 'playhead');
  const clipIds = aimedClips(project, containerId, selectedClips, playhead);
  const clip = clipIds[0] ? findClip(project, clipIds[0]) : undefined;
  const given = { containerId, clipIds, clip, spotAt, ...(effect && { effect }), onClose: props.onClose };
  return <CommandSheet<TimelineSheetProps> commands={timelineCommands} given={given} {...props} />;
}

interface FilmEffectsProps {
  project: ProjectDocument;
  length: number;
  view: TimeView;
  onOpen(id: string): void;
  onMove(id: string, by: number): void;
}

/** Where the film's flashes, reframes and steadied stretches are. */
function FilmEffects({ project, length, ...bars }: FilmEffectsProps) {
  const effects = effectList.of(project, 'film');
  const runs = useMemo(
    () => effects.map((effect) => ({ effect, from: effect.over?.from ?? 0, to: effect.over?.to ?? length })),
    [effects, length],
  );
  return <EffectBars name="Effects of the film" runs={runs} {...bars} />;
}

function Empty({ onAdd }: { onAdd(): void }) {
  return (
    <View className="items-center gap-3 p-4">
      <Text className="text-center font-sans text-[14px] text-quiet">
        The timeline is empty. Clips you add line up end to end.
      </Text>
      <Button label="Add footage" onPress={onAdd} />
    </View>
  );
}
