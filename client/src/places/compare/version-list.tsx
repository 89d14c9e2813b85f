import {
  contentExtent,
  formatPercent,
  formatTime,
  newVersion,
  outputRateOf,
  shownSpeed,
  versionsIn,
  type Content,
  type Side,
  type VersionTarget,
} from '@hastig/core';
import type { ProjectDocument } from '@hastig/contract';
import Plus from 'lucide-react-native/icons/plus';
import { Text, View } from 'react-native';
import { rearrange } from '../../store/edit';
import { useAppDispatch, useSession } from '../../store/hooks';
import { Button } from '../../ui/button';
import { EarlierMoments } from './earlier-moments';
import { newId } from '../../store/new-id';
import { VersionRow } from './version-row';

interface VersionListProps {
  project: ProjectDocument;
  target: VersionTarget;
  liveVersion: string | undefined;
  onCompare(side: Side, name: string): void;
}

/** The versions of something: what each is, and what is done with it. */
export function VersionList({ project, target, liveVersion, onCompare }: VersionListProps) {
  const dispatch = useAppDispatch();
  const { unit } = useSession('unit');
  const versions = versionsIn(project, target);
  const factsOf = (content: Content, live: boolean): string => {
    const { frames, clips, rate } = contentExtent(content);
    if (clips === 0) return 'empty';
    const length = formatTime(
      frames,
      rate ?? ('clip' in target ? outputRateOf(project, target.clip) : project.sequence.rate),
      unit,
    );
    if ('clip' in target) return live ? `${length} · ${formatPercent(shownSpeed(project, target.clip))}` : length;
    return `${length} · ${clips} ${clips === 1 ? 'clip' : 'clips'}`;
  };
  return (
    <View className="gap-2">
      <Text role="heading" aria-level={2} className="font-medium text-[16px] text-bone">
        Versions
      </Text>
      {versions.length === 0 ? (
        <Text className="font-sans text-[14px] text-quiet">
          None yet. A new version begins as a copy; what it is now is kept as it is.
        </Text>
      ) : (
        <View role="list" aria-label="Versions" className="gap-1">
          {versions.map(({ id, name, content }) => (
            <VersionRow
              key={id}
              {...{ target, id, name }}
              live={id === liveVersion}
              facts={factsOf(content, id === liveVersion)}
              onCompare={() => onCompare({ is: 'version', id }, name)}
            />
          ))}
        </View>
      )}
      <View className="flex-row flex-wrap gap-2">
        <Button
          label="New version"
          icon={Plus}
          onPress={() => dispatch(rearrange('make a new version', (now) => newVersion(now, target, newId)))}
        />
      </View>
      <EarlierMoments {...{ target, onCompare }} />
    </View>
  );
}
