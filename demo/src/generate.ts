import { mkdir, open, stat, type FileHandle } from 'node:fs/promises';
import { fileURLToPath } from 'node:url';
import { openHeadlessPage, type HeadlessPage } from '@hastig/headless';
import express from 'express';
import { extras } from './extras';
import { makeInterlaced } from './interlaced';
import { demoMediaFolder } from './media';
import { music } from './music';
import { scenes, type Scene } from './scenes';
import { makeSpoken } from './spoken';

/** Bits per second of each clip's picture; all files together stay under 10 MB. */
const BITS: Record<string, number> = { drop: 3_500_000, bowl: 4_500_000, steps: 6_000_000, handheld: 4_200_000 };

/** Has a page in headless Chromium make a file, and send it piece by piece to `/out`. */
async function madeByPage<T>(
  entry: string,
  path: string,
  make: (page: HeadlessPage['page']) => Promise<T>,
): Promise<T> {
  let file: FileHandle | undefined;
  const headless = await openHeadlessPage({
    entry: fileURLToPath(new URL(entry, import.meta.url)),
    routes: (app) =>
      app.put('/out', express.raw({ type: () => true, limit: '64mb' }), async (request, response) => {
        await file!.write(request.body as Buffer, 0, undefined, Number(request.query.position));
        response.end();
      }),
  });
  try {
    file = await open(path, 'w');
    return await make(headless.page);
  } finally {
    await file?.close();
    await headless.close();
  }
}

const makeProgressive = (scene: Scene, path: string): Promise<number> =>
  madeByPage('./page/make.ts', path, (page) =>
    page.evaluate(([name, bits]) => window.makeClip(name, '/out', bits), [scene.name, BITS[scene.name]!] as const),
  );

const makers: Record<string, (page: HeadlessPage['page']) => Promise<void>> = {
  chimes: (page) => page.evaluate(() => window.makeChimes('/out')),
  title: (page) => page.evaluate(() => window.makeTitle('/out')),
  straight: (page) => page.evaluate(() => window.makeMusic('straight', '/out')),
  swinging: (page) => page.evaluate(() => window.makeMusic('swinging', '/out')),
};

/** Makes the demo's clips anew: all, or those whose names are given. */
async function generate(names: readonly string[]): Promise<void> {
  await mkdir(demoMediaFolder, { recursive: true });
  for (const scene of scenes.filter(({ name }) => names.length === 0 || names.includes(name))) {
    const path = `${demoMediaFolder}/${scene.name}.mp4`;
    const frames = await (scene.interlaced ? makeInterlaced(scene, path) : makeProgressive(scene, path));
    const size = ((await stat(path)).size / 1e6).toFixed(2);
    console.log(`${scene.name}.mp4: ${frames} frames at ${scene.fps}, ${size} MB`);
  }
  for (const { name, file } of [...extras, ...music].filter((one) => names.length === 0 || names.includes(one.name))) {
    const path = `${demoMediaFolder}/${file}`;
    if (name === 'spoken') await makeSpoken(path);
    else await madeByPage('./page/extras.ts', path, makers[name]!);
    console.log(`${file}: ${((await stat(path)).size / 1e6).toFixed(2)} MB`);
  }
}

await generate(process.argv.slice(2));
