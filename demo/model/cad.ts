import { createRequire } from 'node:module';
import { readFileSync } from 'node:fs';
import * as replicad from 'replicad';

const require = createRequire(import.meta.url);

/** Starts the CAD kernel; call once. */
export async function startCad(): Promise<void> {
  const { default: start } = (await import('replicad-opencascadejs')) as unknown as {
    default: (options: object) => Promise<never>;
  };
  replicad.setOC(await start({ wasmBinary: readFileSync(require.resolve('replicad-opencascadejs/wasm')) }));
}

export type Solid = replicad.Shape3D;
export type Point = [number, number, number];

/** A rounded slab that faces the viewer: `x`, `z` its middle, from `back` forwards (towards -y) by `depth`. */
export function slab(
  x: number,
  z: number,
  width: number,
  height: number,
  radius: number,
  back: number,
  depth: number,
): Solid {
  return replicad
    .drawRoundedRectangle(width, height, radius)
    .translate(x, z)
    .sketchOnPlane('XZ', [0, back, 0])
    .extrude(depth) as Solid;
}

/** A cylinder that faces the viewer. */
export function disc(x: number, z: number, radius: number, back: number, depth: number): Solid {
  return replicad.makeCylinder(radius, depth, [x, back, z], [0, -1, 0]) as Solid;
}

/** A cylinder between two heights, or along any direction. */
export const rod = (radius: number, length: number, from: Point, direction: Point): Solid =>
  replicad.makeCylinder(radius, length, from, direction) as Solid;

export const ball = (radius: number, at: Point): Solid => replicad.makeSphere(radius).translate(at) as Solid;

export const block = (from: Point, to: Point): Solid => replicad.makeBox(from, to) as Solid;

/** A slab with round holes, made as one face with inner wires: quicker and cleaner than cutting each hole. */
export function perforatedSlab(
  outline: replicad.Drawing,
  holes: [number, number][],
  radius: number,
  back: number,
  depth: number,
): Solid {
  const plane = new replicad.Plane([0, back, 0], [1, 0, 0], [0, -1, 0]);
  const face = (outline.sketchOnPlane(plane) as replicad.Sketch).face();
  const wires = holes.map(([x, z]) => replicad.assembleWire([replicad.makeCircle(radius, [x, back, z], [0, -1, 0])]));
  return replicad.basicFaceExtrusion(
    replicad.addHolesInFace(face, wires),
    new replicad.Vector([0, -depth, 0]),
  ) as Solid;
}

/** A knurled disc that faces the viewer: `teeth` shallow points round its rim. */
export function knurled(
  x: number,
  z: number,
  radius: number,
  teeth: number,
  bite: number,
  back: number,
  depth: number,
): Solid {
  const at = (k: number, r: number): [number, number] => {
    const angle = (Math.PI * k) / teeth;
    return [x + r * Math.cos(angle), z + r * Math.sin(angle)];
  };
  let pen = replicad.draw(at(0, radius));
  for (let k = 1; k < 2 * teeth; k++) pen = pen.lineTo(at(k, k % 2 ? radius - bite : radius));
  return pen.close().sketchOnPlane('XZ', [0, back, 0]).extrude(depth) as Solid;
}
