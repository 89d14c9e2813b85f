import type { Source } from '@hastig/contract';
import { sourceFrames } from '@hastig/core';
import { useLayoutEffect, useMemo, useRef } from 'react';
import { View } from 'react-native';
import { sizedContext, useSize } from '../time-view/use-size';
import { colour } from '../ui/palette';
import { currentTheme } from '../ui/theme';
import { drawWave } from './draw-wave';
import { useWaveforms } from './use-waveforms';
import { WaveState } from './wave-state';

/** The whole sound of a source at a glance. */
export function WavePoster({ source }: { source: Source }) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const { width, height } = useSize(canvas);
  const waves = useWaveforms(useMemo(() => [source], [source]));
  const theme = currentTheme();
  const samples = sourceFrames(source);
  useLayoutEffect(() => {
    const context = sizedContext(canvas.current!, { width, height });
    context.fillStyle = colour('bone');
    const each = samples / width;
    drawWave(context, { x: 0, top: 8, width, height: height - 16 }, width, (x) =>
      waves.between(source, x * each, (x + 1) * each),
    );
  }, [waves, source, samples, width, height, theme]);
  return (
    <View className="h-[112px] w-full overflow-hidden rounded-lg bg-ink">
      <canvas
        ref={canvas}
        role="img"
        aria-label={`Waveform of ${source.name}`}
        style={{ width: '100%', height: '100%' }}
      />
      <WaveState source={source} />
    </View>
  );
}
