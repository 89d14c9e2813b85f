import { samplePeak } from './sample-peak';

const stretch = { sourceId: 's', first: 100, samples: Float32Array.from([0, 1, -1, 0.5, 0]) };

it('many samples in a column are its lowest and highest', () => {
  expect(samplePeak(stretch, 100, 104)).toEqual({ low: -1, high: 1 });
  expect(samplePeak(stretch, 103, 101)).toEqual({ low: -1, high: 1 });
});

it('between two samples it is the line from one to the other', () => {
  expect(samplePeak(stretch, 100.25, 100.5)).toEqual({ low: 0.25, high: 0.5 });
  expect(samplePeak(stretch, 101.5, 101.75)).toEqual({ low: -0.5, high: 0 });
});

it('what is not there is not known', () => {
  expect(samplePeak(stretch, 99, 101)).toBeUndefined();
  expect(samplePeak(stretch, 103, 105)).toBeUndefined();
});
