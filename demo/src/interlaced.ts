import { spawn } from 'node:child_process';
import { once } from 'node:events';
import { mkdtemp, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { openHeadlessPage } from '@hastig/headless';
import express from 'express';
import type { Scene } from './scenes';
import { SOUND_RATE } from './sound';

/** Square pixels in the shape of wide interlaced video: its 576 lines. */
const SIZE = { width: 1024, height: 576 };

/**
 * Makes a clip in fields. No browser encodes those, so the frames that a page has put together from two fields each go to
 * x264, through Debian's ffmpeg.
 */
export async function makeInterlaced(scene: Scene, path: string): Promise<number> {
  const folder = await mkdtemp(join(tmpdir(), 'hastig-demo-'));
  const sound = join(folder, 'sound.f32');
  let encoder: ReturnType<typeof encode> | undefined;
  const raw = express.raw({ type: () => true, limit: '64mb' });
  const headless = await openHeadlessPage({
    entry: fileURLToPath(new URL('./page/fields.ts', import.meta.url)),
    routes: (app) => {
      app.put('/sound', raw, async (request, response) => {
        await writeFile(sound, request.body as Buffer);
        encoder = encode(scene, sound, path);
        response.end();
      });
      app.put('/frame', raw, async (request, response) => {
        if (!encoder!.stdin.write(request.body as Buffer)) await once(encoder!.stdin, 'drain');
        response.end();
      });
    },
  });
  try {
    await headless.page.evaluate(([name, size]) => window.sendFields(name, size), [scene.name, SIZE] as const);
    encoder!.stdin.end();
    const [status] = (await once(encoder!, 'exit')) as [number];
    if (status !== 0) throw new Error(`ffmpeg ended with status ${status}; it comes with Debian's package "ffmpeg"`);
    return scene.frames;
  } finally {
    await headless.close();
    await rm(folder, { recursive: true, force: true });
  }
}

function encode(scene: Scene, sound: string, path: string) {
  const top = scene.interlaced === 'topFirst';
  const pictures = ['-f', 'rawvideo', '-pix_fmt', 'rgba', '-s', `${SIZE.width}x${SIZE.height}`, '-r', `${scene.fps}`];
  const samples = ['-f', 'f32le', '-ar', `${SOUND_RATE}`, '-ac', '2', '-i', sound];
  // Colour is halved within each field, not across both.
  const filter = `scale=interl=1:out_color_matrix=bt709,format=yuv420p,setfield=${top ? 'tff' : 'bff'}`;
  const codec = ['-c:v', 'libx264', '-preset', 'slow', '-crf', '23', '-g', '25', '-flags', '+ildct+ilme'];
  const colours = ['-colorspace', 'bt709', '-color_primaries', 'bt709', '-color_trc', 'bt709'];
  const order = ['-x264-params', top ? 'tff=1' : 'bff=1'];
  const out = ['-c:a', 'aac', '-b:a', '128k', '-movflags', '+faststart', path];
  const args = [...pictures, '-i', '-', ...samples, '-vf', filter, ...codec, ...colours, ...order, ...out];
  return spawn('ffmpeg', ['-v', 'error', '-y', ...args], { stdio: ['pipe', 'inherit', 'inherit'] });
}
