import { inMeshKernel } from '@zippy/kernel/mesh';

/** For each of some numbers what a table has for it. */
export const lookedUp = (numbers: Uint32Array, table: Uint32Array): Uint32Array<ArrayBuffer> =>
  inMeshKernel((kernel) => {
    const out = kernel.room(numbers.byteLength);
    kernel.passes.lookedUp(kernel.put(numbers), numbers.length, kernel.put(table), out);
    return kernel.numbers(out, numbers.length).slice();
  });

/** The xyz of some vertices. */
export const gatherPlaces = (positions: Float32Array, sources: Uint32Array): Float32Array<ArrayBuffer> =>
  inMeshKernel((kernel) => {
    const out = kernel.room(sources.length * 12);
    kernel.passes.gatherPlaces(kernel.put(positions), kernel.put(sources), sources.length, out);
    return kernel.floats(out, sources.length * 3).slice();
  });

/**
 * Takes out of positions those that corners name, each once, in the order in which they are named first.
 * @param named positions by their number; a corner that names none gets a vertex that no mesh has
 */
export const ownVertices = (
  positions: Float32Array,
  named: Int32Array,
): { positions: Float32Array<ArrayBuffer>; vertices: Uint32Array<ArrayBuffer> } =>
  inMeshKernel((kernel) => {
    const known = positions.length / 3;
    const corners = kernel.put(named);
    const from = kernel.put(positions);
    const numbers = kernel.room(known * 4, 0);
    const [places, vertices] = [kernel.room(Math.min(known, named.length) * 12), kernel.room(named.length * 4)];
    const count = kernel.passes.ownVertices(corners, named.length, from, known, numbers, places, vertices);
    return {
      positions: kernel.floats(places, count * 3).slice(),
      vertices: kernel.numbers(vertices, named.length).slice(),
    };
  });
