import { stat } from 'node:fs/promises';
import { scenes } from '@hastig/demo';
import { line } from './line';
import { here, job, openBench } from './render-page';

/** Times the shaken clip is passed, there and back: a minute of it. */
const PASSES = 11;
const ROUNDS = 3;

const [WIDTH, HEIGHT] = [1280, 720];

/** How fast a shaken minute is told of, and a marble followed, beside decoding the same file. */
export async function benchFollow(): Promise<void> {
  const bench = await openBench();
  const { fps, frames } = scenes.find(({ name }) => name === 'handheld')!;
  const { size } = await stat(here('../demo/media/handheld.mp4'));
  const long = job(bench, '/demo/handheld', size, { num: fps, den: 1 }, frames, WIDTH, HEIGHT, PASSES);
  const bytes = await bench.page.evaluate((order) => window.exportedTo(order), {
    ...long,
    target: { to: 'address' as const, url: `${bench.address}/clip` },
  });
  const clip = `${bench.address}/clip`;
  const all = frames * PASSES;
  const decoded = await bench.page.evaluate((address) => window.decoded(address), clip);
  const seconds = await bench.page.evaluate(([url, length, count]) => window.analysed(url, length, count), [clip, bytes, all] as const); // prettier-ignore
  line(
    'a shaken minute at 720p, its camera',
    `${seconds.toFixed(1)} s, ${(all / seconds).toFixed(0)} frames/s; ${decoded.toFixed(0)} decoded alone`,
  );
  const drop = scenes.find(({ name }) => name === 'drop')!;
  const [marble, frame] = [drop.marbles[1]!, 60];
  const scale = WIDTH / drop.view.width;
  const radius = marble.radius * scale;
  const at = marble.at(frame / drop.fps);
  const box = {
    x: WIDTH / 2 + (at.x - drop.view.x) * scale - radius,
    y: HEIGHT / 2 - (at.y - drop.view.y) * scale - radius,
    ...{ width: 2 * radius, height: 2 * radius },
  };
  const url = `${bench.address}/demo/drop`;
  const { size: dropBytes } = await stat(here('../demo/media/drop.mp4'));
  const rates: number[] = [];
  const plain: number[] = [];
  for (let round = 0; round < ROUNDS; round++) {
    plain.push(await bench.page.evaluate((address) => window.decoded(address), url));
    rates.push(
      await bench.page.evaluate(
        ([address, length, question, count]) => window.tracked(address, length, question, count),
        [url, dropBytes, { frame, box }, drop.frames] as const,
      ),
    );
  }
  const [rate, alone] = [Math.max(...rates), Math.max(...plain)];
  line('a marble, followed', `${rate.toFixed(0)} frames/s; ${alone.toFixed(0)} decoded alone; ratio ${(rate / alone).toFixed(2)}`); // prettier-ignore
  await bench.close();
}
