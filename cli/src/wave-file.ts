import { open, type FileHandle } from 'node:fs/promises';
import { WAVE_HEADER, waveHeader } from '@hastig/core';

/** Most bytes of samples that a RIFF file can say it has. */
const MOST = 0xffffffff - WAVE_HEADER;

/** Writes a WAVE file of 32-bit floats, a piece at a time; its header once all is there. */
export class WaveFile {
  private bytes = 0;

  private constructor(
    private readonly file: FileHandle,
    private readonly channels: number,
    private readonly rate: number,
  ) {}

  static async create(path: string, channels: number, rate: number): Promise<WaveFile> {
    const file = await open(path, 'w');
    await file.write(waveHeader(channels, rate, 0));
    return new WaveFile(file, channels, rate);
  }

  /** @param samples of all channels in turn, little-endian floats */
  async add(samples: Buffer): Promise<void> {
    if (this.bytes + samples.length > MOST) throw new Error('The sound is too long for a WAVE file.');
    await this.file.write(samples);
    this.bytes += samples.length;
  }

  /** @returns samples of each channel that were written */
  async close(): Promise<number> {
    await this.file.write(waveHeader(this.channels, this.rate, this.bytes), 0, WAVE_HEADER, 0);
    await this.file.close();
    return this.bytes / 4 / this.channels;
  }
}
