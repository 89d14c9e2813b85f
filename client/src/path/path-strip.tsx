import type { ProjectDocument } from '@hastig/contract';
import { usePathname, useRouter, type Href } from 'expo-router';
import Check from 'lucide-react-native/icons/check';
import X from 'lucide-react-native/icons/x';
import { useEffect, useState } from 'react';
import { Text, View } from 'react-native';
import { useAppDispatch, useAppSelector } from '../store/hooks';
import { pathShown, stepsDone } from '../store/path-slice';
import { Button, IconButton } from '../ui/button';
import { Icon } from '../ui/icon';
import { pathSteps, stepsDoneIn, type PathStep } from './steps';
import { useKeptPath } from './use-kept-path';

interface StepWords {
  title: string;
  words: string;
  /** Where it is done, of a clip. */
  address(clipId: string): string;
}

const steps: Record<PathStep, StepWords> = {
  slow: {
    title: 'Slow a part',
    words: 'Tap the speed under the picture and type 50%, or drag the curve down.',
    address: (clip) => `/clip/${clip}/pace`,
  },
  land: {
    title: 'Land it on a beat',
    words: 'More, Land on markers, Apply: the marble’s strikes move onto beats, and pins hold them there.',
    address: (clip) => `/clip/${clip}/pace`,
  },
  pitch: {
    title: 'Keep its pitch',
    words: 'Pitch, Is kept, Apply: what is slow no longer sounds deeper.',
    address: (clip) => `/clip/${clip}/sound`,
  },
  compare: {
    title: 'Compare',
    words: 'See it beside its footage at 100%, side by side or with a wipe.',
    address: (clip) => `/clip/${clip}/compare`,
  },
  render: {
    title: 'Render',
    words: 'Press Render. The file stays in this browser; download it when it is done.',
    address: () => '/output',
  },
};

/** The first clip with picture: what the path is about. */
function pathClip({ sequence, clips, sources }: ProjectDocument): string | undefined {
  const seen = new Set(sources.filter(({ facts }) => facts.video).map(({ id }) => id));
  const laid = sequence.tracks.flatMap(({ kind, items }) =>
    kind === 'picture' ? items.flatMap((item) => ('clip' in item ? [item.clip] : [])) : [],
  );
  return laid.find((id) => clips.some((clip) => clip.id === id && seen.has(clip.of.id)));
}

/** The step of the path that is next, in the project it leads through. */
export function PathStrip() {
  const router = useRouter();
  const dispatch = useAppDispatch();
  const at = usePathname();
  const path = useKeptPath();
  const projectId = useAppSelector((state) => state.project.id);
  const project = useAppSelector((state) => state.project.document);
  const outcomes = useAppSelector((state) => state.render.outcomes);
  // What was rendered before, of another project for one, is no step of the path.
  const [before] = useState(outcomes);
  const rendered = outcomes.some((outcome) => outcome.made !== undefined && !before.includes(outcome));
  const here = path.project !== null && path.project === projectId && project !== null;
  useEffect(() => {
    if (!here || !path.start) return;
    const found: PathStep[] = [
      ...stepsDoneIn(project, path.start),
      ...(at.endsWith('/compare') ? (['compare'] as const) : []),
      ...(rendered ? (['render'] as const) : []),
    ];
    if (found.some((step) => !path.done.includes(step))) dispatch(stepsDone(found));
  }, [dispatch, here, path, project, at, rendered]);
  if (!here || !path.open) return null;
  const next = pathSteps.find((step) => !path.done.includes(step));
  const clip = pathClip(project);
  const address = next && clip ? `/project/${projectId}${steps[next].address(clip)}` : undefined;
  return (
    <View
      role="region"
      aria-label="Path through the demo"
      className="flex-none flex-row items-center gap-1 border-b border-line bg-raised py-1 pl-3 pr-1"
    >
      {next ? (
        <>
          <View className="min-w-0 flex-1">
            <Text className="font-medium text-[14px] text-bone">
              {`${path.done.length + 1} of ${pathSteps.length} · ${steps[next].title}`}
            </Text>
            <Text className="font-sans text-[13px] text-quiet">{steps[next].words}</Text>
          </View>
          {address && !at.startsWith(address) ? (
            <Button label="Go there" onPress={() => router.push(address as Href)} />
          ) : null}
          <Button label="Skip" kind="quiet" onPress={() => dispatch(stepsDone([next]))} />
        </>
      ) : (
        <View className="min-h-[44px] min-w-0 flex-1 flex-row items-center gap-2">
          <Icon of={Check} size={20} />
          <Text className="min-w-0 flex-1 font-sans text-[14px] text-bone">
            That was the whole path. The handbook has the rest.
          </Text>
        </View>
      )}
      <IconButton label="Leave the path" icon={X} onPress={() => dispatch(pathShown(false))} />
    </View>
  );
}
