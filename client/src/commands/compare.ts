import { router, type Href } from 'expo-router';
import Versions from 'lucide-react-native/icons/git-compare';
import type { RootState } from '../store/store';
import type { Command } from './command';

/** Leads to the versions of the clip that is open, and to two of them side by side. */
export const compareCommand = {
  id: 'compare',
  label: 'Versions',
  icon: Versions,
  group: 'Clip',
  shortcut: ['shift+v', 'Versions and compare', 'View'],
  run: ({ state, clip, clipId = clip?.id }) => {
    if (clipId) router.push(`/project/${state().project.id}/clip/${clipId}/compare` as Href);
  },
} as const satisfies Command<{ state(): RootState; clip?: { id: string }; clipId?: string }>;
