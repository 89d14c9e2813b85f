import { markersOver, positionSeconds, setsOf, spacingOf, type SeenMarker } from '@hastig/core';
import { Pressable, Text, View } from 'react-native';
import { countWords, setName, spacingWords, tempoWords } from '../../beats/beat-words';
import type { MusicClip } from '../../beats/music';
import type { AnalysisState } from '../../beats/use-analysis';
import { SidePanel } from '../../project/side-panel';
import { useAppDispatch, useAppSelector, useSession } from '../../store/hooks';
import { markerSetChosen } from '../../store/session-slice';
import { MusicLine } from './music-line';

interface BeatsSideProps {
  containerId: string;
  music: MusicClip;
  /** Those that are shown. */
  markers: readonly SeenMarker[];
  state: AnalysisState;
  hidden: boolean;
}

/** The sets of the music's markers beside the picture, each with its tempo; one is chosen there. */
export function BeatsSide({ containerId, music, markers, state, hidden }: BeatsSideProps) {
  return (
    <SidePanel title="Sets and tempo" hidden={hidden}>
      <View className="-mx-3">
        <MusicLine {...{ containerId, music, markers, state }} />
      </View>
      <Sets {...{ containerId, music }} />
    </SidePanel>
  );
}

// By itself, so that nothing of it is counted where it is not seen.
function Sets({ containerId, music }: Pick<BeatsSideProps, 'containerId' | 'music'>) {
  const dispatch = useAppDispatch();
  const project = useAppSelector((now) => now.project.document)!;
  const { markerSet } = useSession('markerSet');
  const all = markersOver(project, containerId).filter(({ clipId }) => clipId === music.clip.id);
  const secondsOf = (set: string | null): number[] =>
    all
      .filter(({ marker }) => set === null || (marker.set ?? '') === set)
      .map(({ marker }) => positionSeconds(music.source, marker.at));
  return (
    <View role="radiogroup" aria-label="Set" className="gap-1">
      {[null, ...setsOf(all)].map((set) => {
        const seconds = secondsOf(set);
        const spacing = set === null ? undefined : spacingOf(seconds);
        const words = set === null ? countWords(seconds.length) : spacingWords(seconds);
        const tempo = spacing && tempoWords(60 / spacing.typical);
        return (
          <Pressable
            key={set ?? ':all'}
            role="radio"
            aria-checked={markerSet === set}
            accessibilityLabel={[setName(set), words, tempo].filter(Boolean).join(', ')}
            onPress={() => dispatch(markerSetChosen(set))}
            className={`min-h-11 flex-row items-center gap-3 rounded-lg border px-3 py-1.5 hover:bg-line ${markerSet === set ? 'border-slow' : 'border-line'}`}
          >
            <View className="min-w-0 flex-1">
              <Text className="font-sans text-[14px] text-bone">{setName(set)}</Text>
              <Text className="font-sans text-[13px] text-quiet">{words}</Text>
            </View>
            {tempo ? <Text className="font-mono text-[14px] text-bone">{tempo}</Text> : null}
          </Pressable>
        );
      })}
    </View>
  );
}
