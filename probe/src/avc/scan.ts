import type { Scan } from '@hastig/contract';
import { BitReader, payloadOf, unitsOf } from './bits';
import { readSequenceSet, tellsFieldOrder, type SequenceSet } from './parameter-sets';

/** NAL unit types (ITU-T H.264, table 7-1). */
const SLICE = 1;
const KEY_SLICE = 5;
const EXTRA = 6;
const SEQUENCE_SET = 7;
const PICTURE_SET = 8;

/** The supplemental message that tells a picture's timing and structure (ITU-T H.264, D.1.3). */
const PICTURE_TIMING = 1;

/** What a stream's packets are read with. */
interface Sets {
  lengthSize: number;
  sequence: SequenceSet | undefined;
  fieldOrder: boolean;
}

/**
 * How an H.264 stream is scanned, from what is written in it: its sequence parameter set says whether there are fields
 * at all; then each picture's timing message (`pic_struct`, ITU-T H.264, table D-1) says which comes first, and where there
 * is none, the order in which the slices' headers place the two (7.3.3, 8.2.1).
 *
 * @param description the decoder's configuration record (ISO/IEC 14496-15); undefined for a stream with start codes
 * @param packets the first of them, in the order of decoding
 */
export function avcScan(description: Uint8Array | undefined, packets: readonly Uint8Array[]): Scan {
  const sets = description ? setsOf(description) : { lengthSize: 0, sequence: undefined, fieldOrder: false };
  const found = { progressive: 0, topFirst: 0, bottomFirst: 0 };
  for (const packet of packets) {
    const scan = scanOfPacket(packet, sets);
    if (scan) found[scan]++;
  }
  if (!sets.sequence || sets.sequence.framesOnly || found.topFirst + found.bottomFirst === 0) return 'progressive';
  return found.bottomFirst > found.topFirst ? 'bottomFirst' : 'topFirst';
}

function setsOf(description: Uint8Array): Sets {
  const sets: Sets = { lengthSize: (description[4]! & 3) + 1, sequence: undefined, fieldOrder: false };
  let at = 5;
  const next = (count: number): void => {
    for (let i = 0; i < count; i++) {
      const length = description[at]! * 256 + description[at + 1]!;
      takeSet(description.subarray(at + 2, at + 2 + length), sets);
      at += 2 + length;
    }
  };
  next(description[at++]! & 31);
  next(description[at++] ?? 0);
  return sets;
}

const typeOf = (unit: Uint8Array): number => (unit[0] ?? 0) & 31;

function takeSet(unit: Uint8Array, sets: Sets): void {
  if (typeOf(unit) === SEQUENCE_SET) sets.sequence ??= readSequenceSet(unit);
  if (typeOf(unit) === PICTURE_SET) sets.fieldOrder ||= tellsFieldOrder(unit);
}

function scanOfPacket(packet: Uint8Array, sets: Sets): Scan | undefined {
  const units = unitsOf(packet, sets.lengthSize);
  for (const unit of units) takeSet(unit, sets);
  const { sequence } = sets;
  if (!sequence || sequence.framesOnly) return undefined;
  if (sequence.tellsStructure) {
    for (const unit of units.filter((one) => typeOf(one) === EXTRA)) {
      const scan = scanOfStructure(structureOf(payloadOf(unit), sequence));
      if (scan) return scan;
    }
  }
  const slice = units.find((unit) => typeOf(unit) === SLICE || typeOf(unit) === KEY_SLICE);
  return slice && scanOfSlice(slice, sequence, sets.fieldOrder);
}

// The structure in the messages of one unit (ITU-T H.264, 7.3.2.3.1).
function structureOf(payload: Uint8Array, { delayBits }: SequenceSet): number | undefined {
  let at = 0;
  const number = (): number => {
    let value = 0;
    while (payload[at] === 255) [value, at] = [value + 255, at + 1];
    return value + (payload[at++] ?? 0);
  };
  // The last byte is the unit's end, not a message.
  while (at < payload.length - 1) {
    const type = number();
    const size = number();
    if (type === PICTURE_TIMING) {
      const read = new BitReader(payload.subarray(at, at + size));
      read.bits(delayBits > 32 ? 32 : delayBits);
      if (delayBits > 32) read.bits(delayBits - 32);
      return read.bits(4);
    }
    at += size;
  }
  return undefined;
}

// Table D-1: a frame; a top or bottom field alone, whose pair stands in the same packet; both, in one order or the other;
// what is longer repeats a field or a frame, as film does on its way to television.
function scanOfStructure(structure: number | undefined): Scan | undefined {
  if (structure === undefined) return undefined;
  if (structure === 1 || structure === 3) return 'topFirst';
  if (structure === 2 || structure === 4) return 'bottomFirst';
  return 'progressive';
}

// A slice's header (7.3.3): a field of its own says which it is, a frame how much later its bottom field is.
function scanOfSlice(unit: Uint8Array, sequence: SequenceSet, fieldOrder: boolean): Scan {
  const read = new BitReader(payloadOf(unit.subarray(0, 64)));
  read.ue();
  read.ue();
  read.ue();
  if (sequence.separatePlanes) read.bits(2);
  read.bits(sequence.frameNumberBits);
  if (read.flag()) return read.flag() ? 'bottomFirst' : 'topFirst';
  if (typeOf(unit) === KEY_SLICE) read.ue();
  if (sequence.orderType !== 0 || !fieldOrder) return 'progressive';
  read.bits(sequence.orderBits);
  const later = read.se();
  return later > 0 ? 'topFirst' : later < 0 ? 'bottomFirst' : 'progressive';
}
