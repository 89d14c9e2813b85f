import type { PlanarPicture, PlaneMap } from '@hastig/core';
import type { VideoSample } from 'mediabunny';
import type { Parcel } from '../picture/makers/parcel';
import { isPlanar, planarOf } from '../picture/planar';
import { drawnSpace, ShownPlanes } from '../picture/shown-planes';
import { Steadier } from './steadier';

/** Moves pictures of any kind: in planes where they are stored so, as they are shown otherwise. */
export class Movers {
  private steadier: Steadier | undefined;
  private sheet: OffscreenCanvas | undefined;
  private readonly shown = new ShownPlanes();

  async of(sample: VideoSample, map: PlaneMap, mirror: boolean): Promise<Parcel> {
    const { displayWidth, displayHeight, rotation, visibleRect } = sample;
    const asStored = rotation === 0 && visibleRect.width === displayWidth && visibleRect.height === displayHeight;
    const planes = asStored && isPlanar(sample) ? await planarOf(sample) : undefined;
    if (planes) return { frame: await this.moved(planes, map, mirror, sample.colorSpace.toJSON()), rotation: 0 };
    // A canvas moves without perspective alone.
    if (map[6] === 0 && map[7] === 0) return this.drawn(sample, map, mirror);
    const colours = { ...drawnSpace, primaries: 'bt709', transfer: 'iec61966-2-1' } as const;
    return { frame: await this.moved(await this.shown.of(sample), map, mirror, colours), rotation: 0 };
  }

  private async moved(
    planes: PlanarPicture,
    map: PlaneMap,
    mirror: boolean,
    colorSpace: VideoColorSpaceInit,
  ): Promise<VideoFrame> {
    const { width, height } = planes;
    if (this.steadier?.width !== width || this.steadier.height !== height) {
      this.steadier?.close();
      this.steadier = new Steadier(width, height);
    }
    const data = await this.steadier.of(planes, map, mirror);
    return new VideoFrame(data as Uint8Array<ArrayBuffer>, {
      ...{ format: 'I420', codedWidth: width, codedHeight: height, timestamp: 0 },
      colorSpace,
    });
  }

  // Upright, its pixels square, its mirrored neighbours around it.
  private drawn(sample: VideoSample, [a, b, c, d, e, f]: PlaneMap, mirror: boolean): Parcel {
    const { displayWidth: width, displayHeight: height } = sample;
    if (this.sheet?.width !== width || this.sheet.height !== height) this.sheet = new OffscreenCanvas(width, height);
    const context = this.sheet.getContext('2d')!;
    context.resetTransform();
    context.clearRect(0, 0, width, height);
    const back = new DOMMatrix([a, b, c, d, e, f]).inverse();
    const around = mirror ? [-1, 0, 1] : [0];
    for (const down of around) {
      for (const across of around) {
        context.setTransform(back);
        context.transform(
          across ? -1 : 1,
          0,
          0,
          down ? -1 : 1,
          width * (across > 0 ? 2 : 0),
          height * (down > 0 ? 2 : 0),
        );
        sample.draw(context, 0, 0, width, height);
      }
    }
    return { frame: new VideoFrame(this.sheet, { timestamp: 0 }), rotation: 0 };
  }
}
