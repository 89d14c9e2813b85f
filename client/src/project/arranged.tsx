import type { Track } from '@hastig/contract';
import { clipAt, findContainer, placeOf, SEQUENCE } from '@hastig/core';
import { Slot } from 'expo-router';
import { useMemo, useRef, useState, type CSSProperties, type ReactNode } from 'react';
import { movingCommands } from '../commands/general';
import { useCommandKeys } from '../commands/use-commands';
import { useStage } from '../stage/stage-context';
import { StageFrame } from '../stage/stage-frame';
import { useAppDispatch, useAppSelector } from '../store/hooks';
import type { RootState } from '../store/store';
import { useSize } from '../time-view/use-size';
import { Divider } from '../ui/divider';
import { useArrangement } from '../ui/use-wide';
import { beatsAddress, timelineAddress } from './addresses';
import { PlaceBar } from './place-bar';
import { SideContext } from './side';
import { DIVIDER, STRIP_BELOW } from './stage-share';
import { useStageShare } from './use-stage-share';

/** The clip a place is about that is about one: the one on the stage, a chosen one, or the one at the playhead. */
function currentClip({ project: { document }, session }: RootState): string | undefined {
  const { target, selectedClips, playhead } = session;
  if (!document || !target) return undefined;
  if ('clip' in target) return target.clip;
  if ('source' in target) return undefined;
  const container = findContainer(document, target.container);
  const chosen = selectedClips.find((id) => placeOf(document, id)?.containerId === target.container);
  if (chosen || !container) return chosen;
  // What is seen comes before what is only heard: who opens Pace with nothing chosen means the picture, not its music.
  const isSound = ({ kind }: Track): number => Number(kind === 'sound');
  const seen = container.tracks
    .toReversed()
    .sort((a, b) => isSound(a) - isSound(b))
    .map((track) => clipAt(document, track, playhead));
  const first = container.tracks
    .toSorted((a, b) => isSound(a) - isSound(b))
    .flatMap(({ items }) => items)
    .find((item) => 'clip' in item);
  return seen.find((item) => item?.clip)?.clip?.id ?? (first && 'clip' in first ? first.clip : undefined);
}

function containerOf({ project: { document }, session: { target } }: RootState): string {
  if (!target) return SEQUENCE;
  if ('container' in target) return target.container;
  if ('source' in target) return SEQUENCE;
  return (document && placeOf(document, target.clip)?.containerId) ?? SEQUENCE;
}

const areaStyle = (gridArea: string) => ({ gridArea, display: 'flex', minHeight: 0, minWidth: 0 }) as const;
const columnStyle = (gridArea: string) => ({ ...areaStyle(gridArea), flexDirection: 'column' }) as const;

interface ArrangedProps {
  projectId: string;
  clipId: string | undefined;
  /** The numbers of what is on the stage. */
  readout: ReactNode;
}

/**
 * Stage, place and bar as they lie in the window. Only their places change with its size (see `.work` in the style sheet): the
 * elements stay the same ones, so that a device may be turned while it plays, and with a form half filled in.
 */
export function Arranged({ projectId, clipId, readout }: ArrangedProps) {
  const arrangement = useArrangement();
  const upright = arrangement === 'turned';
  const dispatch = useAppDispatch();
  const stage = useStage();
  useCommandKeys(movingCommands, { dispatch, stage });
  const paced = useAppSelector(currentClip);
  const container = useAppSelector(containerOf);
  const base = `/project/${projectId}`;
  const addresses = {
    timeline: timelineAddress(projectId, container),
    beats: beatsAddress(projectId, container),
    pace: paced && `${base}/clip/${paced}/pace`,
    picture: paced && `${base}/clip/${paced}/picture`,
    sound: paced && `${base}/clip/${paced}/sound`,
    output: clipId ? `${base}/clip/${clipId}/output` : `${base}/output`,
  };
  const frame = useRef<HTMLDivElement>(null);
  const bar = useRef<HTMLDivElement>(null);
  const { width, height } = useSize(frame);
  const rail = useSize(bar);
  const length = upright ? width - rail.width : height - (arrangement === 'phone' ? rail.height : 0);
  const { value, move, toggle } = useStageShare(arrangement, length);
  const [beside, setBeside] = useState<HTMLElement | null>(null);
  const [sheet, setSheet] = useState<HTMLElement | null>(null);
  const sides = useMemo(() => ({ beside, sheet }), [beside, sheet]);
  return (
    <div ref={frame} role="main" className={`work ${arrangement}`} style={{ '--stage': `${value}px` } as CSSProperties}>
      <div ref={bar} style={columnStyle('bar')}>
        <PlaceBar addresses={addresses} rail={arrangement !== 'phone'} />
      </div>
      <StageFrame
        style={columnStyle('stage')}
        stripBelow={arrangement === 'phone' ? STRIP_BELOW : 0}
        readout={readout}
      />
      <div ref={setBeside} style={arrangement === 'wide' ? areaStyle('beside') : { display: 'none' }} />
      <Divider
        label="Resize picture"
        thickness={DIVIDER[arrangement]}
        style={{ gridArea: 'divider' }}
        {...{ upright, value, length }}
        onMove={move}
        onToggle={toggle}
      />
      <div style={columnStyle('place')}>
        <SideContext value={sides}>
          <Slot />
        </SideContext>
      </div>
      <div ref={setSheet} style={columnStyle('sheet')} />
    </div>
  );
}
