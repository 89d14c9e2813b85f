import { registerAacEncoder } from '@mediabunny/aac-encoder';
import { AudioSample, AudioSampleSource, CanvasSource, Mp4OutputFormat, Output, StreamTarget } from 'mediabunny';
import { scenes } from '../scenes';
import { sceneSound, SOUND_RATE } from '../sound';
import { ScenePainter } from './paint';

const WIDTH = 1280;
const HEIGHT = 720;
/** AAC-LC encoders delay their sound by this many samples. */
const AAC_DELAY = 1024;

declare global {
  interface Window {
    /** Makes one clip and sends it to the address, piece by piece. Resolves with the number of frames. */
    makeClip(name: string, address: string, bitsPerSecond: number): Promise<number>;
  }
}

window.makeClip = async (name, address, bitsPerSecond) => {
  registerAacEncoder();
  const scene = scenes.find((one) => one.name === name)!;
  const painter = new ScenePainter(scene, WIDTH, HEIGHT);
  const writable = new WritableStream<{ data: Uint8Array<ArrayBuffer>; position: number }>({
    write: async ({ data, position }) => {
      await fetch(`${address}?position=${position}`, { method: 'PUT', body: data });
    },
  });
  const output = new Output({
    format: new Mp4OutputFormat({ fastStart: 'reserve' }),
    target: new StreamTarget(writable, { chunked: true, chunkSize: 2 ** 20 }),
  });
  const picture = new CanvasSource(painter.frame(0), {
    codec: 'avc',
    bitrate: bitsPerSecond,
    keyFrameInterval: 1,
    latencyMode: 'quality',
  });
  output.addVideoTrack(picture, { frameRate: scene.fps, maximumPacketCount: scene.frames + 10 });
  const sound = new AudioSampleSource({ codec: 'aac', bitrate: 128_000 });
  output.addAudioTrack(sound, { maximumPacketCount: 2000 });
  await output.start();
  const channels = sceneSound(scene);
  const data = new Float32Array(channels[0].length * 2);
  channels.forEach((channel, index) => data.set(channel, index * channel.length));
  await sound.add(
    new AudioSample({
      data,
      format: 'f32-planar',
      numberOfChannels: 2,
      sampleRate: SOUND_RATE,
      timestamp: -AAC_DELAY / SOUND_RATE,
    }),
  );
  sound.close();
  for (let frame = 0; frame < scene.frames; frame++) {
    painter.frame(frame);
    await picture.add(frame / scene.fps, 1 / scene.fps);
  }
  await output.finalize();
  return scene.frames;
};
