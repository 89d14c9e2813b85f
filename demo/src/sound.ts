import { noiseOf } from '@hastig/core';
import type { Scene } from './scenes';
import { sceneSeconds } from './scenes';

export const SOUND_RATE = 48_000;

/** Numbers from 0 to 1 that are the same every time, so that the files come out the same. */
export function random(seed: number): () => number {
  const noise = noiseOf(seed);
  return () => (noise() + 1) / 2;
}

/** Partials of a marble on wood: frequency ratio, loudness, decay per second. */
const PARTIALS = [
  [1, 1, 42],
  [2.76, 0.5, 60],
  [5.4, 0.28, 90],
] as const;

/**
 * What is heard of a scene: each impact as a knock whose loudness follows its speed, rolling as filtered noise whose
 * loudness and colour follow the marble's speed, placed left or right as it is seen.
 *
 * @returns two channels at 48 kHz, as long as the scene
 */
export function sceneSound(scene: Scene): [Float32Array, Float32Array] {
  const length = Math.round(sceneSeconds(scene) * SOUND_RATE);
  const left = new Float32Array(length);
  const right = new Float32Array(length);
  scene.marbles.forEach((marble, number) => {
    const noise = random(97 + number);
    let low = 0;
    let band = 0;
    let loud = 0;
    const pitch = 520 + 18 / marble.radius;
    for (let i = 0; i < length; i++) {
      const time = i / SOUND_RATE;
      const motion = marble.at(time);
      const speed = Math.hypot(motion.vx, motion.vy);
      // A state-variable filter whose band rises with the speed.
      const frequency = 2 * Math.sin((Math.PI * Math.min(3000, 180 + 900 * speed)) / SOUND_RATE);
      const high = noise() * 2 - 1 - low - 0.9 * band;
      band += frequency * high;
      low += frequency * band;
      const wanted = marble.rolling(time) ? Math.min(0.16, 0.09 * speed) : 0;
      loud += (wanted - loud) * 0.002;
      let value = band * loud;
      for (const impact of marble.impacts) {
        const since = time - impact.time;
        if (since < 0 || since > 0.25) continue;
        const force = Math.min(0.5, 0.16 * impact.speed);
        for (const [ratio, share, decay] of PARTIALS) {
          value += force * share * Math.exp(-decay * since) * Math.sin(2 * Math.PI * pitch * ratio * since);
        }
      }
      const side = Math.min(1, Math.max(0, 0.5 + (motion.x - scene.view.x) / scene.view.width));
      left[i]! += value * Math.cos((side * Math.PI) / 2);
      right[i]! += value * Math.sin((side * Math.PI) / 2);
    }
  });
  return [left, right];
}
