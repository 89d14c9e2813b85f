import type { ProjectSummary } from '@hastig/contract';
import { formatDistanceToNow } from 'date-fns/formatDistanceToNow';
import { useRouter } from 'expo-router';
import Check from 'lucide-react-native/icons/check';
import Copy from 'lucide-react-native/icons/copy';
import Trash from 'lucide-react-native/icons/trash';
import { Pressable, Text, View } from 'react-native';
import { IconButton } from '../../ui/button';
import { formatBytes } from '../../ui/format';
import { Icon } from '../../ui/icon';
import { lengthWords } from './listed';
import { ProjectPicture } from './project-picture';

const plural = (count: number, word: string): string => `${count} ${word}${count === 1 ? '' : 's'}`;

interface ProjectRowProps {
  project: ProjectSummary;
  /** Changes of it are on this device only. */
  unsent: boolean;
  /** Whether it is chosen; undefined while none are being chosen. */
  chosen: boolean | undefined;
  onChoose(): void;
  onCopy(): void;
  onRemove(): void;
}

/** A project: what it looks like, how long and how large it is, and what it lacks. */
export function ProjectRow({ project, unsent, chosen, onChoose, onCopy, onRemove }: ProjectRowProps) {
  const router = useRouter();
  const { id, name, picture, clips, seconds, bytes, missing, updatedAt } = project;
  const facts = [
    lengthWords(seconds),
    plural(clips, 'clip'),
    formatBytes(bytes),
    formatDistanceToNow(new Date(updatedAt), { addSuffix: true }),
  ];
  const wrong = [missing > 0 && plural(missing, 'missing file'), unsent && 'has unsaved changes'].filter(Boolean);
  const choosing = chosen !== undefined;
  return (
    <View className={`flex-row items-center rounded-xl border bg-raised ${chosen ? 'border-bone' : 'border-line'}`}>
      <Pressable
        role={choosing ? 'checkbox' : 'link'}
        accessibilityLabel={choosing ? `Select ${name}` : `Open ${name}`}
        aria-checked={chosen}
        onPress={() => (choosing ? onChoose() : router.push(`/project/${id}`))}
        className="min-h-[76px] min-w-0 flex-1 flex-row items-center gap-3 rounded-xl p-2 hover:bg-ink"
      >
        <ProjectPicture of={picture} name={name} />
        <View className="min-w-0 flex-1 gap-0.5">
          <Text numberOfLines={1} className="font-medium text-[16px] text-bone">
            {name}
          </Text>
          <Text numberOfLines={2} className="font-sans text-[13px] text-quiet">
            {facts.join(' · ')}
          </Text>
          {wrong.length > 0 ? <Text className="font-sans text-[13px] text-wrong">{wrong.join(' · ')}</Text> : null}
        </View>
        {chosen ? <Icon of={Check} size={20} /> : null}
      </Pressable>
      {choosing ? null : (
        <View className="flex-row pr-1">
          <IconButton label={`Copy ${name}`} icon={Copy} narrow onPress={onCopy} />
          <IconButton label={`Remove ${name}`} icon={Trash} narrow onPress={onRemove} />
        </View>
      )}
    </View>
  );
}
