import { InBetween, planarBytes, type MadePicture, type PlanarPicture } from '@hastig/core';

/** Two neighbouring pictures, and pictures at any moment between them. */
export type Between = Pick<InBetween, 'isCut' | 'at'>;

/** What the kernels' code exports (`kernels/assembly/index.ts`). */
interface Kernels {
  memory: WebAssembly.Memory;
  open(width: number, height: number): void;
  firstAt(): number;
  secondAt(): number;
  madeAt(): number;
  find(): number;
  make(share: number): void;
  doubtOf(): number;
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
const MOST_FREE = 2;

/** The same as `InBetween`, by the kernels. */
class KernelBetween implements Between {
  readonly isCut: boolean;

  constructor(
    private readonly kernels: Kernels,
    private readonly first: PlanarPicture,
    private readonly second: PlanarPicture,
  ) {
    const { width, height } = first;
    kernels.open(width, height);
    const memory = new Uint8Array(kernels.memory.buffer);
    memory.set(first.data, kernels.firstAt());
    memory.set(second.data, kernels.secondAt());
    this.isCut = kernels.find() !== 0;
  }

  at(share: number): MadePicture {
    const { kernels, first, second } = this;
    if (share <= 0 || (this.isCut && share < 0.5)) return { data: first.data.slice(), doubt: 0 };
    if (share >= 1 || this.isCut) return { data: second.data.slice(), doubt: 0 };
    kernels.make(share);
    const from = kernels.madeAt();
    // Its memory may have grown, and is another one then.
    const memory = new Uint8Array(kernels.memory.buffer);
    return { data: memory.slice(from, from + planarBytes(first.width, first.height)), doubt: kernels.doubtOf() };
  }

  letGo(): void {
    if (free.length < MOST_FREE) free.push(this.kernels);
  }
}

async function kernelsAtHand(): Promise<Kernels | undefined> {
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

/**
 * Finds what moved from one picture to the next: by the kernels where the browser takes them, without them otherwise.
 *
 * @param second of the same size as the first
 */
export async function findBetween(first: PlanarPicture, second: PlanarPicture): Promise<Between> {
  const kernels = await kernelsAtHand();
  return kernels ? new KernelBetween(kernels, first, second) : new InBetween(first, second);
}

/** Says that what was found is not needed any more. */
export function letGo(between: Between): void {
  if (between instanceof KernelBetween) between.letGo();
}
