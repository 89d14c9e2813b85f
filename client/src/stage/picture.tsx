import { useEffect, useRef, useState } from 'react';
import { Text, View } from 'react-native';
import { useAppDispatch, useAppSelector } from '../store/hooks';
import { stageProgram, stageSize, targetName } from '../store/selectors';
import { lookChosen } from '../store/stage-slice';
import { ComparedMarks } from './compared-marks';
import { useStageGrip } from './grip-context';
import { PictureGrip } from './picture-grip';
import { PictureMarks } from './picture-marks';
import { useStage } from './stage-context';
import { useStageForm } from './stage-form';
import { WipeLine } from './wipe-line';

/** Pixels of the drawing surface's longer edge at most. */
const LONGEST_EDGE = 1920;

interface PictureProps {
  onTap: (() => void) | undefined;
  onDoubleTap(): void;
}

/** The picture: a canvas the engine draws on, shown as large as its place allows. */
export function Picture({ onTap, onDoubleTap }: PictureProps) {
  const form = useStageForm();
  const dispatch = useAppDispatch();
  const { attach, resize, surfaceNumber } = useStage();
  const { width, height } = useAppSelector(stageSize);
  const name = useAppSelector(targetName);
  const canvas = useRef<HTMLCanvasElement>(null);
  const grip = useStageGrip();
  const look = useAppSelector((state) => state.stage.look);
  const playing = useAppSelector((state) => state.session.playing);
  const soundOnly = useAppSelector((state) => {
    const { tracks } = stageProgram(state);
    return tracks.length > 0 && tracks.every(({ kind, items }) => kind === 'sound' || items.length === 0);
  });
  const [available, setAvailable] = useState({ width: 0, height: 0 });

  // Handed to a worker once, for as long as the stage is shown; a worker that breaks down takes it along.
  useEffect(() => {
    attach(canvas.current);
    return () => attach(null);
  }, [attach, surfaceNumber]);
  const shown = Math.min(available.width / width, available.height / height);
  // The picture's own pixels, or as whole a part of them as still fills its place on this screen: the rest of the scaling is
  // the compositor's work, and much cheaper there than while drawing.
  const dense = shown * (globalThis.devicePixelRatio || 1);
  const part = dense > 0 ? Math.max(1, Math.floor(1 / dense + 1e-6)) : 1;
  useEffect(() => {
    if (available.width === 0) return;
    const scale = Math.min(1 / part, LONGEST_EDGE / Math.max(width, height));
    resize(Math.max(2, Math.floor(width * scale)), Math.max(2, Math.floor(height * scale)));
  }, [attach, resize, surfaceNumber, width, height, part, available.width]);

  return (
    <View
      className="min-h-0 flex-1 items-center justify-center bg-black"
      onLayout={({ nativeEvent: { layout } }) => setAvailable({ width: layout.width, height: layout.height })}
    >
      <canvas
        key={surfaceNumber}
        ref={canvas}
        role="img"
        aria-label={`Picture of ${name}`}
        onClick={onTap}
        onDoubleClick={onDoubleTap}
        style={{
          maxWidth: '100%',
          maxHeight: '100%',
          aspectRatio: `${width} / ${height}`,
          width: '100%',
          objectFit: 'contain',
        }}
      />
      {soundOnly ? (
        <View className="absolute inset-0 items-center justify-center" style={{ pointerEvents: 'none' }}>
          <Text className="font-sans text-[14px] text-[#9a948a]">Sound only</Text>
        </View>
      ) : null}
      <PictureMarks />
      {look.kind === 'wipe' && !playing && shown > 0 ? (
        <WipeLine
          {...{ at: look.at, width: width * shown, height: height * shown, left: 'Before', right: 'Made' }}
          label="Wipe between before and made"
          onMove={(at) => dispatch(lookChosen({ kind: 'wipe', at }))}
        />
      ) : null}
      {shown > 0 ? <ComparedMarks width={width * shown} height={height * shown} /> : null}
      {grip && shown > 0 && form !== 'full' ? (
        <PictureGrip grip={grip} picture={canvas} width={width * shown} height={height * shown} />
      ) : null}
    </View>
  );
}
