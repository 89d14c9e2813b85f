/** One plane of a picture in memory. */
export interface Plane {
  /** The first sample's place, and the samples from one line to the next. */
  offset: number;
  stride: number;
  /** Samples in a line that belong to the picture, and lines. */
  width: number;
  height: number;
}

/**
 * Makes a whole picture of one field: the other field's lines are drawn anew, each half way between the lines above and
 * below it; at the edge, as its only neighbour. The field's own lines stay untouched and where they were, so that two
 * fields of something at rest stand still and do not bob.
 *
 * In a 4:2:0 picture of interlaced video the lines of the colour planes belong to the fields in turn as well (ITU-T
 * H.264, 6.2), so every plane is treated alike.
 *
 * @param samples of all planes; changed in place
 * @param lines which lines are kept: `top` the even ones, counted from 0
 */
export function keepField(samples: Uint8Array | Uint16Array, planes: readonly Plane[], lines: 'top' | 'bottom'): void {
  for (const { offset, stride, width, height } of planes) {
    // A single line is both fields.
    if (height < 2) continue;
    for (let line = lines === 'top' ? 1 : 0; line < height; line += 2) {
      const here = offset + line * stride;
      const above = line > 0 ? here - stride : here + stride;
      const below = line + 1 < height ? here + stride : here - stride;
      for (let x = 0; x < width; x++) samples[here + x] = (samples[above + x]! + samples[below + x]! + 1) >> 1;
    }
  }
}
