import type { RetimeMap } from '@hastig/contract';
import { compile, positionAt, positionBefore, type CompiledMap } from '../../retime';

/** A stretch of whole output frames at one speed, standing for a part of a curve. */
export interface LinearPiece {
  /** First output frame of the map, and how many. */
  from: number;
  frames: number;
  /** Source position (source frames, real) at its start. */
  source: number;
  /** 1 is real time; 0 a freeze, negative backwards. */
  speed: number;
}

/** Source frames by which a piece may differ from the curve before it is cut in two. */
const TOLERANCE = 0.5;

/**
 * A curve as pieces of constant speed, for formats that know nothing else: cut at its keys, and between them where the line
 * lies furthest from the curve, until every whole frame is within half a source frame of it or a piece is a single frame.
 *
 * @param shown the stretch of the map to describe, in whole output frames
 * @returns the pieces, and the greatest difference at a whole output frame, in source frames
 */
export function linearPieces(
  map: RetimeMap,
  shown: { from: number; frames: number },
): { pieces: LinearPiece[]; greatestError: number } {
  const ready = compile(map);
  const end = shown.from + shown.frames;
  const joints = [...ready.times]
    .map((time) => Math.ceil(time - 1e-6))
    .filter((time) => time > shown.from && time < end);
  const stops = [...new Set([shown.from, ...joints, end])].sort((a, b) => a - b);
  const pieces: LinearPiece[] = [];
  let greatestError = 0;
  const add = (from: number, to: number): void => {
    const piece = lineOver(ready, from, to);
    const worst = worstFrame(ready, piece);
    if (worst.error > TOLERANCE && to - from > 1) {
      const cut = Math.min(Math.max(worst.frame, from + 1), to - 1);
      add(from, cut);
      add(cut, to);
      return;
    }
    greatestError = Math.max(greatestError, worst.error);
    const last = pieces.at(-1);
    const goesOn = last && Math.abs(last.speed - piece.speed) < 1e-9;
    if (goesOn && Math.abs(last.source + last.frames * ready.ratio * last.speed - piece.source) < 1e-6) {
      last.frames += piece.frames;
    } else pieces.push(piece);
  };
  stops.slice(1).forEach((stop, index) => add(stops[index]!, stop));
  return { pieces, greatestError };
}

function lineOver(ready: CompiledMap, from: number, to: number): LinearPiece {
  const source = positionAt(ready, from);
  const frames = to - from;
  // A jump inside the last frame belongs to the next piece; past the end the curve goes on as it ends.
  const end = positionBefore(ready, to);
  return { from, frames, source, speed: (end - source) / (frames * ready.ratio) };
}

function worstFrame(ready: CompiledMap, piece: LinearPiece): { frame: number; error: number } {
  let worst = { frame: piece.from, error: 0 };
  for (let n = piece.from; n < piece.from + piece.frames; n++) {
    const line = piece.source + (n - piece.from) * ready.ratio * piece.speed;
    const error = Math.abs(positionAt(ready, n) - line);
    if (error > worst.error) worst = { frame: n, error };
  }
  return worst;
}
