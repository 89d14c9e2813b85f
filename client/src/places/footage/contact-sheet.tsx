import type { Marker, Source } from '@hastig/contract';
import { pictureOf, sourceFrames, sourceRate, formatMoment } from '@hastig/core';
import { useDrag } from '@use-gesture/react';
import { useEffect, useLayoutEffect, useRef } from 'react';
import { useStage } from '../../stage/stage-context';
import { useThumbs } from '../../stage/thumbs-context';
import { useSession } from '../../store/hooks';
import { localPoint, sizedContext, useSize } from '../../time-view/use-size';
import { colour } from '../../ui/palette';
import { MarkerSign } from '../../ui/marker-sign';
import { contactCells } from './contact-cells';

/** Pixels of a picture's height. */
const HEIGHT = 58;
const BETWEEN = 4;

interface ContactSheetProps {
  source: Source;
  /** Frames of the file between which new clips lie. */
  part: { from: number; to: number };
  markers: readonly Marker[];
}

/** Small pictures along a source's length, row by row; a tap or a drag goes there. */
export function ContactSheet({ source, part, markers }: ContactSheetProps) {
  const target = useRef<HTMLDivElement>(null);
  const canvas = useRef<HTMLCanvasElement>(null);
  const { width } = useSize(target);
  const { seek } = useStage();
  const { thumbs, made } = useThumbs();
  const { playhead, unit } = useSession('playhead', 'unit');
  const frames = sourceFrames(source);
  const picture = pictureOf(source.facts) ?? { width: 16, height: 9 };
  const sheet = contactCells(width, frames, (HEIGHT * picture.width) / picture.height, HEIGHT, BETWEEN);

  useEffect(() => {
    thumbs?.want(
      sheet.cells.map(({ frame }) => ({
        sourceId: source.id,
        frame,
        tolerance: Math.floor(sheet.step / 4),
      })),
    );
  }, [thumbs, source.id, width, frames]);

  useLayoutEffect(() => {
    const context = sizedContext(canvas.current!, { width, height: sheet.height });
    for (const { x, y, frame } of sheet.cells) {
      const picture = thumbs?.get(source.id, frame, sheet.step * 2);
      context.globalAlpha = frame >= part.from && frame < part.to ? 1 : 0.35;
      if (picture) context.drawImage(picture, x, y, sheet.wide, HEIGHT);
      else {
        context.fillStyle = colour('line');
        context.fillRect(x, y, sheet.wide, HEIGHT);
      }
    }
    context.globalAlpha = 1;
    target.current!.ariaBusy = String(
      !thumbs || !thumbs.has(sheet.cells.map(({ frame }) => ({ sourceId: source.id, frame }))),
    );
  }, [thumbs, made, source.id, width, frames, part.from, part.to]);

  useDrag(
    ({ xy }) => {
      const { x, y } = localPoint(target.current!, xy);
      seek(Math.min(frames - 1, sheet.frameAt(x, y)));
    },
    { target, pointer: { capture: false, keys: false } },
  );

  const mark = sheet.placeOf(playhead);
  return (
    <div
      ref={target}
      role="slider"
      tabIndex={0}
      aria-label={`Contact sheet of ${source.name}`}
      aria-valuemin={0}
      aria-valuemax={frames - 1}
      aria-valuenow={playhead}
      aria-valuetext={formatMoment(playhead, sourceRate(source), unit)}
      data-testid="contact-sheet"
      style={{ position: 'relative', height: sheet.height, touchAction: 'pan-y', cursor: 'pointer' }}
    >
      <canvas ref={canvas} aria-hidden style={{ position: 'absolute', inset: 0, width: '100%', height: '100%' }} />
      <div
        aria-hidden
        style={{
          position: 'absolute',
          left: mark.x - 1,
          top: mark.y,
          width: 2,
          height: HEIGHT,
          background: 'rgb(var(--bone))',
          pointerEvents: 'none',
        }}
      />
      {markers.map((marker) => {
        const place = sheet.placeOf(marker.at);
        return (
          <div
            key={marker.id}
            aria-hidden
            style={{ position: 'absolute', left: place.x - 7, top: place.y, pointerEvents: 'none' }}
          >
            <MarkerSign tone={marker.tone} size={14} />
          </div>
        );
      })}
    </div>
  );
}
