import type { BufferAttribute, BufferGeometry, Material, Mesh } from 'three';

/**
 * What may be drawn in one task, in bytes that go to the graphics card: large models are brought there in portions, so that the page
 * answers meanwhile.
 */
const PORTION = 6_000_000;
/** What drawing a mesh costs besides its bytes, in the same measure. */
const EACH = 16_000;

/** Geometries that the graphics card has been given. */
export class GivenGeometries {
  private readonly given = new WeakSet<BufferGeometry>();

  has = (geometry: BufferGeometry): boolean => this.given.has(geometry);

  /** Takes from the first meshes as many as may be drawn in one task, at least one, and counts them as given. */
  take(meshes: readonly Mesh[], from: number): Mesh[] {
    let room = PORTION;
    let end = from;
    while (end < meshes.length && room > 0) {
      const { geometry } = meshes[end++]!;
      room -= EACH + (this.given.has(geometry) ? 0 : bytesOf(geometry));
      this.given.add(geometry);
    }
    return meshes.slice(from, end);
  }
}

function bytesOf(geometry: BufferGeometry): number {
  let bytes = geometry.getIndex()?.array.byteLength ?? 0;
  for (const attribute of Object.values(geometry.attributes)) bytes += (attribute as BufferAttribute).array.byteLength;
  return bytes;
}

/** Meshes in the order in which they can be drawn in portions: those of the plate first, those that others are seen through last. */
export function inDrawingOrder(meshes: readonly Mesh[]): Mesh[] {
  const clear = ({ material }: Mesh) =>
    (Array.isArray(material) ? material : [material]).some((each: Material) => each.transparent);
  const ofPlate = ({ renderOrder }: Mesh) => renderOrder < 0;
  // What is of the plate keeps what stands behind it from being drawn at all.
  const rest = meshes.filter((mesh) => !ofPlate(mesh));
  return [...meshes.filter(ofPlate), ...rest.filter((mesh) => !clear(mesh)), ...rest.filter(clear)];
}
