import {
  findClip,
  findSource,
  momentKinds,
  PLAIN_MOMENT,
  placeOf,
  rateToNumber,
  strongest,
  type FoundMoment,
  type MomentKind,
} from '@hastig/core';
import { Text } from 'react-native';
import { Analysed } from '../../../beats/analysed';
import { MadeSheet } from '../../../beats/made-sheet';
import type { MusicClip } from '../../../beats/music';
import { useMoments } from '../../../beats/use-moments';
import { choiceField, countField, percentField } from '../../../form/specs';
import { useAppSelector } from '../../../store/hooks';
import { SheetFrame } from '../../../ui/sheet-frame';
import type { SheetProps } from './form-sheet';

const kindWords: Record<MomentKind, string> = {
  motion: 'Most motion',
  start: 'Starts',
  stop: 'Stops',
  turn: 'Turns',
  cut: 'Hard cuts',
  hit: 'Hits in sound',
};

/** Moments of a clip's picture and sound, offered as markers of its source: of all kinds or of one, the strongest of them. */
export function MomentsSheet({ clipId, onClose }: SheetProps) {
  const project = useAppSelector((state) => state.project.document)!;
  const clip = findClip(project, clipId);
  const place = placeOf(project, clipId);
  const source = clip?.of.kind === 'source' ? findSource(project, clip.of.id) : undefined;
  if (!clip || !place || !source?.facts.video) {
    return (
      <SheetFrame title="Find moments" onClose={onClose}>
        <Text role="status" className="font-sans text-[14px] text-quiet">
          Only clips with a moving picture of their own have moments. Open the group to find those of its clips.
        </Text>
      </SheetFrame>
    );
  }
  return <Moments music={{ clip, source, from: place.from, to: place.to }} onClose={onClose} />;
}

function Moments({ music, onClose }: { music: MusicClip; onClose(): void }) {
  const { moments, watching, fault, cancel, again } = useMoments(music.source);
  const perSecond = rateToNumber(music.source.facts.video!.rate);
  return (
    <Analysed title="Find moments" found={moments} progress={watching} {...{ fault, cancel, again, onClose }}>
      {(found) => (
        <MadeSheet
          title="Find moments"
          label="find moments"
          set="Moments"
          music={music}
          onClose={onClose}
          fields={() => ({
            kind: choiceField<MomentKind | 'all'>('Kind', 'all', [
              { value: 'all', label: 'All' },
              ...momentKinds.map((kind) => ({ value: kind, label: kindWords[kind] })),
            ]),
            least: percentField('Least strength', `${PLAIN_MOMENT * 100}%`, 0, 1),
            most: countField('Strongest only', '50', 1, 'at most so many'),
          })}
          moments={({ kind, least, most }) =>
            chosen(found, kind, least, most).map((moment) => ({
              seconds: moment.frame / perSecond,
              kind: 'moment',
              strength: moment.strength,
            }))
          }
        />
      )}
    </Analysed>
  );
}

/** Frames within which two moments are one, of which the stronger counts. */
const SAME = 1.5;

function chosen(found: readonly FoundMoment[], kind: MomentKind | 'all', least: number, most: number): FoundMoment[] {
  const plain = found.filter((one) => (kind === 'all' || one.kind === kind) && one.strength >= least);
  const single: FoundMoment[] = [];
  for (const one of plain.toSorted((a, b) => b.strength - a.strength)) {
    if (single.every(({ frame }) => Math.abs(frame - one.frame) > SAME)) single.push(one);
  }
  return strongest(
    single.map((one) => ({ ...one, time: one.frame })),
    most,
  );
}
