/**
 * Solves a symmetric system of which the lower half is told, in rows (Cholesky); undefined where it has no one solution. Both are
 * written over.
 */
export function solved(h: Float64Array, g: Float64Array, order: number): Float64Array | undefined {
  let most = 0;
  for (let i = 0; i < order; i++) most = Math.max(most, h[i * order + i]!);
  for (let i = 0; i < order; i++) {
    h[i * order + i]! += 1e-9 * most + 1e-9;
    for (let j = 0; j <= i; j++) {
      let sum = h[i * order + j]!;
      for (let k = 0; k < j; k++) sum -= h[i * order + k]! * h[j * order + k]!;
      if (i === j) {
        if (!(sum > 0)) return undefined;
        h[i * order + i] = Math.sqrt(sum);
      } else h[i * order + j] = sum / h[j * order + j]!;
    }
  }
  for (let i = 0; i < order; i++) {
    for (let k = 0; k < i; k++) g[i]! -= h[i * order + k]! * g[k]!;
    g[i]! /= h[i * order + i]!;
  }
  for (let i = order - 1; i >= 0; i--) {
    for (let k = i + 1; k < order; k++) g[i]! -= h[k * order + i]! * g[k]!;
    g[i]! /= h[i * order + i]!;
  }
  return g.every(Number.isFinite) ? g : undefined;
}
