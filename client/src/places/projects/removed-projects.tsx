import type { ProjectSummary } from '@hastig/contract';
import History from 'lucide-react-native/icons/rotate-ccw-clock';
import { useState } from 'react';
import { Text, View } from 'react-native';
import { Button } from '../../ui/button';

interface RemovedProjectsProps {
  removed: readonly ProjectSummary[];
  onRestore(id: string): void;
  onDelete(id: string): void;
}

/** Projects that were removed and can be brought back, or deleted at once. */
export function RemovedProjects({ removed, onRestore, onDelete }: RemovedProjectsProps) {
  const [open, setOpen] = useState(false);
  if (removed.length === 0) return null;
  return (
    <View className="gap-2">
      <View className="flex-row">
        <Button
          label={`Removed (${removed.length})`}
          icon={History}
          kind="quiet"
          expanded={open}
          onPress={() => setOpen(!open)}
        />
      </View>
      {open ? (
        <>
          <Text className="font-sans text-[14px] text-quiet">
            Kept for a week. Deleting one also deletes its versions, and footage no other project uses.
          </Text>
          <View role="list" aria-label="Removed projects" className="gap-1">
            {removed.map(({ id, name }) => (
              <View
                key={id}
                role="listitem"
                aria-label={name}
                className="min-h-[52px] flex-row flex-wrap items-center justify-end rounded-lg border border-line pl-3"
              >
                <Text numberOfLines={1} className="min-w-[120px] flex-1 font-sans text-[15px] text-bone">
                  {name}
                </Text>
                <Button label="Restore" kind="quiet" onPress={() => onRestore(id)} />
                <Button label="Delete now" kind="quiet" onPress={() => onDelete(id)} />
              </View>
            ))}
          </View>
        </>
      ) : null}
    </View>
  );
}
