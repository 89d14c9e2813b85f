import { expect, test } from '@playwright/test';
import type { RetimeMap } from '@hastig/contract';
import { compile, constantSpan, makeRate, rampSpan, reverseRange, timesAt } from '@hastig/core';
import { ALL_FORMATS, FilePathSource, Input } from 'mediabunny';
import { codeSound, renderMap, soundPeak } from '../support/files';
import type { CodedSound } from '../support/made-page';

const KNOCKS = [0.5, 1.25, 2.5];

const files: Pick<CodedSound, 'as' | 'sampleRate' | 'channels'>[] = [
  { as: 'wav', sampleRate: 44_100, channels: 2 },
  { as: 'flac', sampleRate: 96_000, channels: 2 },
  { as: 'm4a', sampleRate: 48_000, channels: 2 },
  { as: 'ogg', sampleRate: 48_000, channels: 2 },
  { as: 'mp3', sampleRate: 44_100, channels: 2 },
];

/** Samples of a file's sound. */
async function samplesOf(file: string, sampleRate: number): Promise<number> {
  const input = new Input({ source: new FilePathSource(file), formats: ALL_FORMATS });
  const seconds = await (await input.getPrimaryAudioTrack())!.computeDuration();
  input.dispose();
  return Math.round(seconds * sampleRate);
}

// Where a knock lies in the file is asked of the browser's own decoder, which shares nothing with the reading library.
for (const { as, sampleRate, channels } of files) {
  // What codes with a delay, every time.
  const tag = as === 'm4a' ? [] : '@long';
  test(`sound alone follows its map, forwards and backwards: ${as}, ${sampleRate} Hz`, { tag }, async () => {
    const source = await codeSound({ as, sampleRate, channels, seconds: 4, knocks: KNOCKS });
    const heard = await Promise.all(KNOCKS.map((knock) => soundPeak(source, knock - 0.1, knock + 0.2)));
    const forwards: RetimeMap = {
      ...{ sourceRate: makeRate(sampleRate), outputRate: makeRate(25), start: 0 },
      sourceFrames: await samplesOf(source, sampleRate),
      spans: [constantSpan(1, 20), rampSpan(1, 0.5, 20), constantSpan(0.5, 80)],
    };
    const map = reverseRange(forwards, { from: 60, to: compile(forwards).length });
    const file = await renderMap(source, map);
    const { seconds } = await soundPeak(file, 0, 1);
    expect(seconds).toBeCloseTo(compile(map).length / 25, 3);
    for (const { time } of heard) {
      const { from } = timesAt(map, time * sampleRate)[0]!;
      const found = await soundPeak(file, from / 25 - 0.1, from / 25 + 0.1);
      expect(found.level).toBeGreaterThan(0.4);
      expect(Math.abs(found.time - from / 25) * 1000).toBeLessThan(1);
    }
  });
}
