import { fileURLToPath } from 'node:url';
import { planarBytes, type PlanarPicture } from '@hastig/core';
import { moving } from '@hastig/core/test/moving';
import { compileKernels } from '@hastig/kernels/compile';
import cvModule from '@techstark/opencv-js';
import { line } from './line';
import { quickest } from './quickest';

/** Rounds of which the quickest counts. */
const ROUNDS = 5;

interface FlowKernels {
  memory: WebAssembly.Memory;
  open(width: number, height: number): void;
  firstAt(): number;
  secondAt(): number;
  find(): number;
}

async function openKernels(): Promise<FlowKernels> {
  const bytes = await compileKernels(fileURLToPath(new URL('../kernels', import.meta.url)));
  const abort = (): never => {
    throw new Error('There is not enough memory.');
  };
  const { instance } = (await WebAssembly.instantiate(bytes as BufferSource, {
    env: { abort },
  })) as unknown as WebAssembly.WebAssemblyInstantiatedSource;
  return instance.exports as unknown as FlowKernels;
}

// In an object: the library has a `then` of its own, which whoever waits for it would call for ever.
const openVision = (): Promise<{ cv: typeof cvModule }> =>
  new Promise((done) => {
    if ('Mat' in cvModule) done({ cv: cvModule });
    else (cvModule as { onRuntimeInitialized?: () => void }).onRuntimeInitialized = () => done({ cv: cvModule });
  });

/** How long finding what moved takes, both ways, beside a general vision library in WebAssembly, one way taken twice. */
export async function benchFlow(): Promise<void> {
  const kernels = await openKernels();
  const { cv } = await openVision();
  for (const [width, height] of [
    [640, 360],
    [1280, 720],
  ] as const) {
    const [first, second]: PlanarPicture[] = [
      moving(width, height, { discX: 0.4 * width }),
      moving(width, height, { x: 5, y: 2, discX: 0.45 * width }),
    ];
    kernels.open(width, height);
    const put = (at: number, { data }: PlanarPicture): void =>
      new Uint8Array(kernels.memory.buffer, at, planarBytes(width, height)).set(data);
    put(kernels.firstAt(), first!);
    put(kernels.secondAt(), second!);
    const ours = quickest(() => kernels.find(), ROUNDS);
    const grey = ({ data }: PlanarPicture) => {
      const made = new cv.Mat(height, width, cv.CV_8UC1);
      made.data.set(data.subarray(0, width * height));
      return made;
    };
    const [one, other, flow] = [grey(first!), grey(second!), new cv.Mat()];
    const theirs = 2 * quickest(() => cv.calcOpticalFlowFarneback(one, other, flow, 0.5, 5, 15, 3, 5, 1.2, 0), ROUNDS);
    for (const made of [one, other, flow]) made.delete();
    line(
      `flow both ways, ${width} × ${height}`,
      `${ours.toFixed(0)} ms; OpenCV in WebAssembly (Farnebäck, its usual settings) ${theirs.toFixed(0)} ms; ${(theirs / ours).toFixed(1)} times as fast`,
    );
  }
}
