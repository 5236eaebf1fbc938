import * as L from '@zippy/kernel/layout';
import type { KernelHeap } from '@zippy/kernel/host';
import { cutOf, invertTransform, multiplyTransforms } from '../geometry';
import type { PartState } from '../motion';

const KINDS = { box: L.CUT_BOX, cylinder: L.CUT_CYLINDER } as const;

/** Writes the bodies of all openings among the parts: what is within them is taken out of the floor and of parts of the plate. */
export function writeCuts(heap: KernelHeap, parts: readonly PartState[]): { at: number; count: number } {
  const cuts = parts.flatMap(({ mesh, transform }) => {
    const cut = 'piece' in mesh ? cutOf(mesh.piece) : null;
    const inverse = cut && invertTransform(multiplyTransforms(transform, cut.body));
    return inverse ? [{ inverse, kind: KINDS[cut.kind] }] : [];
  });
  const at = heap.allocate(Math.max(1, cuts.length) * L.CUT_SIZE);
  const { f32, u32 } = heap.views();
  cuts.forEach(({ inverse, kind }, k) => {
    f32.set(inverse, (at + k * L.CUT_SIZE) / 4);
    u32[(at + k * L.CUT_SIZE + L.CUT_KIND) / 4] = kind;
  });
  return { at, count: cuts.length };
}
