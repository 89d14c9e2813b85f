import { mkdir, open, stat, type FileHandle } from 'node:fs/promises';
import { fileURLToPath } from 'node:url';
import { openHeadlessPage } from '@hastig/headless';
import express from 'express';
import { makeInterlaced } from './interlaced';
import { demoMediaFolder } from './media';
import { scenes, type Scene } from './scenes';

/** Bits per second of each clip's picture; all files together stay under 10 MB. */
const BITS: Record<string, number> = { drop: 3_500_000, bowl: 4_500_000, steps: 6_000_000 };

/** Makes a clip in headless Chromium. */
async function makeProgressive(scene: Scene, path: string): Promise<number> {
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
    file = await open(path, 'w');
    return await headless.page.evaluate(([name, bits]) => window.makeClip(name, '/out', bits), [
      scene.name,
      BITS[scene.name]!,
    ] as const);
  } finally {
    await file?.close();
    await headless.close();
  }
}

/** Makes the demo's clips anew: all, or those whose names are given. */
async function generate(names: readonly string[]): Promise<void> {
  await mkdir(demoMediaFolder, { recursive: true });
  for (const scene of scenes.filter(({ name }) => names.length === 0 || names.includes(name))) {
    const path = `${demoMediaFolder}/${scene.name}.mp4`;
    const frames = await (scene.interlaced ? makeInterlaced(scene, path) : makeProgressive(scene, path));
    const size = ((await stat(path)).size / 1e6).toFixed(2);
    console.log(`${scene.name}.mp4: ${frames} frames at ${scene.fps}, ${size} MB`);
  }
}

await generate(process.argv.slice(2));
