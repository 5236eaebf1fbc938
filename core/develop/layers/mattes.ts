import { MATTE_RANKS } from '@zippy/kernel/layout';
import { matteId } from '../matteId';
import type { LayerSource } from './layer';

/** Kinds of mattes as they stand in a file. */
export type MatteKind = 'crypto_part' | 'crypto_finish';

/** Ids and coverages of each rank of a kind of mattes; see ../mattes.ts. */
function ranksOf({ channel }: LayerSource, kind: MatteKind): { ids: Uint32Array; cover: Float32Array }[] {
  const plane = (k: number) => channel(`${kind}${String(k >> 2).padStart(2, '0')}.${'RGBA'[k & 3]!}`);
  return Array.from({ length: MATTE_RANKS }, (_, rank) => {
    const [ids, cover] = [plane(rank * 2), plane(rank * 2 + 1)] as [Float32Array | undefined, Float32Array | undefined];
    return ids && cover ? [{ ids: new Uint32Array(ids.buffer, ids.byteOffset, ids.length), cover }] : [];
  }).flat();
}

/** Each pixel in the colours of what covers it. */
export function matteColors(source: LayerSource, kind: MatteKind): Float32Array {
  const pixels = new Float32Array(source.width * source.height * 4);
  for (let at = 3; at < pixels.length; at += 4) pixels[at] = 1;
  for (const { ids, cover } of ranksOf(source, kind)) {
    for (let at = 0; at < ids.length; at++) {
      if (cover[at]! <= 0) continue;
      const color = colorOf(ids[at]!);
      for (let k = 0; k < 3; k++) pixels[at * 4 + k]! += cover[at]! * color[k]!;
    }
  }
  return pixels;
}

/** How much of each pixel things of these names cover, 0 to 1, one value a pixel. */
export function matteOf(source: LayerSource, kind: MatteKind, names: readonly string[]): Float32Array {
  const wanted = new Set(names.map(matteId));
  const out = new Float32Array(source.width * source.height);
  for (const { ids, cover } of ranksOf(source, kind))
    for (let at = 0; at < ids.length; at++) if (wanted.has(ids[at]!)) out[at]! += cover[at]!;
  return out.map((value) => Math.min(1, value));
}

/** Name of what covers most of a pixel; null where nothing does. */
export function matteAt(source: LayerSource, kind: MatteKind, pixel: number): string | null {
  const [first] = ranksOf(source, kind);
  if (!first || !(first.cover[pixel]! > 0)) return null;
  return source.names[kind === 'crypto_part' ? 'parts' : 'finishes'].get(first.ids[pixel]!) ?? null;
}

/** Colours that lie apart on the wheel, none of them dark. */
function colorOf(id: number): [number, number, number] {
  const turn = (Math.imul(id, 0x9e3779b1) >>> 0) / 2 ** 32;
  const light = 0.55 + 0.35 * ((Math.imul(id, 0x85ebca6b) >>> 0) / 2 ** 32);
  const part = (k: number) => light * (0.62 + 0.38 * Math.cos(2 * Math.PI * (turn - k / 3)));
  return [part(0), part(1), part(2)];
}
