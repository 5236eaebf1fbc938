import { describe, expect, it } from 'vitest';
import type { Finish } from '../document';
import { composeTransform, quaternionAbout, type Transform, type TriangleMesh } from '../geometry';
import { luminance } from '../optics';
import { box, quad, renderScene } from './testing/renderState';

// Tried by breaking the kernel on purpose: ends of shadow rays that are not lifted, offsets of half the size, and offsets that forget
// either the way into the part's own space or the size of the triangle each fail a test here.

const black: Partial<Finish> = { baseColor: [0, 0, 0], specularWeight: 0 };
const white: Partial<Finish> = { baseColor: [1, 1, 1], specularWeight: 0 };
type V = [number, number, number];

/** Flat triangles with corners of their own, wound outwards about the origin. */
function faceted(triangles: [V, V, V][]): TriangleMesh {
  const corners = triangles.flatMap(([a, b, c]) => {
    const [u, v] = [b.map((p, k) => p - a[k]!), c.map((p, k) => p - a[k]!)] as [V, V];
    const n: V = [u[1] * v[2] - u[2] * v[1], u[2] * v[0] - u[0] * v[2], u[0] * v[1] - u[1] * v[0]];
    const out = n[0] * (a[0] + b[0] + c[0]) + n[1] * (a[1] + b[1] + c[1]) + n[2] * (a[2] + b[2] + c[2]) > 0;
    const unit = n.map((p) => (out ? p : -p) / Math.hypot(...n)) as V;
    return (out ? [a, b, c] : [a, c, b]).map((place) => ({ place, unit }));
  });
  return {
    positions: new Float32Array(corners.flatMap(({ place }) => place)),
    normals: new Float32Array(corners.flatMap(({ unit }) => unit)),
    indices: new Uint32Array(corners.map((_, k) => k)),
  };
}

/** A double cone of splinters: as many as `sides`, as long as the body. */
function splinters(radius: number, half: number, sides: number): TriangleMesh {
  const rim = (k: number): V => [
    radius * Math.cos((2 * Math.PI * k) / sides),
    radius * Math.sin((2 * Math.PI * k) / sides),
    0,
  ];
  return faceted(
    Array.from({ length: sides }, (_, k) => k).flatMap((k): [V, V, V][] => [
      [rim(k), rim(k + 1), [0, 0, half]],
      [rim(k), rim(k + 1), [0, 0, -half]],
    ]),
  );
}

describe('a ray that leaves a convex body', () => {
  const turned = quaternionAbout([0.48, 0.6, 0.64], 0.9);
  const bodies: [string, TriangleMesh][] = [
    ['a box', box(20, 14, 9)],
    ['a double cone of splinters', splinters(12, 10, 400)],
    ['a plate of 4 m', box(4000, 3, 4000)],
  ];
  const places: [string, Transform][] = [
    ['at the origin', composeTransform([0, 0, 0], turned, [1, 1, 1])],
    ['3 m away', composeTransform([3000, -1700, 2600], turned, [1, 1, 1])],
    ['a tenth the size, 3 m away', composeTransform([3000, -1700, 2600], turned, [0.1, 0.1, 0.1])],
    ['ten times the size', composeTransform([40, 5, -3], turned, [10, 10, 10])],
    ['stretched unevenly, 20 m away', composeTransform([-20_000, 800, 9000], turned, [3, 0.2, 1])],
  ];
  const cases = bodies.flatMap(([body, mesh]) =>
    places.map(([place, transform]) => [body, place, mesh, transform] as const),
  );
  it.each(cases)('never meets it again: %s %s', async (_, __, mesh, transform) => {
    const [x, y, z] = [transform[3], transform[7], transform[11]];
    const size = 40 * Math.max(...[0, 1, 2].map((c) => Math.hypot(...[0, 4, 8].map((k) => transform[k + c]!))));
    const film = await renderScene(
      {
        parts: [{ mesh, transform, finish: white }],
        camera: { position: [x + size, y + size, z + 2 * size], target: [x, y, z], focalLength: 120 },
      },
      { width: 48, height: 48, samples: 64, depth: 1, layers: ['occlusion'] },
    );
    const { floats, layers } = film.frame;
    let [met, open] = [0, 0];
    for (let at = 0; at < film.film.length; at += floats) {
      if (film.film[at + 12]! < 1) continue;
      met++;
      open += film.film[at + layers.occlusion!]!;
    }
    expect(met).toBeGreaterThan(40);
    expect(open).toBe(met);
  });
});

/** Irradiance on a floor (z = 0, facing +z) under a polygon of radiance 1 (Lambert, Photometria, 1760). */
function lambert(corners: V[], p: V): number {
  const rays = corners.map((corner) => {
    const d = corner.map((v, k) => v - p[k]!) as V;
    const size = Math.hypot(...d);
    return d.map((v) => v / size) as V;
  });
  let sum = 0;
  rays.forEach((a, k) => {
    const b = rays[(k + 1) % rays.length]!;
    const cross: V = [a[1] * b[2] - a[2] * b[1], a[2] * b[0] - a[0] * b[2], a[0] * b[1] - a[1] * b[0]];
    const size = Math.hypot(...cross);
    if (size > 0) sum += (Math.atan2(size, a[0] * b[0] + a[1] * b[1] + a[2] * b[2]) * cross[2]) / size;
  });
  // Round the polygon as its shining side sees it; from behind it gives nothing.
  return Math.max(0, -sum / 2);
}

describe('a luminous part over a floor, block by block by the formula of Lambert', () => {
  const glowing: Partial<Finish> = { ...black, emissionUnit: 'nit', emissionPower: 683, emissionKelvin: 6500 };
  const sheet = (angle: number) => ({ name: `a sheet at ${angle}°`, mesh: box(10, 10, 0.1), angle });
  const bodies = [sheet(0), sheet(30), sheet(60), { name: 'a box', mesh: box(10, 14, 8), angle: 0 }];
  const BLOCKS = 12;
  /** Steps of the integral over a block: where the lamp begins to be seen from behind, its light changes fast. */
  const STEPS = 64;
  const tent = (u: number) => (u < 0.5 ? Math.sqrt(2 * u) - 1 : 1 - Math.sqrt(2 - 2 * u));

  /** Mean irradiance of every block of a floor of 300 mm, 55 mm below the lamp. */
  function expectedOf({ mesh, angle }: (typeof bodies)[number]): number[] {
    const turn = (angle * Math.PI) / 180;
    const turned = ([x, y, z]: V): V => [
      x * Math.cos(turn) + z * Math.sin(turn),
      y,
      z * Math.cos(turn) - x * Math.sin(turn),
    ];
    const at = (values: Float32Array, k: number) => turned([...values.subarray(k, k + 3)] as V);
    const faces = Array.from({ length: mesh.positions.length / 12 }, (_, face) => {
      const corners = [0, 3, 6, 9].map((k) => at(mesh.positions, face * 12 + k));
      const [a, b, c] = corners as [V, V, V];
      const [u, v] = [b.map((p, k) => p - a[k]!), c.map((p, k) => p - a[k]!)] as [V, V];
      const wound: V = [u[1] * v[2] - u[2] * v[1], u[2] * v[0] - u[0] * v[2], u[0] * v[1] - u[1] * v[0]];
      const outwards = at(mesh.normals, face * 12).reduce((sum, p, k) => sum + p * wound[k]!, 0) > 0;
      return (outwards ? corners : corners.reverse()).map(([x, y, z]): V => [x, y, z + 55]);
    });
    return Array.from({ length: BLOCKS ** 2 }, (_, block) => {
      let sum = 0;
      for (let j = 0; j < STEPS; j++) {
        for (let i = 0; i < STEPS; i++) {
          const x = (((block % BLOCKS) + 0.5 + tent((i + 0.5) / STEPS)) / BLOCKS - 0.5) * 300;
          const y = (0.5 - (Math.floor(block / BLOCKS) + 0.5 + tent((j + 0.5) / STEPS)) / BLOCKS) * 300;
          for (const face of faces) sum += lambert(face, [x, y, 0]);
        }
      }
      return sum / STEPS ** 2;
    });
  }

  /** Every body meets two of these and every one of these two bodies; with `EVERY` in the environment all meet all. */
  const placed = [
    [1, 0],
    [0.1, 3000],
    [1, 3000],
    [10, 3000],
  ] as const;

  describe.each(bodies.map((body, index) => ({ ...body, index })))('$name', ({ index, ...body }) => {
    const expected = expectedOf(body);
    it.each(placed.filter((_, k) => process.env['EVERY'] || (k + index) % 4 < 2))(
      'at scale %f, moved by %f mm',
      async (scale, away) => {
        const [x, y, z] = [away, away / 2, away / 3];
        const lamp = quaternionAbout([0, 1, 0], (body.angle * Math.PI) / 180);
        const film = await renderScene(
          {
            parts: [
              {
                mesh: quad(600),
                finish: white,
                transform: composeTransform([x, y, z], [0, 0, 0, 1], [scale, scale, scale]),
              },
              {
                mesh: body.mesh,
                finish: glowing,
                transform: composeTransform([x, y, z + 55 * scale], lamp, [scale, scale, scale]),
              },
            ],
            // Below the lamp, so that it hides no block.
            camera: {
              position: [x, y, z + 40 * scale],
              target: [x, y, z],
              projection: 'orthographic',
              orthographicWidth: 300 * scale,
            },
          },
          { width: BLOCKS, height: BLOCKS, samples: 32_768, depth: 1 },
        );
        for (const [k, each] of expected.entries()) {
          const light = luminance(film.pixel(k % BLOCKS, Math.floor(k / BLOCKS)));
          // What the film says of its own noise: where the lamp begins to be seen from behind, few samples carry all light.
          const noise = film.film[k * film.frame.floats + 13]! / light;
          expect(noise).toBeLessThan(0.02);
          expect(Math.abs((light * Math.PI) / each - 1)).toBeLessThan(0.01 + noise);
        }
      },
    );
  });
});
