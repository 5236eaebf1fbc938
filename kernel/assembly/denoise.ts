// Smooths noise but not edges of surface, colour or shadow: an à-trous filter over light divided by albedo, guided by normal,
// albedo, depth and by how noisy the neighbourhood is (Dammertz et al., Edge-Avoiding À-Trous Wavelet Transform for fast Global
// Illumination Filtering, 2010; variance after Schied et al., Spatiotemporal Variance-Guided Filtering, 2017). Light is compared
// patch with patch, less what noise alone makes of the difference (Rousselle et al., Adaptive Rendering with Non-Local Means
// Filtering, 2012): pixels along an edge are told from those across it. Four neighbouring pixels are worked on at a time.

import { FILTER_LEVELS, FILTER_MARGIN } from './layout';

const NOWHERE: f32 = 1000;
/** A speck is brighter than all its neighbours by more than this factor. */
const SPECK: f32 = 3;

const NORMAL_SHARPNESS: f32 = 150;
const ALBEDO_SHARPNESS: f32 = 600;
/** Part of a pixel's depth that a neighbour one step away may differ by. */
const DEPTH_SLOPE: f32 = 0.004;
/** Millimetres. */
const DEPTH_LEAST: f32 = 0.5;
/** Part of the difference between two pixels' light that noise makes by itself which is taken off. */
const CANCELLED: f32 = 1;
/** Part of a pixel's light, and of white, that neighbours may differ by without noise. */
const LIGHT_LEAST: f32 = 0.005;
const LIGHT_FLOOR: f32 = 1e-4;
/** Guides may differ by this many times the sum of their variances by chance. */
const CHANCE: f32 = 3.5;

/** Bytes of a margin left of a row. */
const MARGIN_BYTES: usize = <usize>FILTER_MARGIN * 4;

let stride: usize = 0;
let plane: usize = 0;
let light: usize = 0;
let variance: usize = 0;
let normal: usize = 0;
let albedo: usize = 0;
let depth: usize = 0;
let luminance: usize = 0;
let filtered: usize = 0;
let filteredVariance: usize = 0;
let spread: usize = 0;
let difference: usize = 0;
let weight: usize = 0;

/**
 * Filters the planes at `planes` in place; see layout.ts. Afterwards the light planes hold the smoothed light.
 * With `known`, the variance plane holds the variance of each pixel; otherwise it is guessed from the neighbourhood.
 */
export function denoise(planes: usize, width: i32, height: i32, known: bool): void {
  openPlanes(planes, width, height);
  clearMargins(width, height);
  measureLuminance(width, height);
  tameSpecks(width, height);
  measureLuminance(width, height);
  if (known) smoothVariance(width, height);
  else measureVariance(width, height);
  for (let level = 0; level < FILTER_LEVELS; level++) {
    filterLevel(width, height, 1 << level);
    takeOver();
    if (level + 1 < FILTER_LEVELS) measureLuminance(width, height);
  }
}

/**
 * Takes the noise out of the colours of surfaces, as far as their variances say that it is noise: behind glass or out of focus
 * they are themselves means of few samples, and light divided by them would take over their noise.
 */
export function smoothAlbedo(planes: usize, width: i32, height: i32): void {
  openPlanes(planes, width, height);
  clearMargins(width, height);
  const one = f32x4.splat(1),
    two = f32x4.splat(2),
    zero = f32x4.splat(0),
    tiny = f32x4.splat(1e-7);
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x += 4) {
      const offset = <usize>y * stride + <usize>x * 4;
      const r = v128.load(albedo + offset),
        g = v128.load(albedo + plane + offset),
        b = v128.load(albedo + 2 * plane + offset);
      const own = v128.load(spread + plane + offset);
      let sumR = zero,
        sumG = zero,
        sumB = zero,
        total = zero,
        squares = zero;
      for (let j = -ALBEDO_REACH; j <= ALBEDO_REACH; j++) {
        for (let i = -ALBEDO_REACH; i <= ALBEDO_REACH; i++) {
          const q = offset + <usize>(j * <i32>stride + i * 4);
          const qr = v128.load(albedo + q),
            qg = v128.load(albedo + plane + q),
            qb = v128.load(albedo + 2 * plane + q);
          const chance = f32x4.add(own, v128.load(spread + plane + q));
          const apart = f32x4.sub(
            f32x4.add(squaredDifference(r, qr), f32x4.add(squaredDifference(g, qg), squaredDifference(b, qb))),
            f32x4.mul(two, chance),
          );
          const dn = f32x4.add(
            squaredDifference(v128.load(normal + offset), v128.load(normal + q)),
            f32x4.add(
              squaredDifference(v128.load(normal + plane + offset), v128.load(normal + plane + q)),
              squaredDifference(v128.load(normal + 2 * plane + offset), v128.load(normal + 2 * plane + q)),
            ),
          );
          const x2 = f32x4.add(
            f32x4.div(f32x4.pmax(zero, apart), f32x4.add(chance, tiny)),
            f32x4.mul(dn, f32x4.splat(NORMAL_SHARPNESS)),
          );
          const w = f32x4.div(one, f32x4.mul(f32x4.add(one, x2), f32x4.add(one, x2)));
          sumR = f32x4.add(sumR, f32x4.mul(w, qr));
          sumG = f32x4.add(sumG, f32x4.mul(w, qg));
          sumB = f32x4.add(sumB, f32x4.mul(w, qb));
          total = f32x4.add(total, w);
          squares = f32x4.add(squares, f32x4.mul(f32x4.mul(w, w), v128.load(spread + plane + q)));
        }
      }
      const inverse = f32x4.div(one, total);
      v128.store(filtered + offset, f32x4.mul(sumR, inverse));
      v128.store(filtered + plane + offset, f32x4.mul(sumG, inverse));
      v128.store(filtered + 2 * plane + offset, f32x4.mul(sumB, inverse));
      v128.store(filteredVariance + offset, f32x4.mul(squares, f32x4.mul(inverse, inverse)));
    }
  }
  for (let y = 0; y < height; y++) {
    const row = <usize>y * stride,
      bytes = <usize>width * 4;
    for (let k: usize = 0; k < 3; k++) memory.copy(albedo + k * plane + row, filtered + k * plane + row, bytes);
    memory.copy(spread + plane + row, filteredVariance + row, bytes);
  }
}

const ALBEDO_REACH: i32 = 2;

function openPlanes(planes: usize, width: i32, height: i32): void {
  stride = (<usize>((width + 3) & ~3) + 2 * FILTER_MARGIN) * 4;
  plane = stride * <usize>(height + 2 * FILTER_MARGIN);
  const first = planes + marginSize();
  light = first;
  variance = first + 3 * plane;
  normal = first + 4 * plane;
  albedo = first + 7 * plane;
  depth = first + 10 * plane;
  luminance = first + 11 * plane;
  filtered = first + 12 * plane;
  filteredVariance = first + 15 * plane;
  spread = first + 16 * plane;
  difference = first + 19 * plane;
  weight = first + 20 * plane;
}

/** Bytes from the start of a plane to its first pixel. */
function marginSize(): usize {
  return <usize>FILTER_MARGIN * stride + MARGIN_BYTES;
}

function clearMargins(width: i32, height: i32): void {
  const none = f32x4.splat(NOWHERE);
  const rows = height + 2 * FILTER_MARGIN;
  const from = normal - marginSize();
  for (let y = 0; y < rows; y++) {
    const row = from + <usize>y * stride;
    if (y < FILTER_MARGIN || y >= height + FILTER_MARGIN) {
      for (let at: usize = 0; at < stride; at += 16) v128.store(row + at, none);
    } else {
      for (let at: usize = 0; at < MARGIN_BYTES; at += 16) v128.store(row + at, none);
      for (let at = <usize>(FILTER_MARGIN + width) * 4; at < stride; at += 4) store<f32>(row + at, NOWHERE);
    }
  }
}

function measureLuminance(width: i32, height: i32): void {
  for (let y = 0; y < height; y++) {
    const row = <usize>y * stride;
    for (let x = 0; x < width; x += 4) {
      const at = light + row + <usize>x * 4;
      v128.store(
        luminance + row + <usize>x * 4,
        f32x4.add(
          f32x4.mul(v128.load(at), f32x4.splat(0.2126)),
          f32x4.add(
            f32x4.mul(v128.load(at + plane), f32x4.splat(0.7152)),
            f32x4.mul(v128.load(at + 2 * plane), f32x4.splat(0.0722)),
          ),
        ),
      );
    }
    // What lies right of the picture in the last block of four must not brighten its neighbours.
    for (let x = width; x < ((width + 3) & ~3); x++) store<f32>(luminance + row + <usize>x * 4, 0);
  }
}

/** A pixel far brighter than all its neighbours is brought down to the brightest of them. */
function tameSpecks(width: i32, height: i32): void {
  const one = f32x4.splat(1);
  const tiny = f32x4.splat(1e-20);
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x += 4) {
      const offset = <usize>y * stride + <usize>x * 4;
      const at = luminance + offset;
      let most = f32x4.pmax(v128.load(at - 4), v128.load(at + 4));
      most = f32x4.pmax(most, f32x4.pmax(v128.load(at - stride - 4), v128.load(at - stride)));
      most = f32x4.pmax(most, f32x4.pmax(v128.load(at - stride + 4), v128.load(at + stride - 4)));
      most = f32x4.pmax(most, f32x4.pmax(v128.load(at + stride), v128.load(at + stride + 4)));
      const own = v128.load(at);
      const speck = f32x4.gt(own, f32x4.mul(most, f32x4.splat(SPECK)));
      if (!v128.any_true(speck)) continue;
      const scale = v128.bitselect(f32x4.div(most, f32x4.add(own, tiny)), one, speck);
      for (let k: usize = 0; k < 3; k++) {
        const channel = light + k * plane + offset;
        v128.store(channel, f32x4.mul(v128.load(channel), scale));
      }
    }
  }
}

/** Variance of luminance in 5 × 5 pixels: a first guess of the noise, too large at edges, where the guides hold. */
function measureVariance(width: i32, height: i32): void {
  for (let y = 0; y < height; y++) {
    const rows = min(height - 1, y + 2) - max(0, y - 2) + 1;
    for (let x = 0; x < width; x += 4) {
      const offset = <usize>y * stride + <usize>x * 4;
      let sum = f32x4.splat(0);
      let squares = f32x4.splat(0);
      for (let j = max(0, y - 2); j <= min(height - 1, y + 2); j++) {
        const row = luminance + <usize>j * stride + <usize>x * 4;
        for (let i = -2; i <= 2; i++) {
          const l = v128.load(row + i * 4);
          sum = f32x4.add(sum, l);
          squares = f32x4.add(squares, f32x4.mul(l, l));
        }
      }
      const count = f32x4.mul(
        f32x4(columns(x, width), columns(x + 1, width), columns(x + 2, width), columns(x + 3, width)),
        f32x4.splat(<f32>rows),
      );
      const mean = f32x4.div(sum, count);
      v128.store(
        variance + offset,
        f32x4.pmax(f32x4.splat(0), f32x4.sub(f32x4.div(squares, count), f32x4.mul(mean, mean))),
      );
    }
  }
}

/** Mean of the variance over 3 × 3 pixels: with few samples the variance is itself noisy. */
function smoothVariance(width: i32, height: i32): void {
  const ninth = f32x4.splat(1.0 / 9.0);
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x += 4) {
      const offset = <usize>y * stride + <usize>x * 4;
      let sum = f32x4.splat(0);
      for (let j = -1; j <= 1; j++) {
        const row = variance + offset + <usize>(j * <i32>stride);
        sum = f32x4.add(sum, f32x4.add(v128.load(row - 4), f32x4.add(v128.load(row), v128.load(row + 4))));
      }
      v128.store(filteredVariance + offset, f32x4.mul(sum, ninth));
    }
  }
  memory.copy(variance - marginSize(), filteredVariance - marginSize(), plane);
}

/** Columns of the picture among the five about `x`. */
function columns(x: i32, width: i32): f32 {
  return <f32>max(1, min(width - 1, x + 2) - max(0, x - 2) + 1);
}

function squaredDifference(a: v128, b: v128): v128 {
  const d = f32x4.sub(a, b);
  return f32x4.mul(d, d);
}

/** Difference of luminance, but a red and a green lamp that are as bright as each other are far apart. */
function apartInColor(r: v128, g: v128, b: v128, qr: v128, qg: v128, qb: v128): v128 {
  return f32x4.add(
    f32x4.mul(f32x4.abs(f32x4.sub(r, qr)), f32x4.splat(0.2126)),
    f32x4.add(
      f32x4.mul(f32x4.abs(f32x4.sub(g, qg)), f32x4.splat(0.7152)),
      f32x4.mul(f32x4.abs(f32x4.sub(b, qb)), f32x4.splat(0.0722)),
    ),
  );
}

function filterLevel(width: i32, height: i32, step: i32): void {
  for (let k: usize = 0; k < 4; k++) memory.fill(filtered + k * plane - marginSize(), 0, plane);
  memory.fill(weight - marginSize(), 0, plane);
  for (let j = -2; j <= 2; j++) {
    for (let i = -2; i <= 2; i++) {
      const to = j * step * <i32>stride + i * step * 4;
      measureDifference(width, height, to);
      addNeighbours(width, height, step, to, binomial(i) * binomial(j));
    }
  }
  const one = f32x4.splat(1);
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x += 4) {
      const at = filtered + <usize>y * stride + <usize>x * 4;
      const inverse = f32x4.div(one, v128.load(weight + <usize>y * stride + <usize>x * 4));
      for (let k: usize = 0; k < 3; k++) v128.store(at + k * plane, f32x4.mul(v128.load(at + k * plane), inverse));
      v128.store(at + 3 * plane, f32x4.mul(v128.load(at + 3 * plane), f32x4.mul(inverse, inverse)));
    }
  }
}

/**
 * Writes by how much more the light of each pixel differs from that of the pixel `to` bytes on than noise accounts for, squared, in
 * parts of the noise. It is below 0 where they are more alike than noise lets expect.
 */
function measureDifference(width: i32, height: i32, to: i32): void {
  const zero = f32x4.splat(0),
    cancelled = f32x4.splat(CANCELLED),
    least = f32x4.splat(LIGHT_LEAST),
    floor = f32x4.splat(LIGHT_FLOOR);
  const nowhere = f32x4.splat(NOWHERE);
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x += 4) {
      const p = <usize>y * stride + <usize>x * 4,
        q = p + <usize>to;
      const d = apartInColor(
        v128.load(light + p),
        v128.load(light + plane + p),
        v128.load(light + 2 * plane + p),
        v128.load(light + q),
        v128.load(light + plane + q),
        v128.load(light + 2 * plane + q),
      );
      const own = v128.load(variance + p),
        other = v128.load(variance + q);
      const slack = f32x4.add(f32x4.mul(v128.load(luminance + p), least), floor);
      const more = f32x4.sub(f32x4.mul(d, d), f32x4.mul(cancelled, f32x4.add(own, f32x4.pmin(own, other))));
      const measured = f32x4.div(more, f32x4.add(f32x4.add(own, other), f32x4.mul(slack, slack)));
      // Beyond the margin there is nothing to compare with.
      v128.store(difference + p, v128.bitselect(zero, measured, f32x4.eq(v128.load(normal + q), nowhere)));
    }
    // Patches at the border go on with what is nearest.
    const row = difference + <usize>y * stride;
    store<f32>(row - 4, load<f32>(row));
    store<f32>(row + <usize>width * 4, load<f32>(row + <usize>width * 4 - 4));
  }
  const bytes = <usize>(width + 2) * 4;
  const last = difference + <usize>(height - 1) * stride - 4;
  memory.copy(difference - stride - 4, difference - 4, bytes);
  memory.copy(last + stride, last, bytes);
}

/** Adds to each pixel the one `to` bytes on, as far as both are of one surface, colour and light. */
function addNeighbours(width: i32, height: i32, step: i32, to: i32, share: f32): void {
  const half = f32x4.splat(0.5),
    one = f32x4.splat(1),
    two = f32x4.splat(2),
    zero = f32x4.splat(0),
    ninth = f32x4.splat(1.0 / 9.0);
  const shares = f32x4.splat(share),
    chance = f32x4.splat(CHANCE);
  const slope = f32x4.splat(DEPTH_SLOPE * <f32>step),
    depthLeast = f32x4.splat(DEPTH_LEAST);
  const byNormal = f32x4.splat(NORMAL_SHARPNESS),
    byAlbedo = f32x4.splat(ALBEDO_SHARPNESS);
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x += 4) {
      const p = <usize>y * stride + <usize>x * 4,
        q = p + <usize>to;
      let patch = zero;
      for (let row = difference + p - stride; row <= difference + p + stride; row += stride)
        patch = f32x4.add(patch, f32x4.add(v128.load(row - 4), f32x4.add(v128.load(row), v128.load(row + 4))));
      const dn = f32x4.add(
        squaredDifference(v128.load(normal + p), v128.load(normal + q)),
        f32x4.add(
          squaredDifference(v128.load(normal + plane + p), v128.load(normal + plane + q)),
          squaredDifference(v128.load(normal + 2 * plane + p), v128.load(normal + 2 * plane + q)),
        ),
      );
      const da = f32x4.add(
        squaredDifference(v128.load(albedo + p), v128.load(albedo + q)),
        f32x4.add(
          squaredDifference(v128.load(albedo + plane + p), v128.load(albedo + plane + q)),
          squaredDifference(v128.load(albedo + 2 * plane + p), v128.load(albedo + 2 * plane + q)),
        ),
      );
      // Guides that are noisy themselves (out of focus, in motion) differ by chance: that much does not count.
      const chanceNormal = f32x4.mul(chance, f32x4.add(v128.load(spread + p), v128.load(spread + q)));
      const chanceAlbedo = f32x4.mul(chance, f32x4.add(v128.load(spread + plane + p), v128.load(spread + plane + q)));
      const chanceDepth = f32x4.mul(
        two,
        f32x4.sqrt(f32x4.add(v128.load(spread + 2 * plane + p), v128.load(spread + 2 * plane + q))),
      );
      const far = v128.load(depth + p);
      const dz = f32x4.sub(f32x4.abs(f32x4.sub(far, v128.load(depth + q))), chanceDepth);
      const apart = f32x4.add(
        f32x4.add(
          f32x4.mul(f32x4.pmax(zero, f32x4.sub(dn, chanceNormal)), byNormal),
          f32x4.mul(f32x4.pmax(zero, f32x4.sub(da, chanceAlbedo)), byAlbedo),
        ),
        f32x4.add(
          f32x4.div(f32x4.pmax(zero, dz), f32x4.add(f32x4.mul(far, slope), depthLeast)),
          f32x4.mul(f32x4.pmax(zero, patch), ninth),
        ),
      );
      // 1 / (1 + x + x²/2) falls like exp(-x) nearly enough for a weight, and is much cheaper.
      const w = f32x4.div(shares, f32x4.add(one, f32x4.mul(apart, f32x4.add(one, f32x4.mul(half, apart)))));
      for (let k: usize = 0; k < 3; k++) {
        const at = filtered + k * plane + p;
        v128.store(at, f32x4.add(v128.load(at), f32x4.mul(w, v128.load(light + k * plane + q))));
      }
      v128.store(weight + p, f32x4.add(v128.load(weight + p), w));
      const squares = filteredVariance + p;
      v128.store(squares, f32x4.add(v128.load(squares), f32x4.mul(f32x4.mul(w, w), v128.load(variance + q))));
    }
  }
}

function binomial(k: i32): f32 {
  return k === 0 ? <f32>0.375 : abs(k) === 1 ? <f32>0.25 : <f32>0.0625;
}

/** What was filtered is read by the next level. */
function takeOver(): void {
  memory.copy(light - marginSize(), filtered - marginSize(), 4 * plane);
}
