import { cadences, formatPercent, formatRate, guideTable, makeRate, realFrameFloor, sameRate } from '@hastig/core';
import { Text, View } from 'react-native';
import { PlayAt } from '../../../project/play-at';
import { useAppSelector } from '../../../store/hooks';
import { openClip } from '../../../store/selectors';
import type { SheetProps } from '../sheets/form-sheet';
import { SheetFrame } from '../../../ui/sheet-frame';
import { CadenceChart } from './cadence-chart';
import { useFileFrames } from './use-file-frames';

/** What this source can give at this output rate: the slowest speed with real frames, and how its frames are come by. */
export function GuideSheet({ clipId, map, onClose }: SheetProps) {
  const floor = realFrameFloor(map.sourceRate, map.outputRate);
  const open = useAppSelector((state) => openClip(state, clipId)?.source);
  const fileFrames = useFileFrames(open);
  const [source, output] = [formatRate(map.sourceRate), formatRate(map.outputRate)];
  return (
    <SheetFrame title="Floor and cadence" onClose={onClose}>
      <Text className="font-sans text-[14px] text-bone">
        {`${source} fps in ${output} fps: real frames only down to ${formatPercent(floor)}. Slower than that, frames repeat or are interpolated.`}
      </Text>
      {open ? <PlayAt source={open} /> : null}
      {fileFrames === null ? null : <CadenceChart all={cadences(map, fileFrames)} />}
      <FloorTable outputRate={map.outputRate} />
    </SheetFrame>
  );
}

function FloorTable({ outputRate }: { outputRate: { num: number; den: number } }) {
  const rows = guideTable();
  const sources = [...new Set(rows.map((row) => row.sourceRate.num))];
  const outputs = [...new Set(rows.map((row) => row.outputRate.num))];
  const cell = 'flex-1 py-1 text-right font-mono text-[13px]';
  return (
    <View role="table" aria-label="Slowest speed with real frames only">
      <View role="row" className="flex-row border-b border-line">
        <Text role="columnheader" className={`${cell} text-left text-quiet`}>
          fps
        </Text>
        {outputs.map((output) => (
          <Text
            key={output}
            role="columnheader"
            className={`${cell} ${sameRate(makeRate(output), outputRate) ? 'text-bone' : 'text-quiet'}`}
          >
            {`→ ${output}`}
          </Text>
        ))}
      </View>
      {sources.map((source) => (
        <View key={source} role="row" className="flex-row">
          <Text role="rowheader" className={`${cell} text-left text-quiet`}>
            {source}
          </Text>
          {outputs.map((output) => {
            const row = rows.find((one) => one.sourceRate.num === source && one.outputRate.num === output)!;
            return (
              <Text key={output} role="cell" className={`${cell} text-bone`}>
                {formatPercent(row.floor)}
              </Text>
            );
          })}
        </View>
      ))}
    </View>
  );
}
