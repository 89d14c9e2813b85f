import {
  AudioSample,
  AudioSampleSource,
  BufferTarget,
  OggOutputFormat,
  Output,
  WavOutputFormat,
  type AudioEncodingConfig,
  type OutputFormat,
} from 'mediabunny';
import { chimesSound } from '../chimes';
import { pieces } from '../music';
import { SOUND_RATE } from '../sound';

declare global {
  interface Window {
    /** Makes the chimes and sends them to the address. */
    makeChimes(address: string): Promise<void>;
    /** Makes a piece of music and sends it to the address. */
    makeMusic(name: keyof typeof pieces, address: string): Promise<void>;
    /** Makes the title card and sends it to the address. */
    makeTitle(address: string): Promise<void>;
  }
}

async function sendSound(
  address: string,
  format: OutputFormat,
  encoding: AudioEncodingConfig,
  channels: readonly [Float32Array, Float32Array],
): Promise<void> {
  const output = new Output({ format, target: new BufferTarget() });
  const sound = new AudioSampleSource(encoding);
  output.addAudioTrack(sound);
  await output.start();
  const data = new Float32Array(channels[0].length * 2);
  channels.forEach((channel, index) => data.set(channel, index * channel.length));
  const shape = { format: 'f32-planar', numberOfChannels: 2, sampleRate: SOUND_RATE, timestamp: 0 } as const;
  await sound.add(new AudioSample({ data, ...shape }));
  await output.finalize();
  await fetch(`${address}?position=0`, { method: 'PUT', body: (output.target as BufferTarget).buffer! });
}

window.makeChimes = (address) => sendSound(address, new WavOutputFormat(), { codec: 'pcm-s16' }, chimesSound());

window.makeMusic = (name, address) =>
  sendSound(address, new OggOutputFormat(), { codec: 'opus', bitrate: 112_000 }, pieces[name].sound());

/** Marbles along the card: place (share of the width), radius in pixels, hue in degrees. */
const MARBLES = [
  [0.2, 38, 205],
  [0.32, 52, 18],
  [0.47, 64, 140],
  [0.64, 52, 48],
  [0.78, 38, 320],
] as const;

// Nothing but marbles and a line: what lies below shows between them.
window.makeTitle = async (address) => {
  const canvas = new OffscreenCanvas(1280, 720);
  const context = canvas.getContext('2d')!;
  const line = 470;
  context.fillStyle = 'rgb(240 232 215)';
  context.fillRect(160, line, 960, 10);
  for (const [place, radius, hue] of MARBLES) {
    const [x, y] = [160 + place * 960, line - radius];
    const shade = context.createRadialGradient(x - radius / 3, y - radius / 3, radius / 8, x, y, radius);
    shade.addColorStop(0, `hsl(${hue} 80% 82%)`);
    shade.addColorStop(0.5, `hsl(${hue} 65% 52%)`);
    shade.addColorStop(1, `hsl(${hue} 70% 24%)`);
    context.fillStyle = shade;
    context.beginPath();
    context.arc(x, y, radius, 0, 2 * Math.PI);
    context.fill();
  }
  const blob = await canvas.convertToBlob({ type: 'image/png' });
  await fetch(`${address}?position=0`, { method: 'PUT', body: blob });
};
