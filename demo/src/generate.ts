import { mkdir, open, stat, type FileHandle } from 'node:fs/promises';
import { fileURLToPath } from 'node:url';
import { openHeadlessPage } from '@hastig/headless';
import express from 'express';
import { demoMediaFolder } from './media';
import { scenes } from './scenes';

/** Bits per second of each clip's picture; all files together stay under 10 MB. */
const BITS: Record<string, number> = { drop: 3_500_000, bowl: 4_500_000, steps: 6_000_000 };

/** Makes the demo's clips anew, in headless Chromium. */
async function generate(): Promise<void> {
  await mkdir(demoMediaFolder, { recursive: true });
  let file: FileHandle | undefined;
  const headless = await openHeadlessPage({
    entry: fileURLToPath(new URL('./page/make.ts', import.meta.url)),
    routes: (app) =>
      app.put('/out', express.raw({ type: () => true, limit: '64mb' }), async (request, response) => {
        await file!.write(request.body as Buffer, 0, undefined, Number(request.query.position));
        response.end();
      }),
  });
  try {
    for (const scene of scenes) {
      const path = `${demoMediaFolder}/${scene.name}.mp4`;
      file = await open(path, 'w');
      const frames = await headless.page.evaluate(([name, bits]) => window.makeClip(name, '/out', bits), [
        scene.name,
        BITS[scene.name]!,
      ] as const);
      await file.close();
      console.log(
        `${scene.name}.mp4: ${frames} frames at ${scene.fps}, ${((await stat(path)).size / 1e6).toFixed(2)} MB`,
      );
    }
  } finally {
    await headless.close();
  }
}

await generate();
