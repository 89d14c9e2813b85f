import {
  duplicateVersion,
  removeVersion,
  renameVersion,
  switchVersion,
  takePart,
  versionParts,
  type VersionPart,
  type VersionTarget,
} from '@hastig/core';
import Compare from 'lucide-react-native/icons/square-split-horizontal';
import Ellipsis from 'lucide-react-native/icons/ellipsis';
import { useState } from 'react';
import { Text, View } from 'react-native';
import { rearrange } from '../../store/edit';
import { useAppDispatch } from '../../store/hooks';
import { newId } from '../../store/new-id';
import { Button, IconButton } from '../../ui/button';
import { NameField } from '../../ui/name-field';

const partWords: Record<VersionPart, string> = { timing: 'Take timing', picture: 'Take picture', sound: 'Take sound' };

interface VersionRowProps {
  target: VersionTarget;
  id: string;
  name: string;
  /** It is the one that is worked on. */
  live: boolean;
  /** What it comes to, in words. */
  facts: string;
  onCompare(): void;
}

/** A version: switched to, compared, and behind “more” all else that is done with it. */
export function VersionRow({ target, id, name, live, facts, onCompare }: VersionRowProps) {
  const dispatch = useAppDispatch();
  const [open, setOpen] = useState(false);
  return (
    <View
      role="listitem"
      aria-label={name}
      className={`gap-2 rounded-lg border bg-raised py-1 pl-3 pr-1 ${live ? 'border-bone' : 'border-line'}`}
    >
      <View className="min-h-[48px] flex-row items-center gap-1">
        <View className="min-w-0 flex-1">
          <Text numberOfLines={2} className="font-medium text-[15px] text-bone">
            {name}
          </Text>
          <Text className="font-mono text-[12px] text-quiet">{facts}</Text>
        </View>
        {live ? (
          <Text className="px-3 font-sans text-[14px] text-quiet">Current</Text>
        ) : (
          <>
            <IconButton label={`Compare with ${name}`} icon={Compare} onPress={onCompare} />
            <Button
              label="Switch"
              kind="quiet"
              onPress={() => dispatch(rearrange(`switch to ${name}`, (now) => switchVersion(now, target, id, newId)))}
            />
          </>
        )}
        <IconButton label={`More for ${name}`} icon={Ellipsis} pressed={open} onPress={() => setOpen(!open)} />
      </View>
      {open ? (
        <View className="gap-2 pb-2 pr-2">
          <NameField
            label="Name"
            name={name}
            onName={(next) => dispatch(rearrange('rename a version', (now) => renameVersion(now, target, id, next)))}
          />
          <View className="flex-row flex-wrap gap-2">
            {live
              ? null
              : versionParts.map((part) => (
                  <Button
                    key={part}
                    label={partWords[part]}
                    onPress={() =>
                      dispatch(rearrange(`take the ${part} of ${name}`, (now) => takePart(now, target, id, part)))
                    }
                  />
                ))}
            <Button
              label="Duplicate"
              onPress={() =>
                dispatch(rearrange(`duplicate ${name}`, (now) => duplicateVersion(now, target, id, newId)))
              }
            />
            {live ? null : (
              <Button
                label="Remove"
                onPress={() => dispatch(rearrange(`remove ${name}`, (now) => removeVersion(now, target, id)))}
              />
            )}
          </View>
        </View>
      ) : null}
    </View>
  );
}
