import {
  apart,
  findClip,
  findSource,
  momentKinds,
  PLAIN_MOMENT,
  positionAt,
  positionSeconds,
  rateToNumber,
  strongest,
  type FoundMoment,
  type MomentKind,
} from '@hastig/core';
import { useMemo } from 'react';
import { Analysed } from '../../../beats/analysed';
import { MadeSheet, type Footage } from '../../../beats/made-sheet';
import { useMoments } from '../../../beats/use-moments';
import { choiceField, countField, percentField } from '../../../form/specs';
import { useAppSelector } from '../../../store/hooks';
import { EmptySheet } from '../../../ui/empty-sheet';
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
export function MomentsSheet({ clipId, map, onClose }: SheetProps) {
  const project = useAppSelector((state) => state.project.document)!;
  const of = findClip(project, clipId)?.of;
  const source = of?.kind === 'source' ? findSource(project, of.id) : undefined;
  const footage = useMemo(
    () => source && { source, secondsAt: (frame: number) => positionSeconds(source, positionAt(map, frame)) },
    [source, map],
  );
  if (!footage?.source.facts.video) {
    return (
      <EmptySheet
        title="Find moments"
        words="Only clips with a moving picture of their own have moments. Open the group to find those of its clips."
        onClose={onClose}
      />
    );
  }
  return <Moments footage={footage} perSecond={rateToNumber(footage.source.facts.video.rate)} onClose={onClose} />;
}

interface MomentsProps {
  footage: Footage;
  /** Frames a second of the file. */
  perSecond: number;
  onClose(): void;
}

function Moments({ footage, perSecond, onClose }: MomentsProps) {
  const state = useMoments(footage.source);
  return (
    <Analysed title="Find moments" {...state} onClose={onClose}>
      {(found) => (
        <MadeSheet
          title="Find moments"
          label="find moments"
          set="Moments"
          footage={footage}
          onClose={onClose}
          fields={() => ({
            kind: choiceField<MomentKind | 'all'>('Kind', 'all', [
              { value: 'all', label: 'All' },
              ...momentKinds.map((kind) => ({ value: kind, label: kindWords[kind] })),
            ]),
            least: percentField('Least strength', `${PLAIN_MOMENT * 100}%`, 0, 1),
            most: countField('Strongest only', '50', 1, 'how many at most'),
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
  return strongest(
    apart(plain, ({ frame }) => frame, SAME),
    most,
  );
}
