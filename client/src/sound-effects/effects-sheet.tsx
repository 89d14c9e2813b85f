import type { ProjectDocument } from '@hastig/contract';
import {
  effectKinds,
  findClip,
  findContainer,
  mapOf,
  placeOf,
  searchEffects,
  speedCourse,
  type Effect,
  type EffectKind,
  type Target,
} from '@hastig/core';
import type { WantedEffect } from '@hastig/engine';
import Crosshair from 'lucide-react-native/icons/crosshair';
import Play from 'lucide-react-native/icons/play';
import Plus from 'lucide-react-native/icons/plus';
import Square from 'lucide-react-native/icons/square';
import { useMemo, useState } from 'react';
import { Text, View } from 'react-native';
import { addEffect } from '../store/add-effect';
import { useAppDispatch, useAppSelector } from '../store/hooks';
import { noticeSet } from '../store/session-slice';
import { Button, IconButton } from '../ui/button';
import { Choice } from '../ui/choice';
import { Field } from '../ui/field';
import { SheetFrame } from '../ui/sheet-frame';
import { useWide } from '../ui/use-wide';
import { VirtualList } from '../ui/virtual-list';
import { useAudition } from './audition';
import { EffectGrip, type SpotAt } from './drag-effect';
import { mayFollow, placingOptions, riseOptions, targetsFor, type Placing, type Rise } from './targets';

interface EffectsSheetProps {
  /** What the clips lie in. */
  containerId: string;
  /** The clip whose speed a whoosh may be made from; none where there is no clip. */
  clipId: string | undefined;
  /** Frame of the sequence or group that is looked at now. */
  near(): number;
  /** Tells the spot of the timeline under a point of the page, where the timeline is in sight. */
  spotAt?: SpotAt;
  onClose(): void;
}

const kindLabels: Record<EffectKind, string> = {
  whoosh: 'Whoosh',
  impact: 'Impact',
  riser: 'Riser',
  tick: 'Tick',
  rumble: 'Rumble',
};

/** An effect in the list: one of the library, or the one made for the clip. */
interface Row {
  id: string;
  name: string;
  about: string;
  wanted: WantedEffect;
  /** Where it goes, where only one moment is right. */
  on?: Target;
}

const seconds = (value: number): string => `${value.toFixed(value < 1 ? 2 : 1)} s`;

const rowOf = ({ id, name, seconds: lasts, loudest }: Effect): Row => ({
  ...{ id, name },
  about: `${seconds(lasts)} · loudest at ${seconds(loudest)}`,
  wanted: { id },
});

/** A whoosh made for a clip, where it is faster in one place than in others. */
function madeFor(project: ProjectDocument, clipId: string | undefined): Row | undefined {
  const clip = clipId === undefined ? undefined : findClip(project, clipId);
  const place = clip && placeOf(project, clip.id);
  if (!clip || !place) return undefined;
  const course = speedCourse(mapOf(project, clip), clip.shown.from, clip.shown.from + clip.shown.frames);
  return (
    course && {
      ...{ id: ':made', name: `Whoosh for ${clip.name}`, wanted: course },
      about: 'Follows the clip’s speed',
      on: { frame: place.from + course.begin + course.fastest - clip.shown.from },
    }
  );
}

/** The library of effects: searched, listened to, and laid so that the loudest moment is on a frame. */
export function EffectsSheet({ containerId, clipId, near, spotAt, onClose }: EffectsSheetProps) {
  const dispatch = useAppDispatch();
  const project = useAppSelector((state) => state.project.document)!;
  const { heard, hear, stop } = useAudition((name) =>
    dispatch(noticeSet(`${name} can’t be played here. Try again, or add it and play the timeline.`)),
  );
  const [search, setSearch] = useState('');
  const [kind, setKind] = useState<EffectKind | 'all'>('all');
  const [placing, setPlacing] = useState<Placing>('peak');
  const [rise, setRise] = useState<Rise>('own');
  const [choosing, setChoosing] = useState(useWide());
  const [adding, setAdding] = useState<string | null>(null);

  // Each frame of the clip is looked at.
  const made = useMemo(() => madeFor(project, clipId), [project, clipId]);
  const found = searchEffects(search, kind === 'all' ? undefined : kind).map(rowOf);
  const rows = made && search.trim() === '' && (kind === 'all' || kind === 'whoosh') ? [made, ...found] : found;

  const lay = async (id: string, effect: Parameters<typeof addEffect>[0]): Promise<void> => {
    setAdding(id);
    await dispatch(addEffect(effect));
    setAdding(null);
  };
  const add = async ({ id, name, wanted, on }: Row): Promise<void> => {
    const { targets, missing } = on ? { targets: [on] } : targetsFor(project, containerId, placing, near());
    if (missing) return void dispatch(noticeSet(missing));
    const follow = !on && mayFollow(placing) && rise === 'ramp';
    await lay(id, { wanted, name, containerId, targets, follow });
  };

  return (
    <SheetFrame title="Effects" onClose={onClose}>
      <View className="flex-row items-center gap-2">
        <Field label="Search" value={search} onChange={setSearch} words bare="Search effects" />
        <Button
          label={placingOptions.find(({ value }) => value === placing)!.label}
          icon={Crosshair}
          expanded={choosing}
          onPress={() => setChoosing(!choosing)}
        />
      </View>
      {choosing ? (
        <>
          <Choice label="Align loudest moment with" value={placing} onChange={setPlacing} options={placingOptions} />
          {mayFollow(placing) ? <Choice label="Rise" value={rise} onChange={setRise} options={riseOptions} /> : null}
          <Choice
            label="Kind"
            value={kind}
            onChange={setKind}
            options={[
              { value: 'all', label: 'All' },
              ...effectKinds.map((value) => ({ value, label: kindLabels[value] })),
            ]}
          />
        </>
      ) : null}
      {rows.length === 0 ? <Text className="font-sans text-[14px] text-quiet">No effect matches.</Text> : null}
      <VirtualList
        label="Effects"
        items={rows}
        keyOf={({ id }) => id}
        height={52}
        gap={4}
        render={(row) => (
          <View className="min-h-[52px] flex-row items-center gap-1 rounded-lg border border-line bg-ink px-1">
            {spotAt ? (
              <EffectGrip
                name={row.name}
                rate={findContainer(project, containerId)!.rate}
                spotAt={spotAt}
                onDrop={({ frame, trackId }) =>
                  void lay(row.id, {
                    ...{ wanted: row.wanted, name: row.name, containerId, follow: false },
                    ...{ targets: [{ frame }], track: trackId },
                  })
                }
              />
            ) : null}
            <IconButton
              label={heard === row.id ? `Stop ${row.name}` : `Play ${row.name}`}
              icon={heard === row.id ? Square : Play}
              onPress={() => (heard === row.id ? stop() : hear(row))}
            />
            <View className="min-w-0 flex-1">
              <Text numberOfLines={1} className="font-sans text-[14px] text-bone">
                {row.name}
              </Text>
              <Text numberOfLines={1} className="font-sans text-[12px] text-quiet">
                {adding === row.id ? 'Adding…' : row.about}
              </Text>
            </View>
            <IconButton
              label={`Add ${row.name}`}
              icon={Plus}
              disabled={adding !== null}
              onPress={() => void add(row)}
            />
          </View>
        )}
      />
    </SheetFrame>
  );
}
