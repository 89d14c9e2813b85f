import { i420Bytes, rgbaToI420, type YuvSpace } from '@hastig/core';
import { kernelsAtHand, type Kernels } from './kernels';
import { sharesOf } from './light-sum';

/** Makes planes of pixels of one even size: by the kernels where the browser takes them, without them otherwise. */
export class PlaneMaker {
  private kernels: Promise<Kernels | undefined> | undefined;
  private plain: Uint8Array | undefined;

  constructor(
    private readonly width: number,
    private readonly height: number,
    private readonly space: YuvSpace,
  ) {}

  private async open(): Promise<Kernels | undefined> {
    const kernels = await kernelsAtHand();
    if (!kernels) return undefined;
    kernels.openPlanes(this.width, this.height);
    new Int32Array(kernels.memory.buffer, kernels.shares(), 11).set(sharesOf(this.space));
    return kernels;
  }

  /** @returns the planes of the pixels; good until the next ones are made */
  async of(rgba: Uint8ClampedArray): Promise<Uint8Array> {
    const { width, height, space } = this;
    const kernels = await (this.kernels ??= this.open());
    if (kernels) {
      const { buffer } = kernels.memory;
      new Uint8Array(buffer, kernels.pixelsAt(), rgba.length).set(rgba);
      kernels.makePlanes();
      return new Uint8Array(buffer, kernels.planesAt(), i420Bytes(width, height));
    }
    this.plain ??= new Uint8Array(i420Bytes(width, height));
    rgbaToI420(rgba, width, height, space, this.plain);
    return this.plain;
  }
}
