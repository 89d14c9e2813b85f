// No id holds it.
const MARK = '#';

/** The id under which a source is opened once more, to be passed at several places at once; its own id is lane 0. */
export function laneOf(id: string, lane: number): string {
  return lane === 0 ? id : `${id}${MARK}${lane}`;
}

/** The source that a lane belongs to. */
export const sourceOfLane = (lane: string): string => lane.split(MARK)[0]!;
