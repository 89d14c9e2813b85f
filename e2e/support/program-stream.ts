/** Ticks a second: ISO/IEC 13818-1, 2.4.3.7. */
const TICKS = 90_000;
/** Bytes of a packet's content, and of a frame of MPEG sound of 384 kbit/s at 48 kHz (ISO/IEC 11172-3, 2.4.3.1). */
const CONTENT = 2000;
const SOUND_FRAME = 1152;
/** Seconds by which a packet comes before it is needed. */
const AHEAD = 0.2;

interface Packet {
  at: number;
  bytes: Buffer;
}

const time = (mark: number, seconds: number): number[] => {
  const ticks = Math.round(seconds * TICKS);
  return [(mark << 4) | (Math.floor(ticks / 2 ** 30) << 1) | 1, (ticks >> 22) & 255, ((ticks >> 14) & 254) | 1, (ticks >> 7) & 255, ((ticks << 1) & 254) | 1]; // prettier-ignore
};

/** A pack's head with its clock: ISO/IEC 13818-1, 2.5.3.3. */
function pack(seconds: number): Buffer {
  const ticks = Math.max(0, Math.round(seconds * TICKS));
  const bits = [0x44 | ((ticks >> 28) & 3), (ticks >> 20) & 255, ((ticks >> 12) & 0xf8) | 4 | ((ticks >> 13) & 3), (ticks >> 5) & 255, ((ticks << 3) & 255) | 4]; // prettier-ignore
  return Buffer.from([0, 0, 1, 0xba, ...bits, 1, 0x01, 0x89, 0xc3, 0xf8]);
}

function packet(id: number, content: Buffer, seconds?: number): Buffer {
  const head = seconds === undefined ? [0x80, 0, 0] : [0x80, 0x80, 5, ...time(2, seconds)];
  const length = head.length + content.length;
  return Buffer.concat([Buffer.from([0, 0, 1, id, length >> 8, length & 255, ...head]), content]);
}

/** Pictures of MPEG-2 video with what stands before them, whether a group begins with one, and its number in it as it is shown. */
function picturesIn(video: Buffer): { bytes: Buffer; begins: boolean; number: number }[] {
  const found: { from: number; begins: boolean; number: number }[] = [];
  let [from, begins] = [-1, false];
  for (let at = video.indexOf('\0\0\x01', 0, 'latin1'); at >= 0; at = video.indexOf('\0\0\x01', at + 3, 'latin1')) {
    const code = video[at + 3]!;
    if (from < 0 && [0xb3, 0xb8, 0].includes(code)) from = at;
    begins ||= code === 0xb8;
    if (code !== 0) continue;
    found.push({ from, begins, number: (video[at + 4]! << 2) | (video[at + 5]! >> 6) });
    [from, begins] = [-1, false];
  }
  return found.map(({ from: start, ...rest }, n) => ({ ...rest, bytes: video.subarray(start, found[n + 1]?.from) }));
}

/**
 * A program stream as discs have it: of pictures only those are given a time with which a group begins.
 *
 * @param video MPEG-2, each of whose pictures is shown for as long
 * @param sound MPEG-1 layer 2, of 384 kbit/s at 48 kHz
 * @param from seconds at which the first picture is shown, and the sound begins
 */
export function programStream(
  video: Buffer,
  sound: Buffer,
  framesPerSecond: number,
  from: { picture: number; sound: number },
): Buffer {
  const packets: Packet[] = [];
  let group = 0;
  for (const [n, { bytes, begins, number }] of picturesIn(video).entries()) {
    if (begins) group = n;
    for (let at = 0; at < bytes.length; at += CONTENT) {
      const shown = begins && at === 0 ? from.picture + (group + number) / framesPerSecond : undefined;
      packets.push({ at: from.picture + (n - 2) / framesPerSecond, bytes: packet(0xe0, bytes.subarray(at, at + CONTENT), shown) }); // prettier-ignore
    }
  }
  for (let n = 0; n * SOUND_FRAME < sound.length; n++) {
    const at = from.sound + (n * 1152) / 48_000;
    packets.push({ at, bytes: packet(0xc0, sound.subarray(n * SOUND_FRAME, (n + 1) * SOUND_FRAME), at) });
  }
  const ordered = packets.toSorted((one, other) => one.at - other.at);
  return Buffer.concat([...ordered.flatMap(({ at, bytes }) => [pack(at - AHEAD), bytes]), Buffer.from([0, 0, 1, 0xb9])]); // prettier-ignore
}
