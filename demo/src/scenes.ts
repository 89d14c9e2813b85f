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
  /** Taken in fields, with these lines first; all lines at once unless told. */
  interlaced?: 'topFirst' | 'bottomFirst';
  /** Metres across the picture, and the place of its middle. */
  view: { width: number; x: number; y: number };
  boards: readonly Board[];
  marbles: readonly Marble[];
  /** How the camera is held at a moment; it stands still unless told. */
  held?(time: number): Held;
}

/** How a camera is held: what it takes lies so far to the right and down in its picture (shares of its width), turned clockwise about its middle (radians). */
export interface Held {
  right: number;
  down: number;
  turn: number;
  /** So much of it on purpose, as it pans. */
  meant: number;
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

// Swings in a bowl: a harmonic motion that dies away (small angles; 5/7 for rolling). `quick` makes it livelier than it is.
function swinging(depth: number, quick: number) {
  return (radius: number, hue: number, amplitude: number, phase: number, damping: number): Marble => {
    const omega = Math.sqrt((GRAVITY * ROLLING * 2) / depth) * quick;
    const at = (time: number): Motion => {
      const fall = Math.exp(-damping * time);
      const x = amplitude * fall * Math.cos(omega * time + phase);
      const vx =
        -amplitude * fall * (omega * Math.sin(omega * time + phase) + damping * Math.cos(omega * time + phase));
      return { x, y: (x * x) / depth + radius, vx, vy: (2 * x * vx) / depth };
    };
    return { radius, hue, at, rolling: () => true, impacts: [] };
  };
}

// The wood of a bowl, cut through, from `-edge` to `edge` metres.
function bowlBoard(depth: number, edge: number): Board {
  const top = Array.from({ length: 61 }, (_, i): [number, number] => {
    const x = -edge + (2 * edge * i) / 60;
    return [x, (x * x) / depth];
  });
  return [...top, [edge, -0.12], [-edge, -0.12]];
}

function bowl(): Scene {
  const swing = swinging(2.1, 1.6);
  return {
    name: 'bowl',
    title: 'The bowl',
    fps: 60,
    frames: 300,
    view: { width: 1.7, x: 0, y: 0.24 },
    boards: [bowlBoard(2.1, 0.78)],
    marbles: [swing(0.034, 42, 0.7, 0, 0.16), swing(0.028, 160, 0.46, 2.4, 0.12), swing(0.022, 330, 0.28, 4.1, 0.1)],
  };
}

// A steep, quick bowl as the workshop's old interlaced camera took it: 25 frames, 50 fields a second.
function trough(): Scene {
  const swing = swinging(1.3, 1);
  return {
    name: 'trough',
    title: 'The trough',
    fps: 25,
    frames: 125,
    interlaced: 'topFirst',
    view: { width: 1.6, x: 0, y: 0.26 },
    boards: [bowlBoard(1.3, 0.7)],
    marbles: [swing(0.042, 205, 0.62, 0, 0.14), swing(0.034, 78, 0.5, 2.2, 0.1), swing(0.026, 14, 0.34, 4.4, 0.08)],
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

/** When the hand-held camera begins to pan, how long it does, and how far: in shares of its picture's width. */
const PAN = { from: 1.3, seconds: 2.8, far: 0.14 } as const;

/** How far it has panned at a time: slowly at first and at last. */
function pannedAt(time: number): number {
  const share = Math.min(1, Math.max(0, (time - PAN.from) / PAN.seconds));
  return PAN.far * share * share * share * (share * (6 * share - 15) + 10);
}

// The bowl, held by hand: a pan after the marbles, and a hand that shakes, quicker than three times a second all of it.
function handheld(): Scene {
  const swing = (time: number, parts: readonly (readonly [share: number, hertz: number, phase: number])[]): number =>
    parts.reduce((sum, [share, hertz, phase]) => sum + share * Math.sin(2 * Math.PI * hertz * time + phase), 0);
  return {
    ...bowl(),
    name: 'handheld',
    title: 'Hand-held',
    fps: 24,
    frames: 132,
    held: (time) => {
      const meant = -pannedAt(time);
      return {
        meant,
        right:
          meant +
          swing(time, [
            [0.0055, 3.1, 0.4],
            [0.0035, 4.3, 2],
            [0.0012, 6.1, 1],
          ]),
        down: swing(time, [
          [0.0045, 3.3, 1.2],
          [0.0028, 4.7, 0.3],
          [0.001, 7.3, 2.2],
        ]),
        turn: swing(time, [
          [0.006, 3.1, 1],
          [0.003, 4.9, 0.2],
        ]),
      };
    },
  };
}

/** Every clip of the workshop. Positions at any time are exact; the tests measure against them. */
export const scenes: readonly Scene[] = [drop(), bowl(), steps(), trough(), handheld()];

/** Seconds of a scene. */
export function sceneSeconds(scene: Scene): number {
  return scene.frames / scene.fps;
}
