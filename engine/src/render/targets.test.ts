import { freeName } from './targets';

describe('the name of a finished file', () => {
  it('is the one asked for, or the first free number after it: nothing is overwritten', () => {
    expect(freeName('drop.mp4', new Set())).toBe('drop.mp4');
    expect(freeName('drop.mp4', new Set(['drop.mp4']))).toBe('drop 2.mp4');
    expect(freeName('drop.mp4', new Set(['drop.mp4', 'drop 2.mp4']))).toBe('drop 3.mp4');
    expect(freeName('drop', new Set(['drop']))).toBe('drop 2');
  });
});
