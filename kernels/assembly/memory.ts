/** Room for numbers, one piece after the other; all of it is let go at once. */
let top: usize = 0;

/** Below it lie objects that were made at the beginning. */
let bottom: usize = 0;

/** Says that all objects are made; nothing is made with `new` after this. */
export function objectsMade(): void {
  bottom = heap.alloc(16);
}

/** Lets go of all room. */
export function releaseAll(): void {
  top = bottom;
}

/** Lets go of all room from a place on. */
export function release(to: usize): void {
  top = to;
}

/** Where the next piece will begin. */
export function mark(): usize {
  return top;
}

/** Room for some bytes, beginning at a multiple of 16; what is read a little before or past it is there too. */
export function take(bytes: usize): usize {
  const at = (top + 31) & ~15;
  top = at + bytes + 32;
  const pages = <i32>((top + 0xffff) >>> 16);
  const more = pages - memory.size();
  if (more > 0 && memory.grow(more) < 0) abort('There is not enough memory for pictures in between.');
  return at;
}

/** Room for some floats. */
export function floats(count: i32): usize {
  return take(<usize>count << 2);
}

@inline
export function getF(base: usize, index: i32): f32 {
  return load<f32>(base + (<usize>index << 2));
}

@inline
export function setF(base: usize, index: i32, value: f32): void {
  store<f32>(base + (<usize>index << 2), value);
}

@inline
export function clampI(value: i32, low: i32, high: i32): i32 {
  return value < low ? low : value > high ? high : value;
}

@inline
export function clampF(value: f32, low: f32, high: f32): f32 {
  return min<f32>(max<f32>(value, low), high);
}

/** The first four of eight numbers of 16 bits, as floats. */
@inline
export function lowOf(bytes: v128): v128 {
  return f32x4.convert_i32x4_s(i32x4.extend_low_i16x8_s(bytes));
}

/** The last four. */
@inline
export function highOf(bytes: v128): v128 {
  return f32x4.convert_i32x4_s(i32x4.extend_high_i16x8_s(bytes));
}
