import { stat } from 'node:fs/promises';
import { line } from './line';
import { here, job, openBench } from './render-page';

/** How fast frames are held, beside plainly decoding and encoding the same ones. */
export async function benchExport(): Promise<void> {
  const bench = await openBench();
  const address = `${bench.address}/demo/bowl`;
  const { size } = await stat(here('../demo/media/bowl.mp4'));
  const order = job(bench, '/demo/bowl', size, { num: 60, den: 1 }, 300, 1280, 720);
  const plain: number[] = [];
  const exported: number[] = [];
  for (let round = 0; round < 4; round++) {
    plain.push(await bench.page.evaluate((from) => window.plain(from), address));
    exported.push(await bench.page.evaluate((one) => window.exported(one), order));
  }
  await bench.close();
  const [a, b] = [Math.max(...plain), Math.max(...exported)];
  line(
    '720p held-frame export',
    `${b.toFixed(1)} frames/s; plain decode → encode ${a.toFixed(1)}; ratio ${(b / a).toFixed(2)}`,
  );
}
