import { describe, expect, it } from 'vitest';
import { readWeights } from './weights';

/** An archive of one tensor of two halves. */
function archive(type = 'h'): Uint8Array {
  const bytes = new Uint8Array(64);
  const view = new DataView(bytes.buffer);
  view.setUint16(0, 0x41d7, true);
  view.setBigUint64(4, 16n, true);
  bytes.set([1, 2, 3, 4], 12);
  view.setUint32(16, 1, true);
  view.setUint16(20, 6, true);
  bytes.set(new TextEncoder().encode('a.bias'), 22);
  view.setUint8(28, 1);
  view.setUint32(29, 2, true);
  bytes.set(new TextEncoder().encode(`x${type}`), 33);
  view.setBigUint64(35, 12n, true);
  return bytes;
}

describe('the weights of a network', () => {
  it('are read by their names', () => {
    expect([...readWeights(archive())]).toEqual([['a.bias', { dims: [2], halves: Uint8Array.from([1, 2, 3, 4]) }]]);
  });

  it('are none of another file, and of no other numbers than halves', () => {
    expect(() => readWeights(new Uint8Array(3))).toThrow('no weights');
    expect(() => readWeights(new TextEncoder().encode('something else entirely'))).toThrow('no weights');
    expect(() => readWeights(archive('f'))).toThrow('no halves');
    expect(() => readWeights(archive().subarray(0, 25))).toThrow();
  });
});
