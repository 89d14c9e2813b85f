import { open, type FileHandle } from 'node:fs/promises';

/** Bytes of the header: RIFF, “fmt ” with its extension, “fact” and the beginning of “data”. */
const HEADER = 58;
/** Most bytes of samples that a RIFF file can say it has. */
const MOST = 0xffffffff - HEADER;

/** The header of a WAVE file of 32-bit floats (format 3, IEEE float; Microsoft, “New multimedia data types”, 1994). */
function header(channels: number, rate: number, bytes: number): Buffer {
  const out = Buffer.alloc(HEADER);
  const frame = 4 * channels;
  out.write('RIFF', 0, 'latin1');
  out.writeUInt32LE(HEADER - 8 + bytes, 4);
  out.write('WAVEfmt ', 8, 'latin1');
  out.writeUInt32LE(18, 16);
  out.writeUInt16LE(3, 20);
  out.writeUInt16LE(channels, 22);
  out.writeUInt32LE(rate, 24);
  out.writeUInt32LE(rate * frame, 28);
  out.writeUInt16LE(frame, 32);
  out.writeUInt16LE(32, 34);
  out.writeUInt16LE(0, 36);
  out.write('fact', 38, 'latin1');
  out.writeUInt32LE(4, 42);
  out.writeUInt32LE(bytes / frame, 46);
  out.write('data', 50, 'latin1');
  out.writeUInt32LE(bytes, 54);
  return out;
}

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
    await file.write(header(channels, rate, 0));
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
    await this.file.write(header(this.channels, this.rate, this.bytes), 0, HEADER, 0);
    await this.file.close();
    return this.bytes / 4 / this.channels;
  }
}
