import type { ProjectDocument } from '@hastig/contract';
import { containerFrames, findClip, findContainer, formatTime, placeOf } from '@hastig/core';
import { Text } from 'react-native';
import { SidePanel } from '../../project/side-panel';
import { useAppSelector, useSession } from '../../store/hooks';
import { ClipNumbers } from './clip-numbers';

interface TimelineSideProps {
  containerId: string;
  hidden: boolean;
}

/** The numbers of the chosen clip beside the picture; of the timeline, where none or several are chosen. */
export function TimelineSide({ containerId, hidden }: TimelineSideProps) {
  const project = useAppSelector((state) => state.project.document);
  const { selectedClips } = useSession('selectedClips');
  const [only] = selectedClips;
  // What was chosen may have been taken off the timeline since.
  const chosen = project && selectedClips.length === 1 && only && placeOf(project, only) ? only : undefined;
  const clip = project && chosen ? findClip(project, chosen) : undefined;
  if (!project) return null;
  return (
    <SidePanel title={clip?.name ?? 'Timeline'} {...{ hidden }}>
      {clip ? <ClipNumbers key={clip.id} clip={clip} /> : <Totals {...{ containerId, project, selectedClips }} />}
    </SidePanel>
  );
}

interface TotalsProps {
  containerId: string;
  project: ProjectDocument;
  selectedClips: readonly string[];
}

const plural = (count: number, word: string): string => `${count} ${word}${count === 1 ? '' : 's'}`;

/** How much lies there, and how much of it is chosen. */
function Totals({ containerId, project, selectedClips }: TotalsProps) {
  const { unit } = useSession('unit');
  const container = findContainer(project, containerId);
  if (!container) return null;
  const { rate, tracks } = container;
  const clips = tracks.reduce((sum, { items }) => sum + items.filter((item) => 'clip' in item).length, 0);
  const time = (frames: number): string => formatTime(frames, rate, unit);
  const chosen = selectedClips.flatMap((id) => findClip(project, id) ?? []);
  const frames = chosen.reduce((sum, { shown }) => sum + shown.frames, 0);
  return (
    <>
      <Text className="font-sans text-[14px] text-bone">
        {`${plural(clips, 'clip')} on ${plural(tracks.length, 'track')}, ${time(containerFrames(project, container))}`}
      </Text>
      <Text className="font-sans text-[14px] text-quiet">
        {chosen.length > 1
          ? `${chosen.length} clips selected, ${time(frames)} in all`
          : 'Select a clip for its numbers.'}
      </Text>
    </>
  );
}
