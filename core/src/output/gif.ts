/** Pictures of a GIF at most: viewers hold all of them in memory. Common practice is far fewer. */
const MOST_GIF = 1500;

/** Pictures of a GIF in a second at most: viewers do not keep to less than two hundredths for one. Common practice. */
const FASTEST_GIF = 50;

/** Why so many pictures at a rate can't be a GIF, in words; undefined where they can. */
export function gifFault(count: number, rate: number): string | undefined {
  if (count > MOST_GIF)
    return `A GIF is for short pieces: it has ${MOST_GIF} frames at most, and this has ${count}. Choose a part or a lower rate.`;
  return rate > FASTEST_GIF ? `A GIF has ${FASTEST_GIF} frames a second at most. Choose a lower rate.` : undefined;
}
