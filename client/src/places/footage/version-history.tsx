import type { ProjectRevision } from '@hastig/contract';
import { formatRelative } from 'date-fns/formatRelative';
import Tag from 'lucide-react-native/icons/tag';
import History from 'lucide-react-native/icons/rotate-ccw-clock';
import { useEffect, useState } from 'react';
import { Text, View } from 'react-native';
import { api } from '../../store/api';
import { nameOf, versionHistory, restoreVersion, type EarlierState } from '../../store/version-history';
import { useAppDispatch, useAppSelector } from '../../store/hooks';
import { Button, IconButton } from '../../ui/button';
import { NameField } from '../../ui/name-field';

/** Listed at first; older ones are a tap away. */
const FIRST = 8;

/** The states the project was in, by the minute or by their names, and the way back to each. */
export function VersionHistory() {
  const dispatch = useAppDispatch();
  const id = useAppSelector((state) => state.project.id);
  const revision = useAppSelector((state) => state.project.revision);
  const saved = useAppSelector((state) => state.project.save === 'saved');
  const [open, setOpen] = useState(false);
  const [all, setAll] = useState(false);
  const [revisions, setRevisions] = useState<readonly ProjectRevision[] | null>(null);
  const [fault, setFault] = useState<string | null>(null);

  useEffect(() => {
    if (!open || !id) return undefined;
    let shown = true;
    api.listRevisions(id).then(
      (list) => {
        if (!shown) return;
        setRevisions(list);
        setFault(null);
      },
      (error: Error) => shown && setFault(error.message),
    );
    return () => {
      shown = false;
    };
  }, [open, id, revision]);

  const onName = async (named: number, name: string): Promise<boolean> => {
    if (!id) return false;
    try {
      await api.nameRevision(id, named, name);
      setRevisions(await api.listRevisions(id));
      setFault(null);
      return true;
    } catch (error) {
      setFault((error as Error).message);
      return false;
    }
  };

  const list = versionHistory(revisions ?? [], revision);
  const now = new Date();
  return (
    <View className="gap-2">
      <View className="flex-row">
        <Button label="Version history" icon={History} kind="quiet" expanded={open} onPress={() => setOpen(!open)} />
      </View>
      {open && fault !== null ? (
        <Text role="alert" className="font-sans text-[14px] text-wrong">
          {fault}
        </Text>
      ) : null}
      {open && revisions ? (
        <>
          {saved ? (
            <NameField
              label="Name of this version"
              name={nameOf(revisions, revision)}
              onName={(name) => void onName(revision, name)}
            />
          ) : null}
          <Text className="font-sans text-[14px] text-quiet">
            {list.length === 0
              ? 'No changes yet. Versions appear here as you edit.'
              : 'Older versions are thinned out over time. Those with a name are kept.'}
          </Text>
        </>
      ) : null}
      {open && list.length > 0 ? (
        <View role="list" aria-label="Version history" className="gap-1">
          {(all ? list : list.slice(0, FIRST)).map((state) => (
            <Version
              key={state.revision}
              {...{ state, now }}
              onName={(name) => onName(state.revision, name)}
              onRestore={(words) => void dispatch(restoreVersion(state.revision, words))}
            />
          ))}
          {!all && list.length > FIRST ? (
            <Button label={`Show all ${list.length}`} kind="quiet" onPress={() => setAll(true)} />
          ) : null}
        </View>
      ) : null}
    </View>
  );
}

interface VersionProps {
  state: EarlierState;
  now: Date;
  /** @returns whether it has that name now */
  onName(name: string): Promise<boolean>;
  onRestore(words: string): void;
}

function Version({ state: { name, at, changes }, now, onName, onRestore }: VersionProps) {
  const [naming, setNaming] = useState(false);
  const when = formatRelative(at, now);
  const words = name === '' ? when : `“${name}”`;
  return (
    <View role="listitem" className="gap-2 rounded-lg border border-line bg-raised px-3 py-1">
      <View className="min-h-[48px] flex-row items-center gap-1">
        <View className="min-w-0 flex-1">
          {name === '' ? null : (
            <Text numberOfLines={2} className="font-medium text-[14px] text-bone">
              {name}
            </Text>
          )}
          <Text className={`font-sans text-[14px] ${name === '' ? 'text-bone' : 'text-quiet'}`}>{when}</Text>
          <Text className="font-mono text-[13px] text-quiet">{changes === 1 ? '1 change' : `${changes} changes`}</Text>
        </View>
        <IconButton
          label={name === '' ? `Name the version of ${when}` : `Rename ${name}`}
          icon={Tag}
          pressed={naming}
          onPress={() => setNaming(!naming)}
        />
        <Button label="Restore" kind="quiet" onPress={() => onRestore(words)} />
      </View>
      {naming ? (
        <NameField
          label="Name"
          name={name}
          // What could not be kept stays in the entry, to be tried again.
          onName={(next) => {
            void onName(next).then((kept) => kept && setNaming(false));
          }}
        />
      ) : null}
    </View>
  );
}
