import { BitReader, payloadOf } from './bits';

/** What of a sequence parameter set tells about fields (ITU-T H.264, 7.3.2.1.1 and E.1). */
export interface SequenceSet {
  /** Whether every picture is a whole frame without fields. */
  framesOnly: boolean;
  separatePlanes: boolean;
  frameNumberBits: number;
  orderType: number;
  orderBits: number;
  /** Bits of the two delays that stand before a picture's structure in its timing; 0 where there are none. */
  delayBits: number;
  /** Whether each picture's timing says how its fields lie. */
  tellsStructure: boolean;
}

/** Profiles whose sets say more of colour (ITU-T H.264, 7.3.2.1.1). */
const HIGH_PROFILES = new Set([100, 110, 122, 244, 44, 83, 86, 118, 128, 138, 139, 134, 135]);
const EXTENDED_ASPECT = 255;

export function readSequenceSet(unit: Uint8Array): SequenceSet {
  const read = new BitReader(payloadOf(unit));
  const profile = read.bits(8);
  read.bits(16);
  read.ue();
  const separatePlanes = HIGH_PROFILES.has(profile) && readColour(read);
  const frameNumberBits = read.ue() + 4;
  const orderType = read.ue();
  const orderBits = orderType === 0 ? read.ue() + 4 : 0;
  if (orderType === 1) skipOrderCycle(read);
  read.ue();
  read.bit();
  read.ue();
  read.ue();
  const framesOnly = read.flag();
  if (!framesOnly) read.bit();
  read.bit();
  if (read.flag()) for (let side = 0; side < 4; side++) read.ue();
  const usability = read.flag() ? readUsability(read) : { delayBits: 0, tellsStructure: false };
  return { framesOnly, separatePlanes, frameNumberBits, orderType, orderBits, ...usability };
}

function readColour(read: BitReader): boolean {
  const format = read.ue();
  const separate = format === 3 && read.flag();
  read.ue();
  read.ue();
  read.bit();
  if (read.flag()) {
    for (let list = 0; list < (format === 3 ? 12 : 8); list++) if (read.flag()) skipScaling(read, list < 6 ? 16 : 64);
  }
  return separate;
}

function skipScaling(read: BitReader, size: number): void {
  let last = 8;
  let next = 8;
  for (let i = 0; i < size && next !== 0; i++) {
    next = (last + read.se() + 256) % 256;
    if (next !== 0) last = next;
  }
}

function skipOrderCycle(read: BitReader): void {
  read.bit();
  read.se();
  read.se();
  const count = read.ue();
  for (let i = 0; i < Math.min(count, 255); i++) read.se();
}

// Video usability information (ITU-T H.264, E.1.1).
function readUsability(read: BitReader): Pick<SequenceSet, 'delayBits' | 'tellsStructure'> {
  if (read.flag() && read.bits(8) === EXTENDED_ASPECT) read.bits(32);
  if (read.flag()) read.bit();
  if (read.flag()) {
    read.bits(4);
    if (read.flag()) read.bits(24);
  }
  if (read.flag()) {
    read.ue();
    read.ue();
  }
  // Units in a tick, ticks in a second, and whether they are constant.
  if (read.flag()) {
    read.bits(32);
    read.bits(32);
    read.bit();
  }
  const units = read.flag() ? readBuffering(read) : 0;
  const slices = read.flag() ? readBuffering(read) : 0;
  if (units || slices) read.bit();
  return { delayBits: units || slices, tellsStructure: read.flag() };
}

// Hypothetical reference decoder parameters (ITU-T H.264, E.1.2); gives the bits of the two delays together.
function readBuffering(read: BitReader): number {
  const count = read.ue() + 1;
  read.bits(8);
  for (let i = 0; i < Math.min(count, 32); i++) {
    read.ue();
    read.ue();
    read.bit();
  }
  read.bits(5);
  const removal = read.bits(5) + 1;
  const output = read.bits(5) + 1;
  read.bits(5);
  return removal + output;
}

/** Whether a picture parameter set has slices tell how far a frame's two fields are apart (ITU-T H.264, 7.3.2.2). */
export function tellsFieldOrder(unit: Uint8Array): boolean {
  const read = new BitReader(payloadOf(unit));
  read.ue();
  read.ue();
  read.bit();
  return read.flag();
}
