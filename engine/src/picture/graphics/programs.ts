/** Pixels of a part of two rows that is looked at as a whole, as `core/src/exposure/planar-mean.ts` does. */
const PART = 16;

/** Covers all of what is drawn into. */
export const covering = `#version 300 es
void main() {
  gl_Position = vec4(gl_VertexID == 1 ? 3.0 : -1.0, gl_VertexID == 2 ? 3.0 : -1.0, 0.0, 1.0);
}`;

const head = `#version 300 es
precision highp float;
precision highp int;
precision highp sampler2D;
precision highp usampler2D;
uniform usampler2D firstY, firstCb, firstCr;
uniform sampler2D sums;
`;

/** Adds a picture's light to the sums, and counts where it shows something else than the first one. */
export const adding = `${head}
uniform usampler2D nextY, nextCb, nextCr;
uniform sampler2D lights;
uniform float weight;
uniform int black, luma, redCr, greenCr, greenCb, blueCb, bits;
out vec4 sum;
float lightOf(int value) {
  return texelFetch(lights, ivec2(clamp(value >> bits, 0, 255), 0), 0).r * weight;
}
void main() {
  ivec2 at = ivec2(gl_FragCoord.xy);
  ivec2 pair = at >> 1;
  int y = int(texelFetch(nextY, at, 0).r);
  int cb = int(texelFetch(nextCb, pair, 0).r);
  int cr = int(texelFetch(nextCr, pair, 0).r);
  bool same = y == int(texelFetch(firstY, at, 0).r)
    && cb == int(texelFetch(firstCb, pair, 0).r)
    && cr == int(texelFetch(firstCr, pair, 0).r);
  int bright = (y - black) * luma + (1 << (bits - 1));
  int blue = cb - 128;
  int red = cr - 128;
  vec3 light = vec3(
    lightOf(bright + red * redCr),
    lightOf(bright - red * greenCr - blue * greenCb),
    lightOf(bright + blue * blueCb));
  sum = texelFetch(sums, at, 0) + vec4(light, same ? 0.0 : 1.0);
}`;

const shared = `${head}
uniform usampler2D bright, dark;
uniform ivec2 size;
uniform bool scaled;
out vec4 four;
const float FULL = 1073741824.0;
const int DARK = 4194304;
// What a sum stands for; tables of 256 numbers a row.
int valueOf(float sum) {
  int whole = int(min(sum, 1.0) * FULL);
  int place = whole < DARK ? whole >> 6 : whole >> 14;
  ivec2 at = ivec2(place & 255, place >> 8);
  return int(whole < DARK ? texelFetch(dark, at, 0).r : texelFetch(bright, at, 0).r);
}
ivec3 valuesAt(ivec2 at) {
  vec3 sum = texelFetch(sums, min(at, size - 1), 0).rgb;
  return ivec3(valueOf(sum.r), valueOf(sum.g), valueOf(sum.b));
}
// Whether a part of two rows showed something else at any time.
bool moved(ivec2 at) {
  if (scaled) return true;
  ivec2 from = ivec2(at.x / ${PART} * ${PART}, at.y / 2 * 2);
  float most = 0.0;
  for (int y = 0; y < 2; y++)
    for (int x = 0; x < ${PART}; x++)
      most = max(most, texelFetch(sums, min(from + ivec2(x, y), size - 1), 0).a);
  return most > 0.0;
}
`;

/** Four values of luma beside each other. */
export const toLuma = `${shared}
uniform ivec3 shares;
uniform int base, bits;
void main() {
  ivec2 at = ivec2(gl_FragCoord.xy) * ivec2(4, 1);
  ivec4 made;
  for (int n = 0; n < 4; n++) {
    ivec2 here = at + ivec2(n, 0);
    if (moved(here)) {
      ivec3 values = valuesAt(here) * shares;
      made[n] = (values.r + values.g + values.b + base) >> bits;
    } else made[n] = int(texelFetch(firstY, min(here, size - 1), 0).r);
  }
  four = vec4(made) / 255.0;
}`;

/** Four values of a colour difference beside each other, each of four pixels. */
export const toChroma = `${shared}
uniform ivec3 shares;
uniform int base, bits;
uniform bool isCr;
void main() {
  ivec2 at = ivec2(gl_FragCoord.xy) * ivec2(4, 1);
  ivec2 last = (size + 1) / 2 - 1;
  ivec4 made;
  for (int n = 0; n < 4; n++) {
    ivec2 pair = at + ivec2(n, 0);
    ivec2 here = pair * 2;
    if (moved(here)) {
      ivec3 sum = valuesAt(here) + valuesAt(here + ivec2(1, 0)) + valuesAt(here + ivec2(0, 1)) + valuesAt(here + ivec2(1, 1));
      ivec3 values = sum * shares;
      made[n] = clamp((values.r + values.g + values.b + base) >> bits, 0, 255);
    } else if (isCr) made[n] = int(texelFetch(firstCr, min(pair, last), 0).r);
    else made[n] = int(texelFetch(firstCb, min(pair, last), 0).r);
  }
  four = vec4(made) / 255.0;
}`;
