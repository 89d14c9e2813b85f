import { clampI, floats, getF, highOf, lowOf, mark, release, setF } from './memory';
import { Pyramid } from './pyramid';
import { PATCH, patchAt, patchesAlong, searchPatches } from './search';

/** As in `core/src/flow/flow.ts`. */

function enlarge(fromX: usize, fromY: usize, w: i32, h: i32, toX: usize, toY: usize, width: i32, height: i32): void {
  for (let y = 0; y < height; y++) {
    const gy = min<f32>(max<f32>((<f32>y + 0.5) / 2 - 0.5, 0), <f32>(h - 1));
    const one = <i32>gy;
    const b = gy - <f32>one;
    const upper = one * w;
    const lower = min(one + 1, h - 1) * w;
    for (let x = 0; x < width; x++) {
      const gx = min<f32>(max<f32>((<f32>x + 0.5) / 2 - 0.5, 0), <f32>(w - 1));
      const l = <i32>gx;
      const a = gx - <f32>l;
      const r = min(l + 1, w - 1);
      const n = y * width + x;
      const ux = getF(fromX, upper + l) + a * (getF(fromX, upper + r) - getF(fromX, upper + l));
      const lx = getF(fromX, lower + l) + a * (getF(fromX, lower + r) - getF(fromX, lower + l));
      const uy = getF(fromY, upper + l) + a * (getF(fromY, upper + r) - getF(fromY, upper + l));
      const ly = getF(fromY, lower + l) + a * (getF(fromY, lower + r) - getF(fromY, lower + l));
      setF(toX, n, 2 * (ux + b * (lx - ux)));
      setF(toY, n, 2 * (uy + b * (ly - uy)));
    }
  }
}

@inline
function addFour(at: usize, u: v128, weight: v128): void {
  v128.store(at, f32x4.add(v128.load(at), f32x4.mul(u, weight)));
}

/** Each pixel's flow, from all patches it lies in. */
function densify(
  from: usize,
  to: usize,
  width: i32,
  height: i32,
  patchX: usize,
  patchY: usize,
  outX: usize,
  outY: usize,
): void {
  const count = width * height;
  const bytes = <usize>count << 2;
  const before = mark();
  const weights = floats(count);
  memory.fill(outX, 0, bytes);
  memory.fill(outY, 0, bytes);
  memory.fill(weights, 0, bytes);
  const across = patchesAlong(width);
  const down = patchesAlong(height);
  const one = f32x4.splat(1);
  for (let row = 0, index = 0; row < down; row++) {
    const top = patchAt(row, height);
    for (let column = 0; column < across; column++, index++) {
      const left = patchAt(column, width);
      const u = getF(patchX, index);
      const v = getF(patchY, index);
      const fdx = floor<f32>(u);
      const fdy = floor<f32>(v);
      const dx = <i32>min<f32>(max<f32>(fdx, -100000), 100000);
      const dy = <i32>min<f32>(max<f32>(fdy, -100000), 100000);
      const fx = u - fdx;
      const fy = v - fdy;
      const x0 = left + dx;
      const y0 = top + dy;
      if (left + 8 <= width && top + 8 <= height && x0 >= 0 && y0 >= 0 && x0 + 9 <= width && y0 + 9 <= height) {
        const us = f32x4.splat(u);
        const vs = f32x4.splat(v);
        const w00 = f32x4.splat((1 - fx) * (1 - fy));
        const w10 = f32x4.splat(fx * (1 - fy));
        const w01 = f32x4.splat((1 - fx) * fy);
        const w11 = f32x4.splat(fx * fy);
        let at = to + <usize>(y0 * width + x0);
        let here = from + <usize>(top * width + left);
        let n = <usize>(top * width + left) << 2;
        for (let j = 0; j < PATCH; j++) {
          const a = v128.load_ext<u8>(at);
          const b = v128.load_ext<u8>(at + 1);
          const c = v128.load_ext<u8>(at + <usize>width);
          const d = v128.load_ext<u8>(at + <usize>width + 1);
          const own = v128.load_ext<u8>(here);
          const low = f32x4.sub(
            f32x4.add(
              f32x4.add(f32x4.mul(w00, lowOf(a)), f32x4.mul(w10, lowOf(b))),
              f32x4.add(f32x4.mul(w01, lowOf(c)), f32x4.mul(w11, lowOf(d))),
            ),
            lowOf(own),
          );
          const high = f32x4.sub(
            f32x4.add(
              f32x4.add(f32x4.mul(w00, highOf(a)), f32x4.mul(w10, highOf(b))),
              f32x4.add(f32x4.mul(w01, highOf(c)), f32x4.mul(w11, highOf(d))),
            ),
            highOf(own),
          );
          const wl = f32x4.div(one, f32x4.max(one, f32x4.abs(low)));
          const wh = f32x4.div(one, f32x4.max(one, f32x4.abs(high)));
          addFour(outX + n, us, wl);
          addFour(outX + n + 16, us, wh);
          addFour(outY + n, vs, wl);
          addFour(outY + n + 16, vs, wh);
          v128.store(weights + n, f32x4.add(v128.load(weights + n), wl));
          v128.store(weights + n, f32x4.add(v128.load(weights + n, 16), wh), 16);
          at += <usize>width;
          here += <usize>width;
          n += <usize>width << 2;
        }
      } else {
        const right = min(left + PATCH, width);
        const bottom = min(top + PATCH, height);
        for (let y = top; y < bottom; y++) {
          const upper = to + <usize>(clampI(y + dy, 0, height - 1) * width);
          const lower = to + <usize>(clampI(y + dy + 1, 0, height - 1) * width);
          for (let x = left; x < right; x++) {
            const l = <usize>clampI(x + dx, 0, width - 1);
            const r = <usize>clampI(x + dx + 1, 0, width - 1);
            const a = <f32>load<u8>(upper + l) * (1 - fx) + <f32>load<u8>(upper + r) * fx;
            const b = <f32>load<u8>(lower + l) * (1 - fx) + <f32>load<u8>(lower + r) * fx;
            const n = y * width + x;
            const off = abs<f32>(a * (1 - fy) + b * fy - <f32>load<u8>(from + <usize>n));
            const weight: f32 = 1 / max<f32>(1, off);
            setF(outX, n, getF(outX, n) + u * weight);
            setF(outY, n, getF(outY, n) + v * weight);
            setF(weights, n, getF(weights, n) + weight);
          }
        }
      }
    }
  }
  for (let n = 0; n < count; n++) {
    const weight = getF(weights, n);
    setF(outX, n, getF(outX, n) / weight);
    setF(outY, n, getF(outY, n) / weight);
  }
  release(before);
}

/** Where each pixel of a picture has gone in another, from coarse to fine; as large as the finest level. */
export function flowBetween(from: Pyramid, to: Pyramid, finest: i32, outX: usize, outY: usize): void {
  const before = mark();
  const size = from.width[finest] * from.height[finest];
  const startX = floats(size);
  const startY = floats(size);
  const patches = patchesAlong(from.width[finest]) * patchesAlong(from.height[finest]);
  const patchX = floats(patches);
  const patchY = floats(patches);
  const last = from.count - 1;
  for (let level = last; level >= finest; level--) {
    const width = from.width[level];
    const height = from.height[level];
    if (level === last) {
      memory.fill(startX, 0, <usize>(width * height) << 2);
      memory.fill(startY, 0, <usize>(width * height) << 2);
    } else enlarge(outX, outY, from.width[level + 1], from.height[level + 1], startX, startY, width, height);
    const inner = mark();
    searchPatches(from.data[level], to.data[level], width, height, level > finest, startX, startY, patchX, patchY);
    release(inner);
    densify(from.data[level], to.data[level], width, height, patchX, patchY, outX, outY);
  }
  release(before);
}
