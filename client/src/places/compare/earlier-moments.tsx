import type { ProjectRevision } from '@hastig/contract';
import { addVersion, type Side, type VersionTarget } from '@hastig/core';
import { formatRelative } from 'date-fns/formatRelative';
import Compare from 'lucide-react-native/icons/square-split-horizontal';
import History from 'lucide-react-native/icons/rotate-ccw-clock';
import { useEffect, useState } from 'react';
import { Text, View } from 'react-native';
import { api } from '../../store/api';
import { rearrange } from '../../store/edit';
import { useAppDispatch, useAppSelector } from '../../store/hooks';
import { noticeSet } from '../../store/session-slice';
import { versionHistory } from '../../store/version-history';
import { Button, IconButton } from '../../ui/button';
import { earlierContent } from './side-options';
import { newId } from '../../store/new-id';

/** Listed at first; older ones are a tap away. */
const FIRST = 6;

interface EarlierMomentsProps {
  target: VersionTarget;
  onCompare(side: Side, name: string): void;
}

/** What something was at earlier moments of the project: each compared, or kept as a version. */
export function EarlierMoments({ target, onCompare }: EarlierMomentsProps) {
  const dispatch = useAppDispatch();
  const id = useAppSelector((state) => state.project.id);
  const revision = useAppSelector((state) => state.project.revision);
  const [open, setOpen] = useState(false);
  const [all, setAll] = useState(false);
  const [revisions, setRevisions] = useState<readonly ProjectRevision[]>();
  useEffect(() => {
    if (!open || !id) return undefined;
    let shown = true;
    api.listRevisions(id).then(
      (list) => shown && setRevisions(list),
      (error: Error) => shown && dispatch(noticeSet(error.message)),
    );
    return () => {
      shown = false;
    };
  }, [open, id, revision, dispatch]);
  const now = new Date();
  const moments = versionHistory(revisions ?? [], revision).map(({ revision: number, name, at }) => ({
    number,
    words: name || formatRelative(at, now),
  }));
  const compare = async (number: number, words: string): Promise<void> => {
    const content = await dispatch(earlierContent(number, target));
    if (content) onCompare({ is: 'content', content }, words);
  };
  const keep = async (number: number, words: string): Promise<void> => {
    const content = await dispatch(earlierContent(number, target));
    if (!content) return;
    const version = { id: newId(), name: words, content };
    dispatch(rearrange('keep an earlier version', (project) => addVersion(project, target, version, newId)));
  };
  return (
    <View className="gap-1">
      <View className="flex-row">
        <Button label="Earlier moments" icon={History} kind="quiet" expanded={open} onPress={() => setOpen(!open)} />
      </View>
      {open && revisions && moments.length === 0 ? (
        <Text className="font-sans text-[14px] text-quiet">No changes yet. Earlier moments appear as you edit.</Text>
      ) : null}
      {open && moments.length > 0 ? (
        <View role="list" aria-label="Earlier moments" className="gap-1">
          {(all ? moments : moments.slice(0, FIRST)).map(({ number, words }) => (
            <View
              key={number}
              role="listitem"
              aria-label={words}
              className="min-h-[48px] flex-row items-center gap-1 rounded-lg border border-line bg-raised pl-3 pr-1"
            >
              <Text className="min-w-0 flex-1 font-sans text-[14px] text-bone">{words}</Text>
              <IconButton label={`Compare with ${words}`} icon={Compare} onPress={() => void compare(number, words)} />
              <Button label="Keep" kind="quiet" onPress={() => void keep(number, words)} />
            </View>
          ))}
          {!all && moments.length > FIRST ? (
            <Button label={`Show all ${moments.length}`} kind="quiet" onPress={() => setAll(true)} />
          ) : null}
        </View>
      ) : null}
    </View>
  );
}
