import { LEAF, LIGHT_NODE_SIZE } from '@zippy/kernel/layout';

/** What the light tree knows of one light. */
export interface LightBounds {
  low: number[];
  high: number[];
  /** Radiance × area in mm² towards where it shines most. */
  intensity: number;
  axis: number[];
  /** Cosine of the angle within which its surface looks about the axis, and of that in which it shines beyond. */
  cosSpread: number;
  cosEmission: number;
}

interface Node extends LightBounds {
  light: number;
  left: Node | null;
  right: Node | null;
}

export interface LightTree {
  /** Records of LIGHT_NODE_SIZE bytes; addresses inside are relative to the first. */
  nodes: number;
  /** By light: bits of the way down, 1 is right. */
  trails: Uint32Array;
  write(f32: Float32Array, u32: Uint32Array, at: number): void;
}

/** A binary tree over lights, split in the middle of the longest side of their places. Null without lights. */
export function buildLightTree(lights: LightBounds[]): LightTree | null {
  if (lights.length === 0) return null;
  const trails = new Uint32Array(lights.length);
  let count = 0;
  const build = (members: number[], depth: number, trail: number): Node => {
    count++;
    if (members.length === 1) {
      trails[members[0]!] = trail;
      return { ...lights[members[0]!]!, light: members[0]!, left: null, right: null };
    }
    const centre = (light: number, k: number) => (lights[light]!.low[k]! + lights[light]!.high[k]!) / 2;
    const extents = [0, 1, 2].map((k) => {
      const places = members.map((light) => centre(light, k));
      return Math.max(...places) - Math.min(...places);
    });
    const axis = extents.indexOf(Math.max(...extents));
    const sorted = [...members].sort((a, b) => centre(a, axis) - centre(b, axis) || a - b);
    const half = sorted.length >> 1;
    const left = build(sorted.slice(0, half), depth + 1, trail);
    // Half of the lights go each way: 32 levels hold more lights than memory does.
    const right = build(sorted.slice(half), depth + 1, (trail | (1 << depth)) >>> 0);
    return { ...join(left, right), light: -1, left, right };
  };
  const root = build(
    lights.map((_, k) => k),
    0,
    0,
  );
  return {
    nodes: count,
    trails,
    write(f32, u32, at) {
      let next = at;
      const put = (node: Node): number => {
        const own = next;
        next += LIGHT_NODE_SIZE;
        const to = own / 4;
        f32.set([...node.low, ...node.high, node.intensity, ...node.axis, node.cosSpread, node.cosEmission], to);
        if (node.left && node.right) {
          u32[to + 12] = put(node.left);
          u32[to + 13] = put(node.right);
        } else u32[to + 12] = (LEAF | node.light) >>> 0;
        return own;
      };
      put(root);
    },
  };
}

/** Bounds of two together; the cones are joined as in Conty Estevez and Kulla, 2018. */
function join(a: LightBounds, b: LightBounds): LightBounds {
  const [wide, narrow] = a.cosSpread <= b.cosSpread ? [a, b] : [b, a];
  const spreadWide = Math.acos(Math.min(1, Math.max(-1, wide.cosSpread)));
  const spreadNarrow = Math.acos(Math.min(1, Math.max(-1, narrow.cosSpread)));
  const apart = Math.acos(
    Math.min(
      1,
      Math.max(
        -1,
        wide.axis.reduce((sum, v, k) => sum + v * narrow.axis[k]!, 0),
      ),
    ),
  );
  let axis = wide.axis;
  let spread = spreadWide;
  if (Math.min(apart + spreadNarrow, Math.PI) > spreadWide) {
    spread = (spreadWide + apart + spreadNarrow) / 2;
    if (spread >= Math.PI) spread = Math.PI;
    else axis = turnTowards(wide.axis, narrow.axis, spread - spreadWide);
  }
  return {
    low: a.low.map((v, k) => Math.min(v, b.low[k]!)),
    high: a.high.map((v, k) => Math.max(v, b.high[k]!)),
    intensity: a.intensity + b.intensity,
    axis,
    cosSpread: Math.cos(spread),
    cosEmission: Math.min(a.cosEmission, b.cosEmission),
  };
}

/** A unit vector turned towards another by an angle. */
function turnTowards(from: number[], to: number[], angle: number): number[] {
  const along = from.reduce((sum, v, k) => sum + v * to[k]!, 0);
  const across = to.map((v, k) => v - along * from[k]!);
  const size = Math.hypot(...across);
  if (size < 1e-9) return from;
  return from.map((v, k) => Math.cos(angle) * v + (Math.sin(angle) * across[k]!) / size);
}
