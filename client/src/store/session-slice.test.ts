import {
  targetOpened,
  keysSelected,
  marked,
  sessionReducer,
  spanSelected,
  settingsCopied,
  unitCycled,
} from './session-slice';

const start = sessionReducer(undefined, { type: 'start' });

describe('the session', () => {
  it('lets a mark on the wrong side of the other take its place', () => {
    const range = [marked({ side: 'from', at: 20 }), marked({ side: 'to', at: 40 })].reduce(sessionReducer, start);
    expect(range.marks).toEqual({ from: 20, to: 40 });
    expect(sessionReducer(range, marked({ side: 'from', at: 60 })).marks).toEqual({ from: 60, to: null });
    expect(sessionReducer(range, marked({ side: 'to', at: 10 })).marks).toEqual({ from: null, to: 10 });
  });

  it('selects one part or several keys, not both', () => {
    const several = sessionReducer(sessionReducer(start, spanSelected(2)), keysSelected([1, 2]));
    expect(several).toMatchObject({ selectedSpan: null, selectedKeys: [1, 2] });
    expect(sessionReducer(several, spanSelected(1))).toMatchObject({ selectedSpan: 1, selectedKeys: [] });
  });

  it('takes the copied timing and the unit along to another clip, not the marks', () => {
    const copied = { from: 'drop', timing: { start: 0, spans: [] as never }, muted: false };
    const before = [settingsCopied(copied), unitCycled(), marked({ side: 'from', at: 3 })].reduce(
      sessionReducer,
      start,
    );
    expect(
      sessionReducer(before, targetOpened({ target: { clip: 'other' }, playhead: 7, playheads: {} })),
    ).toMatchObject({
      copied,
      unit: 'frames',
      marks: { from: null, to: null },
      playhead: 7,
    });
  });
});
