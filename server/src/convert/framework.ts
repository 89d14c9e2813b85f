import { execFile } from 'node:child_process';
import { promisify } from 'node:util';

const run = promisify(execFile);

/** The general media framework that Debian carries, by its tools: GStreamer. */
export const tools = { launch: 'gst-launch-1.0', discover: 'gst-discoverer-1.0', inspect: 'gst-inspect-1.0' } as const;

/** What it needs from Debian's packages. */
export const packages = [
  'gstreamer1.0-tools',
  'gstreamer1.0-plugins-base-apps',
  'gstreamer1.0-plugins-good',
  'gstreamer1.0-plugins-bad',
  'gstreamer1.0-plugins-ugly',
  'gstreamer1.0-libav',
] as const;

/** Whatever the machine's language, what tools say is read in this one. */
export const environment = { ...process.env, LANG: 'C', LC_ALL: 'C' };

/** H.264 encoders, the better one first. */
const encoders = ['x264enc', 'openh264enc'] as const;
export type H264Encoder = (typeof encoders)[number];

const has = (element: string): Promise<boolean> =>
  run(tools.inspect, [element], { env: environment }).then(
    () => true,
    () => false,
  );

/** The encoder there is; undefined where the framework, what it decodes with or an encoder is missing. */
export async function findEncoder(): Promise<H264Encoder | undefined> {
  if (!(await has('libav'))) return undefined;
  for (const encoder of encoders) if (await has(encoder)) return encoder;
  return undefined;
}

/** Whether this machine has all that a conversion needs. */
export const canConvert = async (): Promise<boolean> => (await findEncoder()) !== undefined;
