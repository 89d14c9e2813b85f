import { useEffect, useRef } from 'react';
import { View } from 'react-native';
import { useStage } from './stage-context';

/** The picture: a canvas the engine draws on, as large as its place allows. */
export function Picture({ width, height, name }: { width: number; height: number; name: string }) {
  const { attach, resize } = useStage();
  const canvas = useRef<HTMLCanvasElement>(null);

  useEffect(() => {
    attach(canvas.current);
    return () => attach(null);
  }, [attach]);

  useEffect(() => {
    const element = canvas.current;
    if (!element) return undefined;
    // As many pixels as are seen, but no more than the source has.
    const observer = new ResizeObserver(([entry]) => {
      const shown = (entry?.contentRect.width ?? 0) * devicePixelRatio;
      const scale = Math.min(1, shown / width) || 1;
      resize(Math.max(2, Math.round(width * scale)), Math.max(2, Math.round(height * scale)));
    });
    observer.observe(element);
    return () => observer.disconnect();
  }, [resize, width, height]);

  return (
    <View className="min-h-0 flex-1 items-center justify-center bg-black">
      {/* A canvas can be handed to a worker only once, so another source gets another element. */}
      <canvas
        ref={canvas}
        role="img"
        aria-label={`Picture of ${name}`}
        style={{
          maxWidth: '100%',
          maxHeight: '100%',
          aspectRatio: `${width} / ${height}`,
          width: '100%',
          objectFit: 'contain',
        }}
      />
    </View>
  );
}
