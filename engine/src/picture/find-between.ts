import { InBetween, planarBytes, type FoundMovement, type MadePicture, type PlanarPicture } from '@hastig/core';
import { giveBack, kernelsAtHand, type Kernels } from './kernels';

/** Two neighbouring pictures, and pictures at any moment between them. */
export type Between = Pick<InBetween, 'isCut' | 'at' | 'movement'>;

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

  movement(): FoundMovement {
    const { kernels } = this;
    const [columns, rows] = [kernels.gridColumns(), kernels.gridRows()];
    const copy = (at: number): Float32Array => new Float32Array(kernels.memory.buffer, at, columns * rows).slice();
    const [x, y, miss] = [copy(kernels.movedX()), copy(kernels.movedY()), copy(kernels.movedMiss())];
    return { columns, rows, x, y, miss };
  }

  letGo(): void {
    giveBack(this.kernels);
  }
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
