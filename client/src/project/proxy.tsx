import { derivedPieces, type Source } from '@hastig/contract';
import { proxyReasons } from '@hastig/core';
import { useState } from 'react';
import { Text, View } from 'react-native';
import { useAppDispatch, useAppSelector } from '../store/hooks';
import { cancelDerive, makeDerived, removeDerived } from '../store/derive';
import { derivedId } from '../store/derived-slice';
import { PROXY } from '../store/selectors';
import { Button } from '../ui/button';
import { formatBytes } from '../ui/format';
import { Progress } from '../ui/progress';

/** A source's proxy: made, gone on with, called off, taken away. */
export function ProxyPanel({ source }: { source: Source }) {
  const dispatch = useAppDispatch();
  const id = derivedId(source.sha256, PROXY);
  const pieces = useAppSelector((state) => state.derived.pieces[id]) ?? [];
  const making = useAppSelector((state) => state.derived.making[id]);
  const failed = useAppSelector((state) => state.derived.faults[id]);
  const [refused, setRefused] = useState<string | null>(null);
  if (!source.facts.video) return null;
  const all = derivedPieces(PROXY, source.facts);
  const complete = pieces.length === all;
  const make = (): void => void dispatch(makeDerived(source, PROXY));
  const remove = (): void => {
    setRefused(null);
    dispatch(removeDerived(source.sha256, PROXY)).catch((error: Error) => setRefused(error.message));
  };
  const fault = refused ?? failed;
  return (
    <View role="group" aria-label="Proxy" className="gap-2">
      <Text className="font-sans text-[13px] text-quiet">Proxy</Text>
      <Text role="status" className="font-sans text-[13px] text-bone">
        {making
          ? `${making.done} of ${making.total} frames`
          : complete
            ? `Of ${formatBytes(pieces.reduce((sum, { bytes }) => sum + bytes, 0))}, for playback and scrubbing. Renders use the original file.`
            : pieces.length > 0
              ? `${pieces.length} of ${all} pieces are ready and in use.`
              : adviceOf(source)}
      </Text>
      {making ? <Progress label={`Proxy of ${source.name}`} value={making.done / making.total} /> : null}
      <View className="flex-row flex-wrap gap-2">
        {making ? (
          <Button label="Stop" onPress={() => cancelDerive(source.sha256, PROXY)} />
        ) : complete ? null : (
          <Button label={pieces.length > 0 ? 'Resume' : 'Make proxy'} onPress={make} />
        )}
        {!making && pieces.length > 0 ? <Button label="Remove proxy" onPress={remove} /> : null}
      </View>
      {fault ? (
        <Text role="alert" className="font-sans text-[13px] text-wrong">
          {fault}
        </Text>
      ) : null}
    </View>
  );
}

function adviceOf({ facts }: Source): string {
  const reasons = proxyReasons(facts);
  return reasons.length > 0
    ? `A proxy would make playback and scrubbing smoother: ${reasons.join(', ')}.`
    : 'This source plays smoothly without a proxy.';
}
