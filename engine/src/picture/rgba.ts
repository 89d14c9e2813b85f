import type { VideoSample } from 'mediabunny';

const inPlanes = /^(I4|NV12)/;
const rgba = { format: 'RGBA', colorSpace: 'srgb' } as const;

/** Whether the browser hands a decoded frame out as pixels of the screen's colours, as it is stored. */
export function givesRgba(frame: VideoSample): boolean {
  if (!inPlanes.test(frame.format ?? '')) return false;
  const { width, height } = frame.visibleRect;
  // A browser that does not convert counts the bytes of the format that there is.
  return frame.allocationSize(rgba) === width * height * 4;
}

/** Copies a frame that gives them as pixels; as many as are stored of it, turned as they are stored. */
export async function copyRgba(frame: VideoSample, into: Uint8ClampedArray): Promise<void> {
  await frame.copyTo(into, rgba);
}
