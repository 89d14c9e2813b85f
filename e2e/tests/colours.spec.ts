import { statSync } from 'node:fs';
import { expect, test } from '@playwright/test';
import type { RetimeMap } from '@hastig/contract';
import { coloursOf, constantSpan } from '@hastig/core';
import { probeMedia } from '@hastig/probe';
import { FilePathSource } from 'mediabunny';
import type { CodedBars } from '../support/bars-page';
import { codeBars, readBars, renderMapAs } from '../support/files';

/** Red, green and blue of 75 % bars (ITU-R BT.471). */
const bars = [191, 0].flatMap((g) => [191, 0].flatMap((r) => [191, 0].map((b) => [r, g, b])));

const sizes = [
  { width: 640, height: 480, perSecond: 30, standard: 'bt601', assumed: 'bt601-525' },
  { width: 720, height: 576, perSecond: 25, standard: 'bt601', assumed: 'bt601-625' },
  { width: 1280, height: 720, perSecond: 25, standard: 'bt709', assumed: 'bt709' },
  { width: 1920, height: 1080, perSecond: 30, standard: 'bt709', assumed: 'bt709' },
] as const;

const kinds: readonly Omit<CodedBars, 'width' | 'height' | 'perSecond' | 'standard'>[] = [
  { codec: 'vp8', as: 'webm', tagged: false, fullRange: false },
  { codec: 'vp8', as: 'webm', tagged: false, fullRange: false, wide: 2 },
  { codec: 'avc', as: 'mp4', tagged: true, fullRange: false },
  { codec: 'avc', as: 'mp4', tagged: true, fullRange: true, wide: 2 },
  { codec: 'vp9', as: 'webm', tagged: true, fullRange: true },
];
/** Of the size at which they are met with. */
const only625: typeof kinds = [
  { codec: 'vp9', as: 'mp4', tagged: true, fullRange: false, primaries: 'bt470bg' },
  { codec: 'vp9', as: 'mp4', tagged: true, fullRange: false, primaries: 'bt470bg', wide: 2 },
];

const nameOf = ({ codec, as, tagged, fullRange, wide, primaries }: (typeof kinds)[number]): string =>
  [
    `${codec} in ${as}${tagged ? '' : ' without tags'}`,
    ...(fullRange ? ['full range'] : []),
    ...(primaries ? [primaries] : []),
    ...(wide ? ['drawn'] : []),
  ].join(', ');

const furthest = (read: number[][], wanted: number[][]): number =>
  Math.max(...read.flatMap((colour, bar) => colour.map((value, of) => Math.abs(value - wanted[bar]![of]!))));

for (const { assumed, ...size } of sizes) {
  // All kinds at one size of each standard; the others say nothing that these don’t, but for what is assumed of them.
  const tag = size.height > 500 ? '@long' : [];
  test(`colour bars come out of a render as they went in, ${size.width} × ${size.height}`, { tag }, async () => {
    const all = size.height === 480 || size.height === 720;
    const some = all ? kinds : kinds.filter(({ tagged, wide }) => !tagged && (!wide || size.height === 576));
    for (const kind of [...some, ...(size.height === 576 ? only625 : [])]) {
      await test.step(nameOf(kind), async () => {
        const source = await codeBars({ ...size, ...kind });
        const media = await probeMedia(new FilePathSource(source), statSync(source).size);
        media.dispose();
        const { facts } = media;
        expect(facts.video!.colours!.matrix === 'unspecified').toBe(!kind.tagged);
        if (!kind.tagged) expect(coloursOf({ facts }).colours!.space).toBe(assumed);
        const { rate } = facts.video!;
        const map: RetimeMap = {
          ...{ sourceRate: rate, outputRate: rate, sourceFrames: 6, start: 0 },
          spans: [constantSpan(1, 6)],
        };
        // What says what it is, browsers show as it is; what does not, they take for BT.709, whatever its size.
        const wanted = kind.tagged || assumed === 'bt709' ? await readBars(source) : bars;
        // What is drawn is drawn the same for both kinds of file.
        for (const out of kind.codec === 'avc' || kind.wide ? ['out.mp4'] : ['out.mp4', 'out.webm']) {
          const made = await renderMapAs(out, source, map);
          // Coding it once more takes a few steps, small pictures and VP8's rounding a few of their own; a wrong matrix takes 30.
          expect(furthest(await readBars(made), wanted)).toBeLessThan(kind.codec === 'vp8' ? 14 : 5);
        }
      });
    }
  });
}

test('colour bars of BT.709 come out of a render as they went in', async () => {
  const size = { width: 1280, height: 720, perSecond: 25, standard: 'bt709' } as const;
  const source = await codeBars({ ...size, codec: 'avc', as: 'mp4', tagged: true, fullRange: false });
  const sourceRate = { num: 25, den: 1 };
  const map: RetimeMap = { sourceRate, outputRate: sourceRate, sourceFrames: 6, start: 0, spans: [constantSpan(1, 6)] };
  expect(furthest(await readBars(await renderMapAs('out.mp4', source, map)), await readBars(source))).toBeLessThan(5);
});
