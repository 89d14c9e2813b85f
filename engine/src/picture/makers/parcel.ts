import { VideoSample } from 'mediabunny';

/** A picture on its way to another worker, or from there; whoever gets it closes its frame. */
export interface Parcel {
  frame: VideoFrame;
  /** Degrees clockwise by which it is turned to be shown. */
  rotation: VideoSample['rotation'];
}

/** A copy of a picture that can be sent; the picture stays whose it is. */
export const parcelOf = (sample: VideoSample): Parcel => ({
  frame: sample.toVideoFrame(),
  rotation: sample.rotation,
});

/** What was sent, as a picture; closing it closes the frame. */
export const sampleOf = ({ frame, rotation }: Parcel): VideoSample =>
  new VideoSample(frame, { timestamp: 0, rotation });
