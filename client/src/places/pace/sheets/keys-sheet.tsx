import { easeKeys, moveKeys, removeKeys } from '@hastig/core';
import { Text, View } from 'react-native';
import { retime } from '../../../store/edit';
import { useAppDispatch, useSession } from '../../../store/hooks';
import { keysSelected } from '../../../store/session-slice';
import { Button } from '../../../ui/button';
import { EaseSheet } from './edits';
import { FormSheet, type SheetProps } from './form-sheet';
import { easeField, keepsField } from '../../../form/specs';

/** Eases the ramps beside the chosen keys; this ramp where none are chosen. */
export function EaseChosenSheet(props: SheetProps) {
  const { selectedKeys } = useSession('selectedKeys');
  return selectedKeys.length > 0 ? <EaseKeysSheet {...props} keys={selectedKeys} /> : <EaseSheet {...props} />;
}

/** Eases all ramps beside the chosen keys. */
function EaseKeysSheet({ keys, ...props }: SheetProps & { keys: readonly number[] }) {
  return (
    <FormSheet
      {...props}
      title={`Ease ${keys.length} keys`}
      label="ease keys"
      fields={() => ({ ease: easeField(), keeps: keepsField })}
      edit={({ ease, keeps }) =>
        (map) =>
          easeKeys(map, keys, ease, keeps)
        }
    />
  );
}

interface ChosenKeysProps {
  clipId: string;
  keys: readonly number[];
  onEase(): void;
}

/** What can be done with several keys at once. */
export function ChosenKeys({ clipId, keys, onEase }: ChosenKeysProps) {
  const dispatch = useAppDispatch();
  const move = (by: number) => () => dispatch(retime('move keys', clipId, (map) => moveKeys(map, keys, by)));
  const remove = (): void => {
    dispatch(retime('remove keys', clipId, (map) => removeKeys(map, keys)));
    dispatch(keysSelected([]));
  };
  return (
    <View
      role="toolbar"
      aria-label="Selected keys"
      className="flex-none flex-row flex-wrap items-center gap-1 border-t border-line bg-raised px-2 py-1"
    >
      <Text className="px-1 font-medium text-[13px] text-bone">{`${keys.length} keys`}</Text>
      <Button label="Ease" kind="quiet" onPress={onEase} />
      <Button label="− 1" kind="quiet" onPress={move(-1)} />
      <Button label="+ 1" kind="quiet" onPress={move(1)} />
      <Button label="Remove" kind="quiet" onPress={remove} />
      <Button label="Deselect" kind="quiet" onPress={() => dispatch(keysSelected([]))} />
    </View>
  );
}
