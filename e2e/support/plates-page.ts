import { ALL_FORMATS, Input, UrlSource, VideoSampleSink } from 'mediabunny';
import { readPlate } from '@hastig/demo';

declare global {
  interface Window {
    /** The frame number on every picture of a file, in order, and the time of each in seconds; −1 where none can be read. */
    readPlates(address: string, large: boolean): Promise<{ plates: number[]; times: number[] }>;
    /** Loudest sample's time in seconds within a stretch, and the largest sample. */
    soundPeak(address: string, from: number, to: number): Promise<{ time: number; level: number; seconds: number }>;
  }
}

window.readPlates = async (address, large) => {
  const input = new Input({ source: new UrlSource(address), formats: ALL_FORMATS });
  const track = (await input.getPrimaryVideoTrack())!;
  const plates: number[] = [];
  const times: number[] = [];
  for await (const sample of new VideoSampleSink(track).samples()) {
    const { codedWidth: width, codedHeight: height } = sample;
    // As decoded, 4:2:0 with the brightness in the first plane.
    const pixels = new Uint8Array(sample.allocationSize());
    const [{ offset, stride }] = (await sample.copyTo(pixels)) as [PlaneLayout];
    plates.push(readPlate((x, y) => pixels[offset + y * stride + x]!, width, height, large) ?? -1);
    times.push(sample.timestamp);
    sample.close();
  }
  input.dispose();
  return { plates, times };
};

window.soundPeak = async (address, from, to) => {
  const bytes = await (await fetch(address)).arrayBuffer();
  // The browser's own decoder, not the library that wrote the file.
  const sound = await new OfflineAudioContext(2, 48_000, 48_000).decodeAudioData(bytes);
  const samples = sound.getChannelData(0);
  let best = Math.round(from * sound.sampleRate);
  for (let i = best; i < Math.min(samples.length, to * sound.sampleRate); i++) {
    if (Math.abs(samples[i]!) > Math.abs(samples[best]!)) best = i;
  }
  return { time: best / sound.sampleRate, level: Math.abs(samples[best]!), seconds: sound.duration };
};
