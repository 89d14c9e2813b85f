import { joinedMotion, motionBytes, MotionMaker, pictureMoments, readMotion, type Motion, type MomentKind } from '.';

const [WIDTH, HEIGHT] = [80, 45];

/** A picture of a soft disc on a ground of one brightness. */
function picture(x: number, y: number, ground = 60): Uint8Array {
  const pixels = new Uint8Array(WIDTH * HEIGHT).fill(ground);
  for (let row = 0; row < HEIGHT; row++) {
    for (let column = 0; column < WIDTH; column++) {
      const far = Math.hypot(column - x, row - y);
      if (far < 6) pixels[row * WIDTH + column] = ground + 120 * Math.exp(-((far / 3.5) ** 2));
    }
  }
  return pixels;
}

function motionOf(frames: readonly Uint8Array[]): Motion {
  const maker = new MotionMaker(WIDTH, HEIGHT);
  for (const frame of frames) maker.push(frame);
  return maker.motion();
}

const framesOf = (motion: Motion, kind: MomentKind): number[] =>
  pictureMoments(motion, 30)
    .filter((moment) => moment.kind === kind)
    .map(({ frame }) => frame);

it('motion has a direction and a size', () => {
  const motion = motionOf(Array.from({ length: 8 }, (_, i) => picture(20 + 1.2 * i, 20 - 0.6 * i)));
  for (let at = 1; at < 8; at++) {
    expect(motion.right[at]).toBeGreaterThan(0.8);
    expect(motion.right[at]).toBeLessThan(1.6);
    expect(motion.down[at]).toBeLessThan(-0.3);
    expect(motion.energy[at]).toBeGreaterThan(0.3);
  }
  expect(motion.energy[0]).toBe(0);
});

it('a ball that bounces turns where it bounces', () => {
  const heights = Array.from({ length: 60 }, (_, i) => (i < 30 ? 8 + i * 0.9 : 34.1 - (i - 29) * 0.9));
  const turns = framesOf(motionOf(heights.map((y) => picture(40, y))), 'turn');
  expect(turns).toHaveLength(1);
  expect(Math.abs(turns[0]! - 30)).toBeLessThanOrEqual(1);
});

it('what starts and stops is found within a frame of where it does', () => {
  const places = Array.from({ length: 90 }, (_, i) => 20 + 0.9 * Math.min(30, Math.max(0, i - 29)));
  const motion = motionOf(places.map((x) => picture(x, 20)));
  expect(Math.abs(framesOf(motion, 'start')[0]! - 30)).toBeLessThanOrEqual(1);
  expect(Math.abs(framesOf(motion, 'stop')[0]! - 60)).toBeLessThanOrEqual(1);
});

it('a hard cut is a cut, and nothing else', () => {
  const frames = Array.from({ length: 40 }, (_, i) => picture(20 + i * 0.5, 20, i < 17 ? 60 : 150));
  const motion = motionOf(frames);
  expect(framesOf(motion, 'cut')).toEqual([17]);
  expect(framesOf(motion, 'motion')).toEqual([]);
  expect(framesOf(motion, 'start')).not.toContain(17);
});

it('noise of a camera is no motion', () => {
  let state = 7;
  const noise = (): number => (state = (state * 16_807) % 2_147_483_647) % 5;
  const frames = Array.from({ length: 20 }, () => Uint8Array.from({ length: WIDTH * HEIGHT }, () => 100 + noise()));
  expect(pictureMoments(motionOf(frames), 30)).toEqual([]);
  expect(pictureMoments(motionOf([]), 30)).toEqual([]);
});

it('comes back from its bytes, in pieces or in one', () => {
  const motion = motionOf(Array.from({ length: 12 }, (_, i) => picture(20 + i, 20)));
  const part = (from: number, to: number): Motion => ({
    energy: motion.energy.slice(from, to),
    change: motion.change.slice(from, to),
    right: motion.right.slice(from, to),
    down: motion.down.slice(from, to),
  });
  const back = joinedMotion([part(0, 5), part(5, 12)].map((one) => readMotion(motionBytes(one))));
  expect(back).toEqual(motion);
  expect(() => readMotion(new Uint8Array(5))).toThrow(RangeError);
});
