import { fileColours, inColours } from './file-colours';

const colours = (change: VideoColorSpaceInit = {}): VideoColorSpace =>
  ({ primaries: 'bt709', transfer: 'bt709', matrix: 'bt709', fullRange: false, ...change }) as VideoColorSpace;

describe('the colours of a file', () => {
  it('are those of its first picture', () => {
    const full = colours({ transfer: 'iec61966-2-1', fullRange: true });
    const file = fileColours(full);
    expect(file.planes).toEqual({ matrix: 'bt709', fullRange: true });
    expect([inColours(full, file), inColours(colours(), file)]).toEqual([true, false]);
  });

  // ITU-T H.273: SMPTE 170M and BT.470 B/G share the coefficients of BT.601.
  it.each(['smpte170m', 'bt470bg'] as const)('%s are made as BT.601', (matrix) => {
    expect(fileColours(colours({ matrix })).planes).toEqual({ matrix: 'bt601', fullRange: false });
  });

  it('are HDTV’s where there is no picture, or one of a kind that is not made here', () => {
    const standard = fileColours(undefined);
    expect(standard.planes).toEqual({ matrix: 'bt709', fullRange: false });
    expect(inColours(colours(), standard)).toBe(true);
    for (const change of [{ matrix: 'bt2020-ncl' }, { transfer: 'pq' }, { matrix: 'rgb' }] as VideoColorSpaceInit[])
      expect(fileColours(colours(change))).toEqual(standard);
  });

  it('of a picture that says nothing are taken as HDTV’s and say nothing', () => {
    const none = { primaries: null, transfer: null, matrix: null, fullRange: null };
    const file = fileColours(none as unknown as VideoColorSpace);
    expect(file.planes).toEqual({ matrix: 'bt709', fullRange: false });
    expect(inColours(none as unknown as VideoColorSpace, file)).toBe(true);
  });
});
