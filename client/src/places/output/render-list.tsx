import { removeRender, type StoredRender } from '@hastig/engine';
import Download from 'lucide-react-native/icons/download';
import Trash from 'lucide-react-native/icons/trash';
import { Text, View } from 'react-native';
import { IconButton } from '../../ui/button';
import { formatBytes } from '../../ui/format';
import { downloadRender } from './download-render';

/** The files that were rendered in this browser. */
export function RenderList({ renders, onChanged }: { renders: readonly StoredRender[]; onChanged(): void }) {
  if (renders.length === 0) {
    return (
      <Text className="font-sans text-[14px] text-quiet">
        No renders yet. Rendered files appear here and stay in this browser.
      </Text>
    );
  }
  return (
    <View role="list" aria-label="Rendered files" className="gap-1">
      {renders.map((render) => (
        <View
          key={render.name}
          role="listitem"
          className="flex-row items-center gap-2 rounded-lg border border-line bg-raised pl-3"
        >
          <View className="min-w-0 flex-1 py-1">
            <Text numberOfLines={1} className="font-sans text-[15px] text-bone">
              {render.name}
            </Text>
            <Text className="font-mono text-[12px] text-quiet">{formatBytes(render.bytes)}</Text>
          </View>
          <IconButton
            label={`Download ${render.name}`}
            icon={Download}
            onPress={() => void downloadRender(render.name)}
          />
          <IconButton
            label={`Delete ${render.name}`}
            icon={Trash}
            onPress={() => void removeRender(render.name).then(onChanged)}
          />
        </View>
      ))}
    </View>
  );
}
