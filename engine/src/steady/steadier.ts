import { cubicShares, planarBytes, steadiedPicture, type PlanarPicture, type PlaneMap } from '@hastig/core';
import { giveBack, kernelsAtHand, type Kernels } from '../picture/kernels';

/** Moves pictures of one size: by the kernels where the browser takes them, without them otherwise. */
export class Steadier {
  private kernels: Promise<Kernels | undefined> | undefined;

  constructor(
    readonly width: number,
    readonly height: number,
  ) {}

  private async open(): Promise<Kernels | undefined> {
    const kernels = await kernelsAtHand();
    if (!kernels) return undefined;
    kernels.openSteady(this.width, this.height);
    new Int16Array(kernels.memory.buffer, kernels.cubicAt(), cubicShares.length).set(cubicShares);
    return kernels;
  }

  /** Lets go of the memory it has. */
  close(): void {
    void this.kernels?.then((kernels) => kernels && giveBack(kernels));
    this.kernels = undefined;
  }

  /** @returns the planes of the moved picture; good until the next one is made */
  async of(picture: PlanarPicture, map: PlaneMap, mirror: boolean): Promise<Uint8Array> {
    const kernels = await (this.kernels ??= this.open());
    if (!kernels) return steadiedPicture(picture, map, mirror).data;
    const { buffer } = kernels.memory;
    const bytes = planarBytes(this.width, this.height);
    new Uint8Array(buffer, kernels.steadyFrom(), bytes).set(picture.data);
    kernels.moveSteady(...map, mirror);
    return new Uint8Array(buffer, kernels.steadyTo(), bytes);
  }
}
