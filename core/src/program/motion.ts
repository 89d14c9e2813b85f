import { frameCount, HELD_EPSILON, positionAt, speedAt } from '../retime';
import { itemAt, type Program, type ProgramBody } from './program';

/** What stands on top at a moment of a program, and how it moves there. */
export interface SeenMotion {
  sourceId: string;
  /** The clip of the program itself, whatever groups it shows. */
  clipId: string;
  /** Position in the source, in its frames (real). */
  position: number;
  /** The frame that lies there, counted from 0. */
  frame: number;
  /** As a factor of real time, through all groups; below 0 backwards. */
  speed: number;
}

/** What stands on top at an output time (frames, real) of a program; undefined where there is nothing. */
export function motionAt(program: Program, t: number): SeenMotion | undefined {
  const look = (body: ProgramBody, time: number): SeenMotion | undefined => {
    for (let index = body.tracks.length - 1; index >= 0; index--) {
      const track = body.tracks[index]!;
      const item = track.kind === 'picture' ? itemAt(track, time) : undefined;
      if (!item) continue;
      const { map, of, clipId } = item;
      const inside = item.at + Math.max(0, time - item.from);
      if (inside >= frameCount(map)) continue;
      const [position, speed] = [positionAt(map, inside), speedAt(map, inside)];
      if (of.kind === 'source') {
        const frame = Math.min(Math.max(0, Math.floor(position + HELD_EPSILON)), map.sourceFrames - 1);
        return { sourceId: of.id, clipId, position, frame, speed };
      }
      const group = program.groups[of.id];
      const seen = group && look(group, Math.min(Math.max(0, position), Math.max(0, group.length - HELD_EPSILON)));
      if (seen) return { ...seen, clipId, speed: seen.speed * speed };
    }
    return undefined;
  };
  return look(program, t);
}
