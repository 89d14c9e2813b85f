import { InBetween, planarBytes, type FoundMovement, type MadePicture, type PlanarPicture } from '@hastig/core';
import { flowBytes, readFlow, type KeptFlow } from './flow-file';
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
    before: KeptFlow | undefined,
  ) {
    const { width, height } = first;
    kernels.open(width, height);
    const memory = new Uint8Array(kernels.memory.buffer);
    memory.set(first.data, kernels.firstAt());
    memory.set(second.data, kernels.secondAt());
    this.isCut = before && this.takes(before) ? before.isCut : kernels.find() !== 0;
  }

  private places(): [number, number, number, number] {
    const { kernels } = this;
    return [kernels.movedX(), kernels.movedY(), kernels.backMovedX(), kernels.backMovedY()];
  }

  /** Takes flows that were found before; not those of another size. */
  private takes({ columns, rows, parts }: KeptFlow): boolean {
    const { kernels } = this;
    if (columns !== kernels.gridColumns() || rows !== kernels.gridRows()) return false;
    this.places().forEach((at, index) =>
      new Float32Array(kernels.memory.buffer, at, columns * rows).set(parts[index]!),
    );
    kernels.settle();
    return true;
  }

  /** The flows that were found, as they are kept. */
  kept(): Uint8Array<ArrayBuffer> {
    const { kernels, isCut } = this;
    const [columns, rows] = [kernels.gridColumns(), kernels.gridRows()];
    const [a, b, c, d] = this.places().map((at) => new Float32Array(kernels.memory.buffer, at, columns * rows));
    return flowBytes({ columns, rows, isCut, parts: [a!, b!, c!, d!] });
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

/** Where flows lie that were found before, and are put. */
export interface FlowKeeper {
  read(): Promise<Uint8Array<ArrayBuffer> | undefined>;
  /** Keeps them, or does not. */
  write(bytes: Uint8Array<ArrayBuffer>): void;
}

/**
 * Finds what moved from one picture to the next: by the kernels where the browser takes them, without them otherwise.
 *
 * @param second of the same size as the first
 * @param keeper of what was found of these two before; of what comes without the kernels nothing is kept
 */
export async function findBetween(first: PlanarPicture, second: PlanarPicture, keeper?: FlowKeeper): Promise<Between> {
  const kernels = await kernelsAtHand();
  if (!kernels) return new InBetween(first, second);
  const bytes = await keeper?.read();
  const before = bytes && readFlow(bytes);
  const found = new KernelBetween(kernels, first, second, before);
  if (keeper && !before) keeper.write(found.kept());
  return found;
}

/** Says that what was found is not needed any more. */
export function letGo(between: Between): void {
  if (between instanceof KernelBetween) between.letGo();
}
