import { mkdtemp, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { openHeadlessPage } from '@hastig/headless';
import express from 'express';
import { AAC_PRIMING, soundIn, finished, launch, picturesIn, writeFrame } from './gstreamer';
import type { Scene } from './scenes';
import { SOUND_RATE } from './sound';

/** Square pixels in the shape of wide interlaced video: its 576 lines. */
const SIZE = { width: 1024, height: 576 };
/** Bytes of one moment of the sound: two channels of 32 bits. */
const MOMENT = 8;

/**
 * Makes a clip in fields. No browser encodes those, so the frames that a page has put together from two fields each go to
 * x264, through GStreamer.
 */
export async function makeInterlaced(scene: Scene, path: string): Promise<number> {
  const folder = await mkdtemp(join(tmpdir(), 'hastig-demo-'));
  const sound = join(folder, 'sound.f32');
  let encoder: ReturnType<typeof launch> | undefined;
  const raw = express.raw({ type: () => true, limit: '64mb' });
  const headless = await openHeadlessPage({
    entry: fileURLToPath(new URL('./page/fields.ts', import.meta.url)),
    routes: (app) => {
      app.put('/sound', raw, async (request, response) => {
        // The encoder puts its priming before what it is given, so that much silence is left out.
        await writeFile(sound, (request.body as Buffer).subarray(AAC_PRIMING * MOMENT));
        encoder = encode(scene, sound, path);
        response.end();
      });
      app.put('/frame', raw, async (request, response) => {
        await writeFrame(encoder!, request.body as Buffer);
        response.end();
      });
    },
  });
  try {
    await headless.page.evaluate(([name, size]) => window.sendFields(name, size), [scene.name, SIZE] as const);
    await finished(encoder!);
    return scene.frames;
  } finally {
    await headless.close();
    await rm(folder, { recursive: true, force: true });
  }
}

function encode(scene: Scene, sound: string, path: string) {
  const fields = scene.interlaced === 'topFirst' ? 'top' : 'bottom';
  // Colour is halved within each field, not across both, as the frames are marked as interlaced.
  const converted = ['videoconvert', `video/x-raw,format=I420,colorimetry=bt709`];
  const coded = 'x264enc interlaced=true pass=qual quantizer=23 speed-preset=slow key-int-max=25';
  return launch([
    [
      ...picturesIn({ ...SIZE, rate: `${scene.fps}/1`, format: 'rgba', fields }),
      ...converted,
      coded,
      'h264parse',
      'queue',
      'out.',
    ],
    [...soundIn({ path: sound, rate: SOUND_RATE, channels: 2 }, 128_000), 'queue', 'out.'],
    ['mp4mux name=out faststart=true', `filesink location=${path}`],
  ]);
}
