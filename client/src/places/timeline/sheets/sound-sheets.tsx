import { useStore } from 'react-redux';
import { EffectsSheet } from '../../../sound-effects/effects-sheet';
import { AlignSheet } from '../../../sound-effects/align-sheet';
import { MixSheet } from '../../../sound/mix-sheet';
import type { RootState } from '../../../store/store';
import type { TimelineSheetProps } from '../commands/context';

/** The library of effects, from the timeline: the playhead is a frame of it. */
export function TimelineEffects({ containerId, clip, spotAt, onClose }: TimelineSheetProps) {
  const store = useStore<RootState>();
  const near = (): number => store.getState().session.playhead;
  return <EffectsSheet {...{ containerId, near, spotAt, onClose }} clipId={clip?.id} />;
}

/** A sound of the timeline aligned with a moment. */
export function TimelineAlign({ clip, onClose }: Pick<TimelineSheetProps, 'clip' | 'onClose'>) {
  const store = useStore<RootState>();
  return clip ? (
    <AlignSheet key={clip.id} clipId={clip.id} near={() => store.getState().session.playhead} onClose={onClose} />
  ) : null;
}

/** How the timeline's tracks sound together. */
export function TimelineMix({ containerId, clip, onClose }: TimelineSheetProps) {
  return <MixSheet {...{ containerId, onClose }} clipId={clip?.id} />;
}
