import {
  bounces,
  fallTime,
  flight,
  GRAVITY,
  incline,
  phaseAt,
  ROLLING,
  type Impact,
  type Motion,
  type Phase,
} from './physics';

/** A piece of wood, seen from the side: a polygon in metres. */
export type Board = readonly (readonly [x: number, y: number])[];

/** A marble of a scene: its looks, and where it is at any moment, exactly. */
export interface Marble {
  radius: number;
  /** Hue in degrees. */
  hue: number;
  at(time: number): Motion;
  /** Whether it touches wood. */
  rolling(time: number): boolean;
  impacts: readonly Impact[];
}

/** One clip of the marble-run workshop. */
export interface Scene {
  name: string;
  title: string;
  fps: number;
  frames: number;
  /** Metres across the picture, and the place of its middle. */
  view: { width: number; x: number; y: number };
  boards: readonly Board[];
  marbles: readonly Marble[];
}

function marbleOf(radius: number, hue: number, phases: readonly Phase[], impacts: readonly Impact[]): Marble {
  return {
    radius,
    hue,
    at: (time) => {
      const phase = phaseAt(phases, time);
      return phase.at(Math.max(0, time - phase.from));
    },
    rolling: (time) => phaseAt(phases, time).rolling,
    impacts,
  };
}

// Rolls down an incline, flies off its end and bounces over the bench.
function dropMarble(radius: number, hue: number, delay: number, angle: number, length: number): Marble {
  const start: Motion = { x: -0.62, y: 0.42 + radius, vx: 0, vy: 0 };
  const down = incline(start, angle);
  const lasts = Math.sqrt((2 * length) / (GRAVITY * ROLLING * Math.sin(angle)));
  const edge = down(lasts);
  const { phases, impacts } = bounces(delay + lasts, edge, radius, 0.72);
  const waiting: Phase = { from: 0, at: () => start, rolling: false };
  return marbleOf(radius, hue, [waiting, { from: delay, at: down, rolling: true }, ...phases], impacts);
}

function drop(): Scene {
  const angle = 0.3;
  const [cos, sin] = [Math.cos(angle), Math.sin(angle)];
  const length = 0.52;
  const [x, y] = [-0.62, 0.42];
  return {
    name: 'drop',
    title: 'The drop',
    fps: 24,
    frames: 144,
    view: { width: 1.62, x: 0.12, y: 0.3 },
    boards: [
      [
        [x - 0.1, y + 0.1 * (sin / cos)],
        [x + length * cos, y - length * sin],
        [x + length * cos, y - length * sin - 0.035],
        [x - 0.1, y + 0.1 * (sin / cos) - 0.035],
      ],
      [
        [-0.9, 0],
        [1.2, 0],
        [1.2, -0.06],
        [-0.9, -0.06],
      ],
      [
        [-0.56, 0.36],
        [-0.52, 0.36],
        [-0.52, 0],
        [-0.56, 0],
      ],
      [
        [-0.22, 0.26],
        [-0.18, 0.26],
        [-0.18, 0],
        [-0.22, 0],
      ],
    ],
    marbles: [dropMarble(0.032, 12, 0.5, angle, length), dropMarble(0.026, 196, 2.3, angle, length)],
  };
}

// Swings in a shallow bowl: a harmonic motion that dies away (small angles; 5/7 for rolling).
function bowl(): Scene {
  const depth = 2.1;
  const swing = (radius: number, hue: number, amplitude: number, phase: number, damping: number): Marble => {
    const omega = Math.sqrt((GRAVITY * ROLLING * 2) / depth) * 1.6;
    const at = (time: number): Motion => {
      const fall = Math.exp(-damping * time);
      const x = amplitude * fall * Math.cos(omega * time + phase);
      const vx =
        -amplitude * fall * (omega * Math.sin(omega * time + phase) + damping * Math.cos(omega * time + phase));
      return { x, y: (x * x) / depth + radius, vx, vy: (2 * x * vx) / depth };
    };
    return { radius, hue, at, rolling: () => true, impacts: [] };
  };
  const top: [number, number][] = Array.from({ length: 61 }, (_, i) => {
    const x = -0.78 + (1.56 * i) / 60;
    return [x, (x * x) / depth];
  });
  return {
    name: 'bowl',
    title: 'The bowl',
    fps: 60,
    frames: 300,
    view: { width: 1.7, x: 0, y: 0.24 },
    boards: [[...top, [0.78, -0.12], [-0.78, -0.12]]],
    marbles: [swing(0.034, 42, 0.7, 0, 0.16), swing(0.028, 160, 0.46, 2.4, 0.12), swing(0.022, 330, 0.28, 4.1, 0.1)],
  };
}

// Hops down a flight of steps: off each edge into a short flight, onto the next step with a click.
function steps(): Scene {
  const count = 7;
  const [rise, run] = [0.085, 0.16];
  const [left, top] = [-0.62, 0.6];
  const hop = (radius: number, hue: number, delay: number, speed: number): Marble => {
    const start: Motion = { x: left - 0.06, y: top + radius, vx: 0, vy: 0 };
    const phases: Phase[] = [{ from: 0, at: () => start, rolling: false }];
    const impacts: Impact[] = [];
    let time = delay;
    let x = start.x;
    for (let step = 0; step < count; step++) {
      const edge = left + (step + 0.35) * run;
      const level = top - step * rise + radius;
      const from = x;
      phases.push({ from: time, at: (t) => ({ x: from + speed * t, y: level, vx: speed, vy: 0 }), rolling: true });
      time += (edge - from) / speed;
      const take: Motion = { x: edge, y: level, vx: speed, vy: 0 };
      phases.push({ from: time, at: flight(take), rolling: false });
      const lasts = fallTime(level, 0, level - rise);
      time += lasts;
      impacts.push({ time, speed: GRAVITY * lasts });
      x = edge + speed * lasts;
    }
    const last: Motion = { x, y: top - count * rise + radius, vx: speed, vy: 0 };
    phases.push({ from: time, at: (t) => ({ ...last, x: last.x + speed * t }), rolling: true });
    return marbleOf(radius, hue, phases, impacts);
  };
  const boards: Board[] = Array.from({ length: count + 1 }, (_, step) => {
    const x0 = step === 0 ? left - 0.3 : left + (step - 0.65) * run;
    const x1 = step === count ? left + (count + 4) * run : left + (step + 0.35) * run;
    const y = top - step * rise;
    return [
      [x0, y],
      [x1, y],
      [x1, y - rise],
      [x0, y - rise],
    ];
  });
  return {
    name: 'steps',
    title: 'The steps',
    fps: 120,
    frames: 360,
    view: { width: 1.5, x: 0, y: 0.3 },
    boards,
    marbles: [hop(0.024, 268, 0.3, 0.72), hop(0.02, 24, 1.0, 0.86)],
  };
}

/** Every clip of the workshop. Positions at any time are exact; the tests measure against them. */
export const scenes: readonly Scene[] = [drop(), bowl(), steps()];

/** Seconds of a scene. */
export function sceneSeconds(scene: Scene): number {
  return scene.frames / scene.fps;
}
