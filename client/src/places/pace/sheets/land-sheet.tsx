import type { Clip, Pin } from '@hastig/contract';
import {
  contentMarkers,
  findClip,
  findSource,
  formatMoment,
  formatPercent,
  formatSourceFrame,
  landingOf,
  landPairs,
  mapOf,
  placeOf,
  positionAt,
  secondsPosition,
  setsOf,
  strongest,
  type Pair,
  type SeenMarker,
} from '@hastig/core';
import { useMemo, useState } from 'react';
import { Text } from 'react-native';
import { setName } from '../../../beats/beat-words';
import { proposedPairs, withoutPair, withPairOn } from '../../../beats/pairing';
import { useAnalysis } from '../../../beats/use-analysis';
import { useBeside } from '../../../beats/use-beside';
import { FormFields } from '../../../form/form-fields';
import { choiceField, countField } from '../../../form/specs';
import { useEntries } from '../../../form/use-entries';
import { useAppSelector, useSession } from '../../../store/hooks';
import { Button } from '../../../ui/button';
import { EmptySheet } from '../../../ui/empty-sheet';
import { useSame } from '../../../ui/use-same';
import { EditSheet } from './edit-sheet';
import type { SheetProps } from './form-sheet';
import { PairThreads } from './pair-threads';

/** What stands for the hits in the clip's own sound in a choice of its moments. */
const HITS = ':hits';

/** Something that happens in a clip's content. */
interface Moment {
  /** Position of the source. */
  position: number;
  strength: number;
}

const plain = ({ marker }: SeenMarker): number => marker.strength ?? 1;

function useMoments(clip: Clip): { sets: string[]; hits: boolean; of(chosen: string): Moment[] } {
  const project = useAppSelector((state) => state.project.document)!;
  const source = clip.of.kind === 'source' ? findSource(project, clip.of.id) : undefined;
  const { found: analysis } = useAnalysis(source);
  return useMemo(() => {
    const own = contentMarkers(project, clip);
    const map = mapOf(project, clip);
    const [low, high] = [clip.shown.from, clip.shown.from + clip.shown.frames].map((at) => positionAt(map, at));
    const inSight = ({ position }: Moment): boolean => position > low! + 1e-6 && position < high!;
    return {
      sets: setsOf(own),
      hits: (analysis?.onsets.all.length ?? 0) > 0,
      of: (chosen) => {
        const found: Moment[] =
          chosen === HITS && source
            ? (analysis?.onsets.all ?? []).map(({ time, strength }) => ({
                position: secondsPosition(source, time),
                strength,
              }))
            : own
                .filter(({ marker }) => (marker.set ?? '') === chosen)
                .map((seen) => ({ position: positionAt(map, seen.at), strength: plain(seen) }));
        return found
          .filter(inSight)
          .sort((a, b) => a.position - b.position)
          .filter((one, index, all) => index === 0 || one.position - all[index - 1]!.position > 1e-6);
      },
    };
  }, [project, clip, source, analysis]);
}

/** Moments of a clip put on markers beside it: proposed, shown as threads, changed by dragging, and pinned. */
export function LandSheet(props: SheetProps) {
  const project = useAppSelector((state) => state.project.document)!;
  const clip = findClip(project, props.clipId);
  const place = placeOf(project, props.clipId);
  const beside = useBeside(props.clipId);
  if (!clip || !place) return null;
  if (beside.markers.length === 0) {
    return (
      <EmptySheet
        title="Land on markers"
        words="No markers pass while this clip is shown. Set some in Beats first."
        onClose={props.onClose}
      />
    );
  }
  return <Pairs {...props} clip={clip} />;
}

function Pairs({ clip, clipId, map, onClose }: SheetProps & { clip: Clip }) {
  const { unit } = useSession('unit');
  const beside = useBeside(clipId);
  const own = useMoments(clip);
  const { specs, texts, values, faults, set } = useEntries(() => ({
    moments: choiceField('Moments', own.sets[0] ?? HITS, [
      ...own.sets.map((name) => ({ value: name, label: name === '' ? 'Clip markers' : setName(name) })),
      { value: HITS, label: 'Hits in clip sound' },
    ]),
    most: countField('Strongest only', '24', 1),
    marks: beside.field(),
  }));
  const { moments = HITS, most = 24, marks = '' } = values ?? {};
  // The same ones for as long as they say the same: what was changed by hand outlives an analysis that ends meanwhile.
  const happening = useSame(useMemo(() => strongest(own.of(moments), most), [own, moments, most]));
  const targets = useSame(
    useMemo(
      () =>
        beside
          .chosen(marks)
          .filter(({ at }) => at > clip.shown.from + 1e-6)
          .map((seen) => ({ at: seen.at, strength: plain(seen) })),
      [beside, marks, clip],
    ),
  );
  const proposed = useMemo(
    () =>
      proposedPairs(
        map,
        clip.shown,
        happening.map(({ position, strength }) => ({ at: position, strength })),
        targets,
      ),
    [map, clip, happening, targets],
  );
  // What was changed by hand holds for the moments and markers it was changed in.
  const [changed, setChanged] = useState<{ of: readonly Pair[]; pairs: readonly Pair[] } | null>(null);
  const pairs = changed?.of === proposed ? changed.pairs : proposed;
  const pins = useMemo(
    () => pairs.map(({ moment, mark }): Pin => ({ source: happening[moment]!.position, output: targets[mark]!.at })),
    [pairs, happening, targets],
  );
  const edit = useMemo(() => (pins.length > 0 ? (now: typeof map) => landPairs(now, pins) : undefined), [pins]);
  return (
    <EditSheet
      title="Land on markers"
      label="land on markers"
      {...{ clipId, map, edit, onClose }}
      outcome={(after) => {
        const { least, greatest, misses } = landingOf(after, pins);
        const off = misses.reduce((far, miss) => Math.max(far, Math.abs(miss)), 0);
        const words = `${pins.length} on markers, ${off < 1e-6 ? '0' : off.toPrecision(2)} frames off`;
        return `${words}; speed ${formatPercent(least)} to ${formatPercent(greatest)}${least < 0 ? ', backwards in places' : ''}`;
      }}
    >
      <FormFields specs={specs} texts={texts} faults={faults} onChange={(name, text) => set({ [name]: text })} />
      {happening.length === 0 ? (
        <Text role="status" className="font-sans text-[13px] text-quiet">
          {moments === HITS && !own.hits
            ? 'No hits in this clip’s sound so far.'
            : 'This clip has no such moments where it is shown. Mark them on its source first.'}
        </Text>
      ) : (
        <>
          <PairThreads
            moments={happening.map(({ position }) => position)}
            marks={targets.map(({ at }) => at)}
            pairs={pairs}
            momentName={(index) => `Source frame ${formatSourceFrame(Math.floor(happening[index]!.position), unit)}`}
            markName={(index) => `marker at ${formatMoment(Math.floor(targets[index]!.at), map.outputRate, unit)}`}
            onPair={(moment, mark) =>
              setChanged({
                of: proposed,
                pairs: mark === undefined ? withoutPair(pairs, moment) : withPairOn(pairs, moment, mark),
              })
            }
          />
          <Text className="font-sans text-[12px] text-quiet">
            Drag a moment to another marker, or upwards to leave it out.
          </Text>
          {pairs === proposed ? null : <Button label="Propose again" onPress={() => setChanged(null)} />}
        </>
      )}
    </EditSheet>
  );
}
