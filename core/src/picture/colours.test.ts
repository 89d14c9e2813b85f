import { factsOf } from '../../test/projects';
import { makeRate } from '../time';
import { assumedSpace, coloursOf, videoColours } from './colours';

// Common practice.
it.each([
  [480, 30000 / 1001, 'bt601-525'],
  [480, 30, 'bt601-525'],
  [486, 60000 / 1001, 'bt601-525'],
  [576, 25, 'bt601-625'],
  [576, 50, 'bt601-625'],
  [360, 24, 'bt601-525'],
  [577, 25, 'bt709'],
  [720, 30, 'bt709'],
  [1080, 25, 'bt709'],
  [2160, 60, 'bt709'],
] as const)('%i lines at %f that say nothing are taken for %s', (lines, perSecond, space) => {
  expect(assumedSpace(lines, perSecond)).toBe(space);
});

describe('the colours of a source', () => {
  const facts = factsOf(makeRate(25), 100);
  const saying = (matrix: string, change: object = {}) => ({
    ...facts,
    video: { ...facts.video, width: 720, height: 576, colours: { matrix, fullRange: false }, ...change },
  });

  it('are what is chosen, else what its file says, else what is assumed', () => {
    const chosen = { space: 'bt709', fullRange: true } as const;
    expect(coloursOf({ facts: saying('unspecified'), colours: chosen })).toEqual({ colours: chosen, origin: 'chosen' });
    expect(coloursOf({ facts: saying('bt709') })).toEqual({ colours: null, origin: 'file' });
    expect(coloursOf({ facts: saying('unspecified') })).toEqual({
      colours: { space: 'bt601-625', fullRange: false },
      origin: 'assumed',
    });
    // Never looked for, and no picture at all.
    expect(coloursOf({ facts }).origin).toBe('file');
    expect(coloursOf({ facts: { ...facts, video: null } }).origin).toBe('file');
  });

  it('of a turned picture go by its lines as they are stored', () => {
    const turned = saying('unspecified', { width: 480, height: 854, rotation: 90 });
    expect(coloursOf({ facts: turned }).colours?.space).toBe('bt601-625');
    expect(coloursOf({ facts: saying('unspecified', { width: 1080, height: 480 }) }).colours?.space).toBe('bt601-625');
  });

  it('are said as ITU-T H.273 has them', () => {
    expect(videoColours({ space: 'bt601-625', fullRange: true })).toEqual({
      ...{ primaries: 'bt709', transfer: 'bt709', matrix: 'bt470bg' },
      fullRange: true,
    });
    expect(videoColours({ space: 'bt601-525', fullRange: false }).matrix).toBe('smpte170m');
  });
});
