import {
  findSource,
  formatMoment,
  formatSourceFrame,
  kindOf,
  lookAt,
  parseMoment,
  parseSourceFrame,
  programFrames,
  type Parsed,
} from '@hastig/core';
import { useAppSelector } from '../store/hooks';
import { stageProgram } from '../store/selectors';
import { TapNumber } from '../ui/tap-number';
import { ReadoutFrame } from './readout-frame';
import { useStage } from './stage-context';

const divided = (parsed: Parsed, by: number): Parsed => (parsed.ok ? { ...parsed, value: parsed.value / by } : parsed);

/** Time and frame of a source as it is. */
export function SourceReadout() {
  const { seek } = useStage();
  const program = useAppSelector(stageProgram);
  const unit = useAppSelector((state) => state.session.unit);
  const positions = useAppSelector(({ project: { document }, session: { target } }) => {
    const source = document && target && 'source' in target ? findSource(document, target.source) : undefined;
    return document && source && kindOf(source.facts) === 'sound' ? lookAt(document, source).positions : 1;
  });
  const frames = programFrames(program);
  const playhead = useAppSelector((state) => Math.min(state.session.playhead, frames - 1));
  const go = (parsed: ReturnType<typeof parseMoment>): string | undefined => {
    if (!parsed.ok) return parsed.reason;
    if (parsed.value < 0 || parsed.value >= frames) return `is outside the source, which has ${frames} frames`;
    seek(Math.floor(parsed.value));
    return undefined;
  };
  return (
    <ReadoutFrame>
      <TapNumber
        long
        label="Time"
        text={formatMoment(playhead, program.rate, unit)}
        onEnter={(text) => go(parseMoment(text, program.rate, unit))}
      />
      {positions === 1 ? (
        <TapNumber
          label="Source frame"
          text={formatSourceFrame(playhead, unit).padStart(4, '0')}
          onEnter={(text) => go(parseSourceFrame(text, unit))}
        />
      ) : (
        <TapNumber
          long
          label="Sample"
          text={formatSourceFrame(Math.floor(playhead * positions), unit)}
          onEnter={(text) => go(divided(parseSourceFrame(text, unit), positions))}
        />
      )}
    </ReadoutFrame>
  );
}
