import { spawn } from 'node:child_process';

/** Samples a second of all sound here. */
export const RATE = 44_100;
const RAW = ['-f', 'f32le', '-ar', String(RATE), '-ac', '1'];

function ffmpeg(args: readonly string[], input?: Uint8Array): Promise<Buffer> {
  return new Promise((resolve, reject) => {
    const child = spawn('ffmpeg', ['-v', 'error', '-y', ...args], { stdio: ['pipe', 'pipe', 'inherit'] });
    const parts: Buffer[] = [];
    child.stdout.on('data', (part: Buffer) => parts.push(part));
    child.on('error', reject);
    child.stdin.on('error', reject);
    child.on('close', (code) =>
      code === 0 ? resolve(Buffer.concat(parts)) : reject(new Error(`ffmpeg ${args.join(' ')} ended with ${code}`)),
    );
    child.stdin.end(input);
  });
}

/** Writes one channel of sound, in the format that the file's name says. */
export async function writeSound(file: string, samples: Float32Array, options: readonly string[] = []): Promise<void> {
  const bytes = new Uint8Array(samples.buffer, samples.byteOffset, samples.byteLength);
  await ffmpeg([...RAW, '-i', 'pipe:0', ...options, file], bytes);
}

/** Samples of a file of sound, −1 to 1, all channels as one, `RATE` of them a second. */
export async function readSound(file: string): Promise<Float32Array> {
  const bytes = await ffmpeg(['-i', file, ...RAW, 'pipe:1']);
  return new Float32Array(bytes.buffer.slice(bytes.byteOffset, bytes.byteOffset + bytes.byteLength));
}
