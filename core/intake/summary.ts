import {
  composeTransform,
  emptyBounds,
  invertTransform,
  isEmpty,
  isIdentity,
  multiplyQuaternions,
  multiplyTransforms,
  quaternionAbout,
  transformBounds,
  boundsOfPositions,
  boundsOfTransformed,
  keepsAxes,
  unite,
  type Bounds,
  type Transform,
  type TriangleMesh,
} from '../geometry';
import { FINDINGS, sayNumber, type Asset, type Finding, type Recipe } from '../document';
import { changeAlong } from './along';
import { UNITS, type Model, type ModelNode, type Unit, type UpAxis } from './model';

/** World transforms of all nodes of a model, in their order. */
export function modelTransforms(model: Pick<Model, 'nodes'>): Transform[] {
  const world: Transform[] = [];
  for (const node of model.nodes) {
    world.push(node.parent < 0 ? node.transform : multiplyTransforms(world[node.parent]!, node.transform));
  }
  return world;
}

/** Bounds of all that a model shows, in its own unit; tight also where parts are turned. */
export function modelBounds(model: Model): Bounds {
  const world = modelTransforms(model);
  const boxes = model.meshes.map((mesh) => boundsOfPositions(mesh.positions));
  const bounds = emptyBounds();
  model.nodes.forEach(({ mesh }, k) => {
    if (mesh === null) return;
    const place = world[k]!;
    unite(
      bounds,
      keepsAxes(place)
        ? transformBounds(boxes[mesh]!, place)
        : boundsOfTransformed(model.meshes[mesh]!.positions, place),
    );
  });
  return bounds;
}

/** How many triangles a node of a model shows. */
export function triangleCount(model: Model, node: ModelNode): number {
  if (node.mesh === null) return 0;
  const { indices, faces } = model.meshes[node.mesh]!;
  if (!node.faces) return indices.length / 3;
  const wanted = new Set(node.faces);
  return faces ? faces.reduce((sum, face) => sum + (wanted.has(face) ? 1 : 0), 0) : indices.length / 3;
}

/** What the user is shown before a model is taken into the project. */
export interface ModelSummary {
  /** Width, height and depth in millimetres with the unit and up axis below. */
  size: [number, number, number];
  unit: Unit;
  unitReason: string;
  up: UpAxis;
  upReason: string;
  parts: number;
  triangles: number;
  finishes: number;
  /** The format cuts solids into triangles, so that their fineness can be chosen. */
  solids: boolean;
  /** What was found, by finding: how often, and in how many meshes. */
  found: { finding: Finding; count: number; meshes: number }[];
  notes: string[];
  /** What the file holds besides parts, and how long it moves. */
  along: { cameras: number; lights: number; moving: number; seconds: number };
}

export function summarize(model: Model, found: Asset['found'] = {}): ModelSummary {
  const { change } = uprightChange({ unit: model.unit, scale: 1, up: model.up, front: 0 });
  const { low, high } = transformBounds(modelBounds(model), change);
  const parts = model.nodes.filter((node) => node.mesh !== null);
  return {
    size: [high[0] - low[0], high[1] - low[1], high[2] - low[2]],
    unit: model.unit,
    unitReason: model.unitReason + doubtOf(model.unit, Math.max(0, ...high.map((v, k) => v - low[k]!))),
    up: model.up,
    upReason: model.upReason,
    parts: parts.length,
    triangles: parts.reduce((sum, node) => sum + triangleCount(model, node), 0),
    finishes: model.finishes.length,
    solids: model.exact,
    found: FINDINGS.flatMap((finding) => {
      const counts = Object.values(found[finding] ?? {});
      return counts.length > 0
        ? [{ finding, count: counts.reduce((sum, count) => sum + count, 0), meshes: counts.length }]
        : [];
    }),
    notes: model.notes,
    along: {
      cameras: model.along?.cameras.length ?? 0,
      lights: model.along?.lights.length ?? 0,
      moving: model.along?.motion.length ?? 0,
      seconds: Math.max(0, ...(model.along?.motion ?? []).flatMap(({ keys }) => keys.at(-1)?.seconds ?? 0)),
    },
  };
}

/** Largest extent of a product, in millimetres, that needs no second thought. */
const USUAL = { least: 8, most: 3500 };

/** Largest extents beyond which a unit is doubted even where a file states it: programs write wrong ones. */
const DOUBTFUL = { least: USUAL.least / 4, most: USUAL.most * 3 };

/** A sentence for a size that hardly any product has, and what it may be instead; else nothing. @param extent millimetres */
function doubtOf(unit: Unit, extent: number): string {
  if (extent >= DOUBTFUL.least && extent <= DOUBTFUL.most) return '';
  const usual = (Object.keys(UNITS) as Unit[])
    .map((each) => ({ each, size: (extent / UNITS[unit]) * UNITS[each] }))
    .find(({ size }) => size >= USUAL.least && size <= USUAL.most);
  const said = (size: number) => `${sayNumber(Number(size.toPrecision(3)))} mm`;
  const instead = usual ? `choose ${usual.each}, in which it is ${said(usual.size)}` : 'type its true length';
  return ` It is ${said(extent)} across then; if that is wrong, ${instead}.`;
}

/** The unit in which a largest extent makes a thing of usual size, for files that do not say their unit. */
function guessUnit(extent: number): { unit: Unit; reason: string } {
  for (const unit of ['mm', 'cm', 'm', 'inch'] as const) {
    const size = extent * UNITS[unit];
    if (size >= USUAL.least && size <= USUAL.most) {
      return { unit, reason: `The file names no unit; in ${unit} the product is ${Math.round(size)} mm across.` };
    }
  }
  return { unit: 'mm', reason: 'The file names no unit, and no unit makes a usual size. Please check.' };
}

/** Guesses the unit of meshes that no file states, by the extent of what is finite of them. */
export function guessUnitOf(meshes: readonly TriangleMesh[]): { unit: Unit; reason: string } {
  const box = emptyBounds();
  for (const { positions } of meshes) {
    const own = boundsOfPositions(positions);
    // One number that is none spoils the whole box; only then it is left out with a copy.
    const sound = [...own.low, ...own.high].every(Number.isFinite) || positions.length === 0;
    unite(box, sound ? own : boundsOfPositions(positions.map((v) => (Number.isFinite(v) ? v : 0))));
  }
  return guessUnit(isEmpty(box) ? 0 : Math.max(...box.high.map((v, k) => v - box.low[k]!)));
}

type Upright = Pick<Recipe, 'unit' | 'scale' | 'up' | 'front'>;

/** What brings places, and directions, of a model into millimetres, Y up, its front towards the viewer. */
function uprightChange({ unit, scale, up, front }: Upright): { change: Transform; rotation: Transform } {
  const factor = UNITS[unit] * scale;
  const upright =
    up === 'z'
      ? quaternionAbout([1, 0, 0], -Math.PI / 2)
      : up === 'x'
        ? quaternionAbout([0, 0, 1], Math.PI / 2)
        : ([0, 0, 0, 1] as const);
  const turn = multiplyQuaternions(quaternionAbout([0, 1, 0], (front * Math.PI) / 2), upright);
  return {
    change: composeTransform([0, 0, 0], turn, [factor, factor, factor]),
    rotation: composeTransform([0, 0, 0], turn, [1, 1, 1]),
  };
}

/** A model in millimetres, Y up, its front towards the viewer. */
export function normalizeModel(model: Model, upright: Upright): Model {
  const { change, rotation } = uprightChange(upright);
  const back = invertTransform(change)!;
  const apply = (source: Float32Array, by: Transform) => {
    if (isIdentity(by)) return source;
    const [a, b, c, , d, e, f, , g, h, i] = by;
    const out = new Float32Array(source.length);
    for (let at = 0; at < source.length; at += 3) {
      const [x, y, z] = [source[at]!, source[at + 1]!, source[at + 2]!];
      out[at] = a * x + b * y + c * z;
      out[at + 1] = d * x + e * y + f * z;
      out[at + 2] = g * x + h * y + i * z;
    }
    return out;
  };
  return {
    ...model,
    unit: 'mm',
    up: 'y',
    meshes: model.meshes.map(({ positions, normals, ...rest }) => ({
      ...rest,
      positions: apply(positions, change),
      normals: apply(normals, rotation),
    })),
    nodes: model.nodes.map((node) => ({
      ...node,
      transform: multiplyTransforms(multiplyTransforms(change, node.transform), back),
    })),
    ...(model.along ? { along: changeAlong(model.along, change) } : {}),
  };
}
