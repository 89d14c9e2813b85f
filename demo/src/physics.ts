/** Metres per second squared. */
export const GRAVITY = 9.81;

/** A solid ball rolling without slipping keeps 5/7 of the acceleration a sliding one would have (I = 2/5·m·r²). */
export const ROLLING = 5 / 7;

/** A point's place and speed in metres and metres per second, y upwards. */
export interface Motion {
  x: number;
  y: number;
  vx: number;
  vy: number;
}

/** A stretch of motion that begins at `from` seconds. */
export interface Phase {
  from: number;
  /** Motion `t` seconds after the phase's start. */
  at(t: number): Motion;
  /** Whether the marble touches what it rolls on. */
  rolling: boolean;
}

/** A marble striking something. */
export interface Impact {
  /** Seconds. */
  time: number;
  /** Speed against the surface, metres per second. */
  speed: number;
}

/** Free flight from a place with a speed: a parabola. */
export function flight(start: Motion): (t: number) => Motion {
  return (t) => ({
    x: start.x + start.vx * t,
    y: start.y + start.vy * t - (GRAVITY * t * t) / 2,
    vx: start.vx,
    vy: start.vy - GRAVITY * t,
  });
}

/** Seconds until a flight that starts at height `y` with upward speed `vy` comes down to height `floor`. */
export function fallTime(y: number, vy: number, floor: number): number {
  return (vy + Math.sqrt(vy * vy + 2 * GRAVITY * (y - floor))) / GRAVITY;
}

/** Rolling down a straight incline: even acceleration along it. `angle` in radians below the horizontal. */
export function incline(start: Motion, angle: number): (t: number) => Motion {
  const speed = Math.hypot(start.vx, start.vy);
  const pull = GRAVITY * ROLLING * Math.sin(angle);
  const [dx, dy] = [Math.cos(angle), -Math.sin(angle)];
  return (t) => {
    const way = speed * t + (pull * t * t) / 2;
    const now = speed + pull * t;
    return { x: start.x + dx * way, y: start.y + dy * way, vx: dx * now, vy: dy * now };
  };
}

/** The phase in force at a moment; the first before it all. */
export function phaseAt(phases: readonly Phase[], time: number): Phase {
  let current = phases[0]!;
  for (const phase of phases) if (phase.from <= time) current = phase;
  return current;
}

/**
 * Flights with bounces on level ground, one phase each.
 *
 * @param restitution share of the vertical speed that a bounce gives back
 * @returns the phases and impacts up to the bounce lower than `least` metres per second, then rolling on
 */
export function bounces(
  from: number,
  start: Motion,
  floor: number,
  restitution: number,
  least = 0.25,
): { phases: Phase[]; impacts: Impact[] } {
  const phases: Phase[] = [];
  const impacts: Impact[] = [];
  let [time, motion] = [from, start];
  for (;;) {
    const begin = motion;
    phases.push({ from: time, at: flight(begin), rolling: false });
    const lasts = fallTime(begin.y, begin.vy, floor);
    const landing = flight(begin)(lasts);
    time += lasts;
    impacts.push({ time, speed: -landing.vy });
    motion = { x: landing.x, y: floor, vx: landing.vx * 0.96, vy: -landing.vy * restitution };
    if (motion.vy < least) break;
  }
  const rest = motion;
  phases.push({ from: time, at: (t) => ({ x: rest.x + rest.vx * t, y: floor, vx: rest.vx, vy: 0 }), rolling: true });
  return { phases, impacts };
}
