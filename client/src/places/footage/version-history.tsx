import { formatRelative } from 'date-fns/formatRelative';
import History from 'lucide-react-native/icons/rotate-ccw-clock';
import { useEffect, useState } from 'react';
import { Text, View } from 'react-native';
import { api } from '../../store/api';
import { versionHistory, restoreVersion, type EarlierState } from '../../store/version-history';
import { useAppDispatch, useAppSelector } from '../../store/hooks';
import { Button } from '../../ui/button';

/** Listed at first; older ones are a tap away. */
const FIRST = 8;

/** The states the project was in, by the minute, and the way back to each. */
export function VersionHistory() {
  const dispatch = useAppDispatch();
  const { id, revision } = useAppSelector((state) => state.project);
  const [open, setOpen] = useState(false);
  const [all, setAll] = useState(false);
  const [states, setStates] = useState<EarlierState[] | string | null>(null);

  useEffect(() => {
    if (!open || !id) return undefined;
    let shown = true;
    api.listRevisions(id).then(
      (revisions) => shown && setStates(versionHistory(revisions, revision)),
      (error: Error) => shown && setStates(error.message),
    );
    return () => {
      shown = false;
    };
  }, [open, id, revision]);

  const list = Array.isArray(states) ? states : [];
  const now = new Date();
  return (
    <View className="gap-2">
      <View className="flex-row">
        <Button label="Version history" icon={History} kind="quiet" onPress={() => setOpen(!open)} />
      </View>
      {open && typeof states === 'string' ? (
        <Text role="alert" className="font-sans text-[14px] text-wrong">
          {states}
        </Text>
      ) : null}
      {open && Array.isArray(states) && states.length === 0 ? (
        <Text className="font-sans text-[14px] text-quiet">No changes yet. Versions appear here as you edit.</Text>
      ) : null}
      {open && list.length > 0 ? (
        <View role="list" aria-label="Version history" className="gap-1">
          {(all ? list : list.slice(0, FIRST)).map(({ revision: earlier, at, changes }) => {
            const words = formatRelative(at, now);
            return (
              <View
                key={earlier}
                role="listitem"
                className="min-h-[48px] flex-row items-center gap-3 rounded-lg border border-line bg-raised px-3"
              >
                <Text className="min-w-0 flex-1 font-sans text-[14px] text-bone">{words}</Text>
                <Text className="font-mono text-[13px] text-quiet">
                  {changes === 1 ? '1 change' : `${changes} changes`}
                </Text>
                <Button label="Restore" kind="quiet" onPress={() => void dispatch(restoreVersion(earlier, words))} />
              </View>
            );
          })}
          {!all && list.length > FIRST ? (
            <Button label={`Show all ${list.length}`} kind="quiet" onPress={() => setAll(true)} />
          ) : null}
        </View>
      ) : null}
    </View>
  );
}
