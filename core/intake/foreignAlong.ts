import * as z from 'zod';
import { newCamera, newLight, type Camera, type Light } from '../document';
import { add, length, scale, type Vector } from '../geometry';
import type { ModelAlong } from './along';
import type { Model } from './model';
import { modelTransforms } from './summary';

const vector = z.tuple([z.number(), z.number(), z.number()]);
const seen = z.object({ name: z.string(), position: vector.default([0, 0, 0]) });

/** What the converter writes of cameras and lights, each named like the node that carries it. */
const schema = z.object({
  cameras: z
    .array(seen.extend({ horizontalfov: z.number().optional(), lookat: vector.default([0, 0, -1]) }))
    .default([]),
  lights: z
    .array(
      seen.extend({
        type: z.number(),
        diffusecolor: vector,
        direction: vector.default([0, 0, -1]),
        angleinnercone: z.number().default(0),
        angleoutercone: z.number().default(0),
      }),
    )
    .default([]),
});

/** Numbers that are none are written as such, which makes the text no JSON. */
function parsed(json: string): unknown {
  try {
    return JSON.parse(json);
  } catch {
    return null;
  }
}

const KINDS: Record<number, Light['kind']> = { 1: 'sun', 2: 'bulb', 3: 'spot', 5: 'panel' };
/** Radians below which the angle of a camera is one that the converter made up. */
const NARROWEST = 0.015;
/** Millimetres ahead at which a camera or light that names no target looks. */
const AHEAD = 1000;

/**
 * Cameras and lights of a converted file, which the converter leaves out of the GLB and tells in its own form. Their brightness
 * has no unit: a light of 1 gets the power of a new one.
 * @param json the converter's text
 * @param model read from the GLB of the same file, its nodes under their names
 * @param unit millimetres that a length of 1 in the file is
 */
export function readForeignAlong(
  json: string,
  model: Pick<Model, 'nodes'>,
  unit: number,
): Pick<ModelAlong, 'cameras' | 'lights'> {
  const found = schema.safeParse(parsed(json));
  if (!found.success) return { cameras: [], lights: [] };
  const world = modelTransforms(model);
  const numbers = new Map(model.nodes.map(({ name }, k) => [name, k]));
  const place = ({ name, position }: z.infer<typeof seen>, direction: Vector) => {
    const node = numbers.get(name);
    if (node === undefined || !(length(direction) > 0)) return null;
    const m = world[node]!;
    const millimetres = Math.hypot(m[0], m[4], m[8]) * unit || 1;
    const ahead = scale(direction, AHEAD / millimetres / length(direction));
    return { node, name, position, target: add(position, ahead) };
  };
  return {
    cameras: found.data.cameras.flatMap((camera) => {
      const placed = place(camera, camera.lookat);
      if (!placed) return [];
      const angle = camera.horizontalfov ?? 0;
      const wide = Math.tan(angle / 2);
      const values: Partial<Camera> =
        angle > NARROWEST && wide > 0
          ? { focalLength: Math.min(2000, Math.max(4, newCamera().sensorWidth / 2 / wide)) }
          : {};
      return [{ ...placed, values }];
    }),
    lights: found.data.lights.flatMap((light) => {
      const kind = KINDS[light.type];
      const placed = place(light, light.direction);
      const bright = Math.max(...light.diffusecolor);
      if (!kind || !placed || !(bright > 0)) return [];
      const tint = light.diffusecolor.map((v) => Math.max(0, v / bright)) as [number, number, number];
      const values: Partial<Light> & Pick<Light, 'kind'> = {
        kind,
        tint,
        power: Math.min(1e9, newLight(kind).power * bright),
      };
      if (kind === 'spot' && light.angleoutercone > 0) {
        values.coneAngle = Math.min(3.1, Math.max(0.01, light.angleoutercone));
        values.penumbra = Math.min(1, Math.max(0, 1 - light.angleinnercone / light.angleoutercone));
      }
      return [{ ...placed, values }];
    }),
  };
}
