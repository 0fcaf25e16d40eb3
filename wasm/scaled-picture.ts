// AssemblyScript, compiled by `npm run make-wasm`: what makes RGBA pixels of a canvas from the planes of a decoded picture (I420, 8 bits).
// A filter is a list of weights of 16 bits; what they are is the caller's matter. Down the picture they add up to 1 << 14, across it to 1 << 12.

/** Where the caller may put what it passes. */
export function room(): usize {
  return __heap_base;
}

/** One line of samples from `count` lines of a plane. 16 at a time: up to 15 samples beyond `width` are read and written. */
export function blend(
  plane: usize,
  stride: i32,
  count: i32,
  weights: usize,
  width: i32,
  target: usize,
): void {
  const sign = i8x16.splat(-128);
  const none = i8x16.splat(0);
  for (let x = 0; x < width; x += 16) {
    // Samples less 128, so that sums are about nought and fit into 16 bits in 128ths; half of what is shifted away rounds.
    let low = i16x8.splat(64);
    let high = low;
    let at = plane + x;
    for (let n = 0; n < count; n++) {
      const weight = v128.load_splat<u16>(weights + (n << 1));
      const samples = v128.xor(v128.load(at), sign);
      const first = i8x16.shuffle(none, samples, 0, 16, 0, 17, 0, 18, 0, 19, 0, 20, 0, 21, 0, 22, 0, 23);
      const second = i8x16.shuffle(none, samples, 0, 24, 0, 25, 0, 26, 0, 27, 0, 28, 0, 29, 0, 30, 0, 31);
      low = i16x8.add(low, i16x8.q15mulr_sat_s(first, weight));
      high = i16x8.add(high, i16x8.q15mulr_sat_s(second, weight));
      at += stride;
    }
    const made = i8x16.narrow_i16x8_s(i16x8.shr_s(low, 7), i16x8.shr_s(high, 7));
    v128.store(target + x, v128.xor(made, sign));
  }
}

function inPairs(a: v128, b: v128): v128 {
  return i32x4.add(i32x4.shuffle(a, b, 0, 2, 4, 6), i32x4.shuffle(a, b, 1, 3, 5, 7));
}

function storeFour(target: usize, sums: v128): void {
  const rounded = i32x4.shr_s(i32x4.add(sums, i32x4.splat(2048)), 12);
  const words = i16x8.narrow_i32x4_s(rounded, rounded);
  v128.store32_lane(target, i8x16.narrow_i16x8_u(words, words), 0);
}

/** The products of `taps` samples and weights, as four sums. */
function products(line: usize, first: usize, taps: i32, weights: usize): v128 {
  let at = line + load<i32>(first);
  let sums = i32x4.dot_i16x8_s(v128.load_ext<u8>(at), v128.load(weights));
  for (let n = 8; n < taps; n += 8) {
    at += 8;
    weights += 16;
    sums = i32x4.add(sums, i32x4.dot_i16x8_s(v128.load_ext<u8>(at), v128.load(weights)));
  }
  return sums;
}

/**
 * Samples of a line, each from `taps` of another from `firsts` on: a multiple of eight. Four at a time: up to three more than `width` are
 * read and written, and of the line up to `taps` samples beyond its end.
 */
export function gather(
  line: usize,
  firsts: usize,
  taps: i32,
  weights: usize,
  width: i32,
  target: usize,
): void {
  const bytes = taps << 1;
  for (let x = 0; x < width; x += 4) {
    const a = products(line, firsts, taps, weights);
    const b = products(line, firsts + 4, taps, weights + bytes);
    const c = products(line, firsts + 8, taps, weights + 2 * bytes);
    const d = products(line, firsts + 12, taps, weights + 3 * bytes);
    storeFour(target + x, inPairs(inPairs(a, b), inPairs(c, d)));
    firsts += 16;
    weights += 4 * bytes;
  }
}

/** The products of four samples and weights each for two, as two sums each. */
function twoProducts(line: usize, firsts: usize, weights: usize): v128 {
  const one = v128.load32_zero(line + load<i32>(firsts));
  const both = v128.load32_lane(line + load<i32>(firsts + 4), one, 1);
  return i32x4.dot_i16x8_s(i16x8.extend_low_i8x16_u(both), v128.load(weights));
}

/** The same with four taps, in half of the time. */
export function gather4(line: usize, firsts: usize, weights: usize, width: i32, target: usize): void {
  for (let x = 0; x < width; x += 4) {
    const ab = twoProducts(line, firsts, weights);
    storeFour(target + x, inPairs(ab, twoProducts(line, firsts + 8, weights + 16)));
    firsts += 16;
    weights += 32;
  }
}

// Recommendation ITU-R BT.709-6, 3.2 to 3.5 (limited range, 8 bits). Each factor ÷ 4, in units of 1 ÷ 32768.
const LUMA: i16 = 9539; // 255 ÷ 219
const RED_V: i16 = 14686; // 1.5748 × 255 ÷ 224
const GREEN_U: i16 = -1747; // −0.1873 × 255 ÷ 224
const GREEN_V: i16 = -4366; // −0.4681 × 255 ÷ 224
const BLUE_U: i16 = 17305; // 1.8556 × 255 ÷ 224

/** Eight samples less what stands for nought, × 128. */
function from(samples: usize, nought: i16): v128 {
  return i16x8.shl(i16x8.sub(v128.load_ext<u8>(samples), i16x8.splat(nought)), 7);
}

function times(value: v128, factor: i16): v128 {
  return i16x8.q15mulr_sat_s(value, i16x8.splat(factor));
}

/** Opaque pixels of a line. Eight at a time: up to seven more than `width` are read and written. */
export function toRgba(y: usize, u: usize, v: usize, width: i32, target: usize): void {
  for (let x = 0; x < width; x += 8) {
    // Products are 32 times as large as what they stand for; 16 rounds.
    const luma = i16x8.add(times(from(y + x, 16), LUMA), i16x8.splat(16));
    const blueness = from(u + x, 128);
    const redness = from(v + x, 128);
    const red = i16x8.shr_s(i16x8.add(luma, times(redness, RED_V)), 5);
    const blue = i16x8.shr_s(i16x8.add(luma, times(blueness, BLUE_U)), 5);
    const both = i16x8.add(times(blueness, GREEN_U), times(redness, GREEN_V));
    const green = i16x8.shr_s(i16x8.add(luma, both), 5);
    const rb = i8x16.narrow_i16x8_u(red, blue);
    const ga = i8x16.narrow_i16x8_u(green, i16x8.splat(255));
    const rg = i8x16.shuffle(rb, ga, 0, 16, 1, 17, 2, 18, 3, 19, 4, 20, 5, 21, 6, 22, 7, 23);
    const ba = i8x16.shuffle(rb, ga, 8, 24, 9, 25, 10, 26, 11, 27, 12, 28, 13, 29, 14, 30, 15, 31);
    const pixels = target + (x << 2);
    v128.store(pixels, i16x8.shuffle(rg, ba, 0, 8, 1, 9, 2, 10, 3, 11));
    v128.store(pixels, i16x8.shuffle(rg, ba, 4, 12, 5, 13, 6, 14, 7, 15), 16);
  }
}
