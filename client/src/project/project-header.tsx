import { usePathname, useRouter, type Href } from 'expo-router';
import Handbook from 'lucide-react-native/icons/circle-question-mark';
import ChevronLeft from 'lucide-react-native/icons/chevron-left';
import Redo from 'lucide-react-native/icons/redo-2';
import Undo from 'lucide-react-native/icons/undo-2';
import { Text, View } from 'react-native';
import { historyCommands } from '../commands/general';
import { JobSign } from '../places/jobs/job-sign';
import { handbookAddress } from '../places/handbook/pages';
import { useCommandKeys } from '../commands/use-commands';
import { useAppDispatch, useAppSelector } from '../store/hooks';
import { redone, undone, type SaveState } from '../store/project-slice';
import { IconButton } from '../ui/button';

const words: Record<SaveState, string> = {
  saved: 'saved',
  unsaved: 'saving…',
  saving: 'saving…',
  offline: 'not saved, retrying',
  full: 'not saved, disk full',
  conflict: 'changed elsewhere',
  refused: 'not saved',
};

/** Where one is, the way back, undo and redo, and whether all is saved. */
export function ProjectHeader({ title, back }: { title: string; back: string }) {
  const router = useRouter();
  const path = usePathname();
  const dispatch = useAppDispatch();
  const { past, future, save } = useAppSelector((state) => state.project);
  useCommandKeys(historyCommands, dispatch);
  const last = past.at(-1);
  const next = future.at(-1);
  const calm = save === 'saved' || save === 'saving' || save === 'unsaved';
  return (
    <View role="banner" className="h-12 flex-none flex-row items-center border-b border-line bg-ink px-1">
      <IconButton label="Back" icon={ChevronLeft} onPress={() => router.navigate(back as Href)} />
      <Text
        role="heading"
        aria-level={1}
        numberOfLines={1}
        className="min-w-0 flex-1 font-medium text-[15px] text-bone"
      >
        {title}
      </Text>
      <Text
        role="status"
        aria-label="Saving"
        className={`px-2 font-sans text-[12px] ${calm ? 'text-quiet' : 'text-wrong'}`}
      >
        {words[save]}
      </Text>
      <JobSign />
      <IconButton label="Handbook" icon={Handbook} narrow onPress={() => router.push(handbookAddress(path) as Href)} />
      <IconButton
        label={last ? `Undo: ${last.label}` : 'Undo'}
        icon={Undo}
        disabled={!last}
        onPress={() => dispatch(undone())}
      />
      <IconButton
        label={next ? `Redo: ${next.label}` : 'Redo'}
        icon={Redo}
        disabled={!next}
        onPress={() => dispatch(redone())}
      />
    </View>
  );
}
