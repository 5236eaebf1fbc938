/** One array of numbers of a trained network, such as the weights or the biases of a layer. */
export interface Tensor {
  dims: number[];
  /** Halves of IEEE 754, little endian, in the order of the dimensions. */
  halves: Uint8Array;
}

const MAGIC = 0x41d7;
const HALF = 'h'.charCodeAt(0);

/**
 * Reads the weights of a network from a tensor archive: a head with the place of a table, and the table with the name, shape, type and
 * place of each tensor, all little endian.
 * @throws Error where it is none, or holds other numbers than halves
 */
export function readWeights(bytes: Uint8Array): Map<string, Tensor> {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  if (bytes.length < 12 || view.getUint16(0, true) !== MAGIC)
    throw new Error('The file holds no weights of a network.');
  let at = Number(view.getBigUint64(4, true));
  const byte = () => view.getUint8(at++);
  const word = () => view.getUint32((at += 4) - 4, true);
  const count = word();
  const tensors = new Map<string, Tensor>();
  for (let k = 0; k < count; k++) {
    const length = view.getUint16((at += 2) - 2, true);
    const name = new TextDecoder().decode(bytes.subarray(at, (at += length)));
    const dims = Array.from({ length: byte() }, word);
    // Letters that tell which dimension is which: all are ordered alike here.
    at += dims.length;
    if (byte() !== HALF) throw new Error(`The weights ${name} are no halves.`);
    const offset = Number(view.getBigUint64((at += 8) - 8, true));
    const size = dims.reduce((product, each) => product * each, 2);
    tensors.set(name, { dims, halves: bytes.slice(offset, offset + size) });
  }
  return tensors;
}
