import {
  composeTransform,
  emptyBounds,
  invertTransform,
  multiplyTransforms,
  quaternionAbout,
  transformBounds,
  boundsOfPositions,
  unite,
  type Bounds,
  type Transform,
} from '../geometry';
import { UNITS, type Model, type Unit, type UpAxis } from './model';

/** World transforms of all nodes of a model, in their order. */
export function modelTransforms(model: Model): Transform[] {
  const world: Transform[] = [];
  for (const node of model.nodes) {
    world.push(node.parent < 0 ? node.transform : multiplyTransforms(world[node.parent]!, node.transform));
  }
  return world;
}

export function modelBounds(model: Model): Bounds {
  const world = modelTransforms(model);
  const boxes = model.meshes.map((mesh) => boundsOfPositions(mesh.positions));
  const bounds = emptyBounds();
  model.nodes.forEach((node, k) => {
    if (node.mesh !== null) unite(bounds, transformBounds(boxes[node.mesh]!, world[k]!));
  });
  return bounds;
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
  notes: string[];
}

export function summarize(model: Model): ModelSummary {
  const { low, high } = modelBounds(normalizeModel(model, model.unit, model.up));
  const parts = model.nodes.filter((node) => node.mesh !== null);
  return {
    size: [high[0] - low[0], high[1] - low[1], high[2] - low[2]],
    unit: model.unit,
    unitReason: model.unitReason,
    up: model.up,
    upReason: model.upReason,
    parts: parts.length,
    triangles: parts.reduce((sum, node) => sum + model.meshes[node.mesh!]!.indices.length / 3, 0),
    notes: model.notes,
  };
}

/** Largest extent of a product, in millimetres, that needs no second thought. */
const USUAL = { least: 8, most: 3500 };

/** The unit in which a largest extent makes a thing of usual size, for files that do not say their unit. */
export function guessUnit(extent: number): { unit: Unit; reason: string } {
  for (const unit of ['mm', 'cm', 'm', 'inch'] as const) {
    const size = extent * UNITS[unit];
    if (size >= USUAL.least && size <= USUAL.most) {
      return { unit, reason: `The file names no unit; in ${unit} the product is ${Math.round(size)} mm across.` };
    }
  }
  return { unit: 'mm', reason: 'The file names no unit, and no unit makes a usual size. Please check.' };
}

/** Turns a model to millimetres and Y up. Meshes are converted in place of their originals. */
export function normalizeModel(model: Model, unit: Unit, up: UpAxis): Model {
  const factor = UNITS[unit];
  const turn =
    up === 'z'
      ? quaternionAbout([1, 0, 0], -Math.PI / 2)
      : up === 'x'
        ? quaternionAbout([0, 0, 1], Math.PI / 2)
        : ([0, 0, 0, 1] as const);
  const change = composeTransform([0, 0, 0], turn, [factor, factor, factor]);
  const rotation = composeTransform([0, 0, 0], turn, [1, 1, 1]);
  const back = invertTransform(change)!;
  const apply = (source: Float32Array, [a, b, c, , d, e, f, , g, h, i]: Transform) => {
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
  };
}
