import type { ExposureStep, RetimeMap } from '@hastig/contract';
import { useMemo } from 'react';
import { Pressable, Text } from 'react-native';
import { exposureWords } from '../../exposure/exposure-words';
import { ReadyLine } from '../../stage/ready-line';
import { useStage } from '../../stage/stage-context';
import { Playhead } from '../../time-view/playhead';
import { frameToX, type TimeView } from '../../time-view/use-time-view';
import { exposureRuns, type FilmSteps } from './exposure-runs';
import { SpeedCourse } from './speed-course';

/** Pixels of the speed curve at least, and of the line of exposures beneath it. */
const COURSE = 48;
const LINE = 48;
/** Pixels below which words are not drawn. */
const ROOM = 56;

interface ExposureStripProps {
  steps: readonly ExposureStep[];
  film?: FilmSteps;
  map: RetimeMap;
  view: TimeView;
  /** Pixels that it fills, where there is more room than it needs. */
  height?: number;
}

/** The clip's speed, and under it how its pictures are made, stretch by stretch. */
export function ExposureStrip({ steps, film, map, view, height = 0 }: ExposureStripProps) {
  const { seek } = useStage();
  const runs = useMemo(() => exposureRuns(map, steps, film), [map, steps, film]);
  const course = Math.max(COURSE, height - LINE);
  return (
    <div style={{ position: 'relative', height: course + LINE, flex: 'none', overflow: 'hidden' }}>
      <SpeedCourse map={map} view={view} height={course} />
      <div role="group" aria-label="Exposure of parts">
        {runs.map(({ from, to, exposure }) => {
          const [x, end] = [Math.max(0, frameToX(view, from)), Math.min(view.width, frameToX(view, to))];
          if (end <= x) return null;
          const words = exposureWords(exposure);
          const made = words !== exposureWords();
          return (
            <Pressable
              key={from}
              role="button"
              accessibilityLabel={`${words}, frames ${Math.round(from)} to ${Math.round(to)}`}
              onPress={() => seek(Math.round(from))}
              className={`justify-center rounded-lg border px-1.5 hover:bg-line ${made ? 'border-slow bg-slow/20' : 'border-quiet'}`}
              style={{
                position: 'absolute',
                left: x + 1,
                width: Math.max(2, end - x - 2),
                top: course + 2,
                height: 44,
              }}
            >
              {end - x > ROOM ? (
                <Text numberOfLines={1} className="text-center font-sans text-[13px] text-bone">
                  {words}
                </Text>
              ) : null}
            </Pressable>
          );
        })}
      </div>
      <ReadyLine view={view} top={course - 1} />
      <Playhead view={view} />
    </div>
  );
}
