/// <reference lib="webworker" />
import { expose, transfer } from 'comlink';
import { meterExposure } from '@zippy/core/develop';
import type { Look } from '@zippy/core/document';
import { measurePicture, type ScopeKind } from './measure';

let last: { width: number; height: number; pixels: Uint8ClampedArray } | null = null;
let board: OffscreenCanvas | null = null;

/** What the page asks of the thread that measures its picture. */
const thread = {
  measure(bitmap: ImageBitmap, kind: ScopeKind) {
    const { width, height } = bitmap;
    board ??= new OffscreenCanvas(width, height);
    if (board.width !== width || board.height !== height) Object.assign(board, { width, height });
    const context = board.getContext('2d', { willReadFrequently: true })!;
    context.clearRect(0, 0, width, height);
    context.drawImage(bitmap, 0, 0);
    bitmap.close();
    last = { width, height, pixels: context.getImageData(0, 0, width, height).data };
    const measured = measurePicture(last, kind);
    return transfer(measured, [measured.marks.buffer, ...measured.planes.map(({ counts }) => counts.buffer)]);
  },
  /** Stops by which a look has to change for the picture measured last to be well exposed. */
  meter(look: Look): number {
    return last ? meterExposure(last, look) : 0;
  },
  /** The bytes at a place of the picture measured last, told in parts of its width and height; null where nothing is. */
  at(x: number, y: number): [number, number, number, number] | null {
    if (!last) return null;
    const [column, row] = [Math.floor(x * last.width), Math.floor(y * last.height)];
    if (column < 0 || row < 0 || column >= last.width || row >= last.height) return null;
    const from = (row * last.width + column) * 4;
    return [...last.pixels.subarray(from, from + 4)] as [number, number, number, number];
  },
};

export type ScopesThread = typeof thread;

expose(thread);
