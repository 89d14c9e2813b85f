import type { RetimeMap } from '@hastig/contract';
import { formatMoment, paceWarnings, remedyFor, warningWords } from '@hastig/core';
import { Text, View } from 'react-native';
import { useStage } from '../../../stage/stage-context';
import { retime } from '../../../store/edit';
import { useAppDispatch, useAppSelector } from '../../../store/hooks';
import { spanSelected } from '../../../store/session-slice';
import { Button } from '../../../ui/button';
import type { SheetProps } from '../sheets/form-sheet';
import { SheetFrame } from '../../../ui/sheet-frame';

/** Everything worth a warning, each with its place and, where there is one, its remedy. */
export function WarningsSheet({ clipId, map, onClose }: SheetProps) {
  const warnings = paceWarnings(map);
  return (
    <SheetFrame title="Warnings" onClose={onClose}>
      {warnings.length === 0 ? (
        <Text className="font-sans text-[14px] text-quiet">No warnings. Every frame is there, in order.</Text>
      ) : null}
      <View role="list" aria-label="Warnings" className="gap-3">
        {warnings.map((warning, index) => (
          <WarningRow key={`${warning.kind}${warning.from}`} {...{ clipId, map, warning, index }} />
        ))}
      </View>
    </SheetFrame>
  );
}

function WarningRow({
  clipId,
  map,
  warning,
}: {
  clipId: string;
  map: RetimeMap;
  warning: ReturnType<typeof paceWarnings>[number];
}) {
  const dispatch = useAppDispatch();
  const { seek } = useStage();
  const unit = useAppSelector((state) => state.session.unit);
  const remedy = remedyFor(map, warning);
  const show = (frame: number): string => formatMoment(frame, map.outputRate, unit);
  const go = (): void => {
    seek(Math.ceil(warning.from - 1e-6));
    if (warning.span !== undefined) dispatch(spanSelected(warning.span));
  };
  return (
    <View role="listitem" className="gap-2 rounded-lg border border-line bg-ink p-3">
      <Text className="font-sans text-[14px] text-bone">{warningWords(warning)}</Text>
      <View className="flex-row flex-wrap gap-2">
        <Button label={`Go to ${show(warning.from)}`} onPress={go} />
        {remedy ? (
          <Button
            label={remedy.words}
            onPress={() => dispatch(retime(remedy.words.toLowerCase(), clipId, remedy.apply))}
          />
        ) : null}
      </View>
    </View>
  );
}
