/** Reads the bits of an H.264 payload (ITU-T H.264, 7.2 and 9.1), most significant first. Past the end it reads zeros. */
export class BitReader {
  private at = 0;

  constructor(private readonly bytes: Uint8Array) {}

  bit(): number {
    const byte = this.bytes[this.at >> 3] ?? 0;
    return (byte >> (7 - (this.at++ & 7))) & 1;
  }

  flag(): boolean {
    return this.bit() === 1;
  }

  /** An unsigned number of `count` bits, at most 32. */
  bits(count: number): number {
    let value = 0;
    for (let i = 0; i < count; i++) value = value * 2 + this.bit();
    return value;
  }

  /** An unsigned Exp-Golomb number, `ue(v)`. */
  ue(): number {
    let zeros = 0;
    while (zeros < 32 && this.bit() === 0) zeros++;
    return 2 ** zeros - 1 + this.bits(zeros);
  }

  /** A signed Exp-Golomb number, `se(v)`. */
  se(): number {
    const code = this.ue();
    return code % 2 === 1 ? (code + 1) / 2 : -code / 2;
  }
}

/** A NAL unit's payload without the bytes that keep start codes out of it (ITU-T H.264, 7.4.1). */
export function payloadOf(unit: Uint8Array): Uint8Array {
  const kept: number[] = [];
  let zeros = 0;
  for (const byte of unit.subarray(1)) {
    if (zeros >= 2 && byte === 3) {
      zeros = 0;
      continue;
    }
    zeros = byte === 0 ? zeros + 1 : 0;
    kept.push(byte);
  }
  return Uint8Array.from(kept);
}

/**
 * The NAL units of a packet.
 *
 * @param lengthSize bytes of each unit's length (ISO/IEC 14496-15); 0 where units stand after start codes (H.264, Annex B)
 */
export function unitsOf(packet: Uint8Array, lengthSize: number): Uint8Array[] {
  return lengthSize > 0 ? byLength(packet, lengthSize) : byStartCode(packet);
}

function byLength(packet: Uint8Array, lengthSize: number): Uint8Array[] {
  const units: Uint8Array[] = [];
  for (let at = 0; at + lengthSize < packet.length;) {
    let length = 0;
    for (let i = 0; i < lengthSize; i++) length = length * 256 + packet[at + i]!;
    at += lengthSize;
    units.push(packet.subarray(at, at + length));
    at += length;
  }
  return units;
}

function byStartCode(packet: Uint8Array): Uint8Array[] {
  const starts: number[] = [];
  for (let at = 0; at + 3 <= packet.length; at++) {
    if (packet[at] === 0 && packet[at + 1] === 0 && packet[at + 2] === 1) starts.push(at + 3);
  }
  return starts.map((start, index) => packet.subarray(start, (starts[index + 1] ?? packet.length + 3) - 3));
}
