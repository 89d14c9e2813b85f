import { joinedTakes, Recorder } from './recorder';

it('has a speed for every frame that has begun, however often it was asked', () => {
  const recorder = new Recorder(10);
  recorder.at(10, 1);
  recorder.at(10.6, 1.5);
  recorder.at(11.2, 2);
  recorder.at(14, 0.5);
  expect(recorder.take()).toEqual({ from: 10, speeds: [1, 2, 0.5, 0.5, 0.5] });
});

it('a take that was done again from a point on keeps what came before it', () => {
  const first = { from: 10, speeds: [1, 1, 1, 1] };
  expect(joinedTakes(first, { from: 12, speeds: [3, 3] })).toEqual({ from: 10, speeds: [1, 1, 3, 3] });
  expect(joinedTakes(first, { from: 40, speeds: [3] })).toEqual({ from: 40, speeds: [3] });
});
