import { axisToSpeed, frameToX, speedToAxis, speedToY, xToFrame, yToSpeed, type CurveView } from './scale';

const view: CurveView = { from: 100, to: 300, low: -1, high: 8, width: 390, height: 260 };

describe('the speed axis', () => {
  it('has ×0.1 and ×10 equally far from ×1, and mirrors backwards', () => {
    expect(speedToAxis(10) - speedToAxis(1)).toBeCloseTo(speedToAxis(1) - speedToAxis(0.1), 12);
    expect(speedToAxis(-2.5)).toBe(-speedToAxis(2.5));
    expect(speedToAxis(0)).toBe(0);
  });

  it('has no step and no bend where its two parts meet', () => {
    const slope = (at: number): number => (speedToAxis(at + 1e-6) - speedToAxis(at)) / 1e-6;
    expect(slope(0.1 + 1e-9)).toBeCloseTo(slope(0.1 - 2e-6), 3);
  });

  it.each([-90, -1, -0.05, 0, 0.03, 0.1, 0.4, 1, 6, 100])('finds ×%d back', (speed) => {
    expect(axisToSpeed(speedToAxis(speed))).toBeCloseTo(speed, 9);
    expect(yToSpeed(view, speedToY(view, speed))).toBeCloseTo(speed, 9);
  });

  it('finds frames back from pixels', () => {
    expect(frameToX(view, 200)).toBe(195);
    expect(xToFrame(view, frameToX(view, 123.5))).toBeCloseTo(123.5, 9);
  });
});
