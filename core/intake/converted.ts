import { multiplyTransforms, type Transform } from '../geometry';
import type { AlongMotion } from './along';
import type { Model } from './model';

/** Between a part's name and that of a step of its transform, where the converter of FBX makes a node of every step. */
const STEP_MARK = '_$AssimpFbx$_';
/** What the converter calls a node that a file does not name. */
const NAMELESS = /^\$ColladaAutoName\$_\d+$/;
/** Index that the converter writes where a file states none; nothing has it, as nothing would be reflected. */
const UNSTATED_IOR = 1;

/**
 * A model that was converted from another format as its author knew it: steps of a transform that rest are put into the node
 * below them, those that move keep its name alone, and glass that states no index gets the usual one.
 * @param scale by which all of it grows
 */
export function tidyConverted(model: Model, scale: number): Model {
  const grown: Transform | null = Math.abs(scale - 1) < 1e-6 ? null : [scale, 0, 0, 0, 0, scale, 0, 0, 0, 0, scale, 0];
  const along = model.along ?? { cameras: [], lights: [], motion: [] };
  const busy = new Set([...along.cameras, ...along.lights, ...along.motion].map(({ node }) => node));
  const kept: number[] = [];
  /** For every node the nearest kept one above it, in the new order, and what lies between. */
  const above: { parent: number; place: Transform | null }[] = [];
  const numbers: number[] = [];
  model.nodes.forEach((node, k) => {
    const upper = node.parent;
    const own =
      upper < 0
        ? { parent: -1, place: grown }
        : numbers[upper]! >= 0
          ? { parent: numbers[upper]!, place: null }
          : { ...above[upper]!, place: under(above[upper]!.place, model.nodes[upper]!.transform) };
    above.push(own);
    const folds = node.mesh === null && node.name.includes(STEP_MARK) && !busy.has(k);
    numbers.push(folds ? -1 : kept.push(k) - 1);
  });
  const nodes = kept.map((k) => {
    const node = model.nodes[k]!;
    const { parent, place } = above[k]!;
    const name = node.name.replace(NAMELESS, 'Part').split(STEP_MARK)[0]!;
    return { ...node, name, parent, transform: under(place, node.transform) };
  });
  const motion = along.motion.map((each): AlongMotion => {
    const keys = each.keys.map((key) => ({ ...key, transform: under(above[each.node]!.place, key.transform) }));
    return { ...each, node: numbers[each.node]!, keys };
  });
  const renumber = <T extends { node: number }>(each: T): T => ({ ...each, node: numbers[each.node]! });
  return {
    ...model,
    nodes,
    along: { cameras: along.cameras.map(renumber), lights: along.lights.map(renumber), motion },
    finishes: model.finishes.map((finish) =>
      finish.values.specularIor === UNSTATED_IOR
        ? { ...finish, values: { ...finish.values, specularIor: 1.5 } }
        : finish,
    ),
  };
}

const under = (place: Transform | null, transform: Transform): Transform =>
  place ? multiplyTransforms(place, transform) : transform;
