import { scenes } from '../scenes';
import { sceneSound } from '../sound';
import { ScenePainter } from './paint';

declare global {
  interface Window {
    /** Sends an interlaced clip's sound (two channels in turn, 32 bit) and then each frame (RGBA), in order. */
    sendFields(name: string, size: { width: number; height: number }): Promise<void>;
  }
}

const put = (address: string, body: BufferSource): Promise<Response> => fetch(address, { method: 'PUT', body });

window.sendFields = async (name, { width, height }) => {
  const scene = scenes.find((one) => one.name === name)!;
  const [left, right] = sceneSound(scene);
  const sound = new Float32Array(left.length * 2);
  left.forEach((value, i) => {
    sound[2 * i] = value;
    sound[2 * i + 1] = right[i]!;
  });
  await put('/sound', sound);
  const painter = new ScenePainter(scene, width, height);
  for (let frame = 0; frame < scene.frames; frame++) {
    const first = painter.field(2 * frame).data;
    const second = painter.field(2 * frame + 1).data;
    const later = scene.interlaced === 'topFirst' ? 1 : 0;
    for (let line = later; line < height; line += 2) {
      const [from, to] = [line * width * 4, (line + 1) * width * 4];
      first.set(second.subarray(from, to), from);
    }
    await put('/frame', first as Uint8ClampedArray<ArrayBuffer>);
  }
};
