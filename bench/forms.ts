import { stat } from 'node:fs/promises';
import type { OutputForm } from '@hastig/contract';
import { formatFacts, pictureCodingNames, pictureCodingOf } from '@hastig/core';
import type { RenderJob } from '@hastig/engine';
import { line } from './line';
import { here, job, openBench } from './render-page';

const ROUNDS = 3;

/** Forms with pictures, and as many frames of each as take some seconds. */
const FORMS: readonly (OutputForm & { frames: number })[] = [
  { format: 'mp4', frames: 300 },
  { format: 'mov', frames: 300 },
  { format: 'mkv', frames: 300 },
  { format: 'webm', frames: 120 },
  { format: 'mp4', pictureCoding: 'av1', frames: 120 },
  { format: 'png', frames: 60 },
  { format: 'jpeg', frames: 120 },
  { format: 'webp', frames: 40 },
  // It has 50 a second at most.
  { format: 'gif', frames: 40, rate: { num: 30, den: 1 } },
];

/**
 * How fast files of each form are made at 720p, beside decoding the same frames and coding them by the same encoder, and how near the
 * time and size that were told before came to it.
 */
export async function benchForms(): Promise<void> {
  const bench = await openBench();
  const address = `${bench.address}/demo/bowl`;
  const { size } = await stat(here('../demo/media/bowl.mp4'));
  for (const { frames, ...form } of FORMS) {
    const whole = job(bench, '/demo/bowl', size, { num: 60, den: 1 }, 300, 1280, 720);
    const rate = form.rate ?? whole.rate;
    const order: RenderJob = { ...whole, ...form, rate, ...(frames < 300 && { span: { from: 0, to: (frames * 60) / rate.num } }) }; // prettier-ignore
    const coding = pictureCodingOf(form);
    const name = [formatFacts[form.format].name, ...(coding ? [pictureCodingNames[coding]] : [])].join(', ');
    if (!(await bench.page.evaluate((one) => window.canCode(one), order))) {
      line(`720p ${name}`, 'there is no encoder');
      continue;
    }
    const [plain, made, seconds, bytes]: [number[], number[], number[], number[]] = [[], [], [], []];
    let told = { seconds: 0, bytes: 0 };
    for (let round = 0; round < ROUNDS; round++) {
      plain.push(
        await bench.page.evaluate(([from, one, count]) => window.plainAs(from, one, count), [
          address,
          order,
          frames,
        ] as const),
      );
      told = await bench.page.evaluate((one) => window.estimated(one), order);
      const done = await bench.page.evaluate((one) => window.rendered(one), order);
      made.push(frames / done.took);
      seconds.push(told.seconds / done.took);
      bytes.push(told.bytes / done.bytes);
    }
    const [a, b] = [Math.max(...plain), Math.max(...made)];
    const all = (ratios: number[]): string => ratios.map((ratio) => ratio.toFixed(2)).join(' ');
    line(
      `720p ${name}`,
      `${b.toFixed(1)} frames/s; decoded and coded alone ${a.toFixed(1)}; ratio ${(b / a).toFixed(2)}; told beside true: time ${all(seconds)}, size ${all(bytes)}`,
    );
  }
  await bench.close();
}
