/** What the kernels' code exports (`kernels/assembly/index.ts`). */
export interface Kernels {
  memory: WebAssembly.Memory;
  // Pictures between two.
  open(width: number, height: number): void;
  firstAt(): number;
  secondAt(): number;
  madeAt(): number;
  find(): number;
  settle(): void;
  make(share: number): void;
  doubtOf(): number;
  movedX(): number;
  movedY(): number;
  movedMiss(): number;
  backMovedX(): number;
  backMovedY(): number;
  gridColumns(): number;
  gridRows(): number;
  // Means in light.
  openMean(width: number, height: number): void;
  meanAt(): number;
  lightsAt(): number;
  numbersAt(): number;
  brightAt(): number;
  darkAt(): number;
  sumAll(): void;
  takeLightest(): void;
  changeLight(tr: number, tg: number, tb: number, pr: number, pg: number, pb: number): void;
  addToMean(weight: number): void;
  addToLightest(weight: number): void;
  litValuesAt(): number;
  makeMean(): void;
  // Planes of pixels.
  openPlanes(width: number, height: number): void;
  pixelsAt(): number;
  planesAt(): number;
  shares(): number;
  makePlanes(): void;
  // Pictures that are moved.
  openSteady(width: number, height: number): void;
  steadyFrom(): number;
  steadyTo(): number;
  cubicAt(): number;
  moveSteady(a: number, b: number, c: number, d: number, e: number, f: number, g: number, h: number, mirror: boolean): void; // prettier-ignore
}

let code: Promise<WebAssembly.Module | undefined> | undefined;

// A browser without SIMD does not take the code: then it is done without.
const loadCode = (): Promise<WebAssembly.Module | undefined> =>
  (code ??= import('@hastig/kernels/code').then(
    ({ default: bytes }) => WebAssembly.compile(bytes).catch(() => undefined),
    () => undefined,
  ));

/** Memories not in use: what they have grown to is used again. */
const free: Kernels[] = [];
const MOST_FREE = 3;
/** Bytes of one that is kept: what is larger, as a mean of 4K needs, does not shrink again and is let go of. */
const MOST_BYTES = 64 * 2 ** 20;

/** Gives kernels back that are not needed any more: the next one takes them with the memory they have. */
export function giveBack(kernels: Kernels): void {
  if (free.length < MOST_FREE && kernels.memory.buffer.byteLength <= MOST_BYTES) free.push(kernels);
}

/** Kernels that nobody else uses until they are given back; undefined where the browser does not take their code. */
export async function kernelsAtHand(): Promise<Kernels | undefined> {
  const known = free.pop();
  if (known) return known;
  const loaded = await loadCode();
  if (!loaded) return undefined;
  const abort = (): never => {
    throw new Error('There is not enough memory for pictures in between.');
  };
  const { exports } = await WebAssembly.instantiate(loaded, { env: { abort } });
  return exports as unknown as Kernels;
}
