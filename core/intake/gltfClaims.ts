/** The numbers of a glTF file that say how much is where. */
interface Claims {
  accessors?: {
    bufferView?: number;
    byteOffset?: number;
    count?: number;
    componentType?: number;
    type?: string;
    sparse?: unknown;
  }[];
  bufferViews?: {
    buffer?: number;
    byteOffset?: number;
    byteLength?: number;
    byteStride?: number;
    extensions?: object;
  }[];
  buffers?: { uri?: string; byteLength?: number }[];
}

const COMPONENT_BYTES: Record<number, number> = { 5120: 1, 5121: 1, 5122: 2, 5123: 2, 5125: 4, 5126: 4 };
const COMPONENTS: Record<string, number> = { SCALAR: 1, VEC2: 2, VEC3: 3, VEC4: 4, MAT2: 4, MAT3: 9, MAT4: 16 };
/** Elements beyond which a claim is a lie, whatever stands behind it. */
const MOST_ELEMENTS = 200_000_000;

/**
 * A sentence on the first number in a glTF file that claims more than is there, before anything is made room for; or null.
 * Compressed data cannot be measured so: their unpackers check for themselves.
 * @param bytes length of the file, which its own buffer cannot exceed
 */
export function findFalseClaim(json: Claims, bytes: number): string | null {
  const views = Array.isArray(json.bufferViews) ? json.bufferViews : [];
  const buffers = Array.isArray(json.buffers) ? json.buffers : [];
  for (const { buffer = 0, byteOffset = 0, byteLength = 0, extensions } of views) {
    const { uri, byteLength: whole = 0 } = buffers[buffer] ?? {};
    const room = uri === undefined ? Math.min(whole, bytes) : whole;
    if (!extensions && !(byteOffset + byteLength <= room)) return 'it claims more data than it holds';
  }
  for (const accessor of Array.isArray(json.accessors) ? json.accessors : []) {
    const { count = 0, byteOffset = 0, componentType = 0, type = '' } = accessor;
    if (!(count >= 0 && count <= MOST_ELEMENTS)) return `it claims ${count} numbers in one list`;
    if (accessor.bufferView === undefined) continue;
    const view = views[accessor.bufferView];
    if (!view) return 'it names a block of data that does not exist';
    if (view.extensions) continue;
    const size = (COMPONENT_BYTES[componentType] ?? 0) * (COMPONENTS[type] ?? 0);
    if (size === 0) return 'it holds numbers of an unknown kind';
    const end = byteOffset + (count - 1) * (view.byteStride ?? size) + size;
    if (count > 0 && !(end <= (view.byteLength ?? 0))) return 'it claims more data than it holds';
  }
  return null;
}
