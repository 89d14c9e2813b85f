import {
  compareSides,
  compareWays,
  liveVersionOf,
  versionTarget,
  type CompareSide,
  type CompareWay,
  type Side,
} from '@hastig/core';
import { listRenders, type StoredRender } from '@hastig/engine';
import { useEffect, useMemo, useState } from 'react';
import { ScrollView, Text, View } from 'react-native';
import { compareBegun, compareEnded, compareSpeedSet, comparingSet, sideChosen } from '../../store/compare-slice';
import { useAppDispatch, useAppSelector } from '../../store/hooks';
import { comparedSides } from '../../store/selectors';
import { Choice } from '../../ui/choice';
import { useArrangement } from '../../ui/use-wide';
import { MeasuredPart } from './measured-part';
import { comparableRenders, renderSide, sideOptions } from './side-options';
import { VersionList } from './version-list';

/** One alone blinks: it takes turns with the other. */
const wayNames: Record<CompareWay, string> = {
  beside: 'Side by side',
  above: 'One above the other',
  wipe: 'Wipe',
  difference: 'Difference',
  alone: 'Blink',
};
/** A render among what a side is chosen from; another kind is there already. */
const FILE = 'file ';
const speeds = { '1': '100%', '0.5': '50%', '0.25': '25%' } as const;

interface ComparePlaceProps {
  clipId?: string;
  containerId?: string;
}

/** Versions of a clip, a group or the film, two of them side by side, and the numbers of each. */
export function ComparePlace({ clipId, containerId }: ComparePlaceProps) {
  const dispatch = useAppDispatch();
  const arrangement = useArrangement();
  const project = useAppSelector((state) => state.project.document)!;
  const on = useAppSelector((state) => state.compare.on);
  const programs = useAppSelector(comparedSides);
  const target = useMemo(() => versionTarget(clipId, containerId), [clipId, containerId]);
  const [renders, setRenders] = useState<StoredRender[]>([]);
  // A side that stands for what is in no list: an earlier moment.
  const [apart, setApart] = useState<Partial<Record<CompareSide, string>>>({});
  useEffect(() => {
    listRenders().then(
      (list) => setRenders(comparableRenders(list)),
      () => setRenders([]),
    );
  }, []);

  const options = sideOptions(project, target);
  const [now, other] = [options[0]!, options[1]!];
  useEffect(() => {
    const way: CompareWay = arrangement === 'phone' ? 'above' : 'beside';
    dispatch(
      compareBegun({
        target,
        sides: { a: now.side, b: other.side },
        names: { a: now.label, b: other.label },
        how: { way, lead: 'a', by: 'output', at: 0.5, alone: 'a' },
        speed: 1,
      }),
    );
    return () => void dispatch(compareEnded());
    // Begun once for each thing that is compared; what is chosen then is not undone by an edit, nor by turning the phone.
  }, [dispatch, target]);

  // What a side is called changes with its version, and a version may go.
  useEffect(() => {
    for (const which of on ? compareSides : []) {
      const side = on!.sides[which];
      if (side.is === 'file' || side.is === 'content') continue;
      const known = options.find((one) => JSON.stringify(one.side) === JSON.stringify(side)) ?? now;
      if (known.label !== on!.names[which] || known.side.is !== side.is)
        dispatch(sideChosen({ which, side: known.side, name: known.label }));
    }
  });
  if (!on || !programs) return null;
  const choices = [
    ...options.map(({ value, label }) => ({ value, label })),
    ...renders.map(({ name }) => ({ value: `${FILE}${name}`, label: name })),
  ];
  const choose = (which: CompareSide, side: Side, name: string, told?: string): void => {
    setApart((before) => ({ ...before, [which]: told }));
    dispatch(sideChosen({ which, side, name }));
  };
  const valueOf = (which: CompareSide): string => {
    const side = on.sides[which];
    if (side.is === 'file') return `${FILE}${on.names[which]}`;
    return options.find((one) => JSON.stringify(one.side) === JSON.stringify(side))?.value ?? '';
  };
  const onChoice = async (which: CompareSide, value: string): Promise<void> => {
    const known = options.find((one) => one.value === value);
    if (known) return choose(which, known.side, known.label);
    const render = renders.find(({ name }) => `${FILE}${name}` === value);
    const side = render && (await dispatch(renderSide(render)));
    if (side) choose(which, side, render.name);
  };
  return (
    <ScrollView className="min-h-0 flex-1" contentContainerClassName="items-center px-4 py-3">
      <View className="w-full max-w-[720px] gap-4">
        <VersionList
          {...{ project, target }}
          liveVersion={liveVersionOf(project, target)}
          onCompare={(side, name) => choose('b', side, name, side.is === 'content' ? name : undefined)}
        />
        <Text role="heading" aria-level={2} className="font-medium text-[16px] text-bone">
          Compare
        </Text>
        {compareSides.map((which) => (
          <Choice
            key={which}
            label={which.toUpperCase()}
            oneLine={arrangement !== 'wide'}
            options={apart[which] ? [...choices, { value: '', label: apart[which] }] : choices}
            value={valueOf(which)}
            onChange={(value) => void onChoice(which, value)}
          />
        ))}
        <Choice
          label="Shown"
          oneLine={arrangement !== 'wide'}
          options={compareWays.map((value) => ({ value, label: wayNames[value] }))}
          value={on.how.way}
          onChange={(way) => dispatch(comparingSet({ way }))}
        />
        <View className={arrangement === 'wide' ? 'flex-row flex-wrap gap-4' : 'gap-4'}>
          <Choice
            label="In step by"
            oneLine={arrangement !== 'wide'}
            options={[
              { value: 'output', label: 'Output time' },
              { value: 'source', label: 'Source frame' },
            ]}
            value={on.how.by}
            onChange={(by) => dispatch(comparingSet({ by: by as 'output' | 'source' }))}
          />
          <Choice
            label="Play at"
            oneLine={arrangement !== 'wide'}
            options={Object.entries(speeds).map(([value, label]) => ({ value, label }))}
            value={String(on.speed)}
            onChange={(value) => dispatch(compareSpeedSet(Number(value)))}
          />
          <Choice
            label="Sound"
            oneLine={arrangement !== 'wide'}
            options={compareSides.map((value) => ({ value, label: `Of ${value.toUpperCase()}` }))}
            value={on.how.lead}
            onChange={(lead) => dispatch(comparingSet({ lead: lead as CompareSide }))}
          />
        </View>
        <MeasuredPart names={on.names} programs={programs} files={renders} />
      </View>
    </ScrollView>
  );
}
