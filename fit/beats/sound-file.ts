import { spawn } from 'node:child_process';

/** Samples a second of all sound here. */
export const RATE = 44_100;
const RAW = ['-t', 'raw', '-e', 'floating-point', '-b', '32', '-c', '1', '-r', String(RATE)];

/** Runs Debian's `sox`, which reads and writes every format here. */
function sox(args: readonly string[], input?: Uint8Array): Promise<Buffer> {
  return new Promise((resolve, reject) => {
    const child = spawn('sox', ['-V1', '-D', '-G', ...args], { stdio: ['pipe', 'pipe', 'inherit'] });
    const parts: Buffer[] = [];
    child.stdout.on('data', (part: Buffer) => parts.push(part));
    child.on('error', reject);
    child.stdin.on('error', reject);
    child.on('close', (code) =>
      code === 0 ? resolve(Buffer.concat(parts)) : reject(new Error(`sox ${args.join(' ')} ended with ${code}`)),
    );
    child.stdin.end(input);
  });
}

/** Writes one channel of sound, in the format that the file's name says; `quality` is the encoder's, in kbit/s for MP3. */
export async function writeSound(file: string, samples: Float32Array, quality?: number): Promise<void> {
  const bytes = new Uint8Array(samples.buffer, samples.byteOffset, samples.byteLength);
  await sox([...RAW, '-', ...(quality === undefined ? [] : ['-C', String(quality)]), file], bytes);
}

/** Samples of a file of sound, −1 to 1, all channels as one, `RATE` of them a second. */
export async function readSound(file: string): Promise<Float32Array> {
  const bytes = await sox([file, ...RAW, '-']);
  return new Float32Array(bytes.buffer.slice(bytes.byteOffset, bytes.byteOffset + bytes.byteLength));
}
