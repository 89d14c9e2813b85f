/** What the framework finds in a file. */
export interface FoundMedia {
  /** Seconds; 0 where it is not known. */
  seconds: number;
  video: FoundVideo | undefined;
  audio: { codec: string; depth: 16 | 24 } | undefined;
}

interface FoundVideo {
  /** As it is called: `H.265 / HEVC`. */
  codec: string;
  width: number;
  height: number;
  interlaced: boolean;
  /** Bits of a sample, where they are told. */
  bits: number | undefined;
  /** It is a GIF, whose pictures are given to the framework one by one. */
  isGif: boolean;
}

/** Samples that 16 bits do not hold; what is coded with loss is decoded to as many as one likes. */
const DEEP = /format=\(string\)[SFU](24|32|64)/;

/** Bits of a sample of brightness, as the framework tells them of a coding. */
const BITS = /bit-depth-luma=\(uint\)(\d+)/;

/** What a file is coded as, in words: `H.265 / HEVC, 10 bit`. */
export function foundWords({ video, audio }: FoundMedia): string {
  const deep = video?.bits !== undefined && video.bits > 8 ? `, ${video.bits} bit` : '';
  return video ? video.codec + deep : (audio?.codec ?? 'unknown');
}

/** What the framework calls a coding that nothing here decodes: `…|H.266 decoder|decoder-video/x-h266)`. */
const MISSING = /\|([^|\n]*?)(?: decoder)?\|decoder-([\w./+-]+)/g;

/**
 * Reads what `gst-discoverer-1.0 -v` says of a file; its first picture and its first sound.
 *
 * @throws RangeError where nothing here decodes one of these
 */
export function readFound(text: string): FoundMedia {
  const value = (name: string, part = text): string | undefined =>
    new RegExp(`^\\s*${name}: (.*)$`, 'm').exec(part)?.[1]?.trim();
  const [hours = 0, minutes = 0, seconds = 0] = (value('Duration') ?? '').split(':').map(Number);
  // Each stream from its head to the next one's.
  const [, ...streams] = text.split(/^\s*(?=(?:video|audio|subtitles|unknown) #\d+:)/m);
  const size = (name: string, stream: string): number => Number(value(name, stream));
  // Of a stream that is read in steps each step is told; only the last one knows how large its pictures are.
  const video = streams.find((stream) => stream.startsWith('video') && size('Width', stream) > 0);
  const audio = streams.find((stream) => stream.startsWith('audio'));
  const kinds = new Map([...text.matchAll(MISSING)].map(([, name, kind]) => [kind, name]));
  for (const [stream, what] of [
    [video, 'pictures are'],
    [audio, 'sound is'],
  ] as const) {
    const name = kinds.get(/^\w+ #\d+: ([^,\s]+)/.exec(stream ?? '')?.[1]);
    if (name !== undefined)
      throw new RangeError(
        `Its ${what} coded as ${name}, which GStreamer can’t decode here. Convert it elsewhere first.`,
      );
  }
  const bits = BITS.exec(video ?? '')?.[1];
  return {
    seconds: hours * 3600 + minutes * 60 + seconds || 0,
    video: video === undefined ? undefined : { codec: value('video codec', video) ?? value('video codec') ?? 'unknown', width: size('Width', video), height: size('Height', video), interlaced: value('Interlaced', video) === 'true', bits: bits === undefined ? undefined : Number(bits), isGif: video.includes('image/gst-libav-gif') }, // prettier-ignore
    audio:
      audio === undefined
        ? undefined
        : { codec: value('audio codec', audio) ?? 'unknown', depth: DEEP.test(audio.split('\n')[0]!) ? 24 : 16 },
  };
}
