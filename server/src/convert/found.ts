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
}

/** Samples that 16 bits do not hold; what is coded with loss is decoded to as many as one likes. */
const DEEP = /format=\(string\)[SFU](24|32|64)/;

/** Reads what `gst-discoverer-1.0 -v` says of a file; its first picture and its first sound. */
export function readFound(text: string): FoundMedia {
  const value = (name: string, part = text): string | undefined =>
    new RegExp(`^\\s*${name}: (.*)$`, 'm').exec(part)?.[1]?.trim();
  const [hours = 0, minutes = 0, seconds = 0] = (value('Duration') ?? '').split(':').map(Number);
  // Each stream from its head to the next one's.
  const [, ...streams] = text.split(/^\s*(?=(?:video|audio|subtitles|unknown) #\d+:)/m);
  const video = streams.find((stream) => stream.startsWith('video'));
  const audio = streams.find((stream) => stream.startsWith('audio'));
  const size = (name: string): number => Number(value(name, video));
  return {
    seconds: hours * 3600 + minutes * 60 + seconds || 0,
    video: video && size('Width') > 0 ? { codec: value('video codec', video) ?? 'unknown', width: size('Width'), height: size('Height'), interlaced: value('Interlaced', video) === 'true' } : undefined, // prettier-ignore
    audio:
      audio === undefined
        ? undefined
        : { codec: value('audio codec', audio) ?? 'unknown', depth: DEEP.test(audio.split('\n')[0]!) ? 24 : 16 },
  };
}
