import { useEffect, useRef } from 'react';
import { View } from 'react-native';
import { useStage } from './stage-context';

/** Pixels of the drawing surface's longer edge at most. */
const LONGEST_EDGE = 1920;

/** The picture: a canvas the engine draws on, shown as large as its place allows. */
export function Picture({ width, height, name }: { width: number; height: number; name: string }) {
  const { attach, resize } = useStage();
  const canvas = useRef<HTMLCanvasElement>(null);

  useEffect(() => {
    attach(canvas.current);
    // The source's own pixels: scaling is the compositor's work, and much cheaper there than while drawing.
    const scale = Math.min(1, LONGEST_EDGE / Math.max(width, height));
    resize(Math.max(2, Math.round(width * scale)), Math.max(2, Math.round(height * scale)));
    return () => attach(null);
  }, [attach, resize, width, height]);

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
