// Renders every ready set with products of several sizes, colours and shines: docs/screenshots/sets.png, and what is burnt or lost. With
// `surprises` and a file it renders made up sets instead.
import sharp, { type OverlayOptions } from 'sharp';
import { Darkroom, filmFrame } from '@zippy/core/develop';
import { newCamera, newDocument, newFinish, newNode, type Finish, type ProjectDocument } from '@zippy/core/document';
import { evaluate } from '@zippy/core/motion';
import { luminance } from '@zippy/core/optics';
import { applySet, READY_SETS, surpriseSet, type ReadySet } from '@zippy/core/sets';
import { defaultRenderSettings, renderTiles, resetTiles, SceneMemory } from '@zippy/core/trace';
import { createKernelMemory, startKernel } from '@zippy/kernel/host';
import { compileKernel } from '../../server/src/workers/compileKernel';

const [WIDTH, HEIGHT, SAMPLES, LABEL] = [192, 108, 24, 16];

/** Stand-ins for products. Sizes in mm. */
const PRODUCTS: readonly { name: string; size: number; finish: Partial<Finish> }[] = [
  { name: 'white', size: 2, finish: { baseColor: [0.8, 0.8, 0.8], specularRoughness: 0.4 } },
  { name: 'black gloss', size: 200, finish: { baseColor: [0.01, 0.01, 0.01], specularRoughness: 0.08 } },
  { name: 'steel', size: 200, finish: { baseColor: [0.56, 0.55, 0.53], baseMetalness: 1, specularRoughness: 0.22 } },
  { name: 'red', size: 900, finish: { baseColor: [0.5, 0.03, 0.02], specularRoughness: 0.3 } },
  { name: 'glass', size: 120, finish: { transmissionWeight: 1, specularRoughness: 0, specularIor: 1.5 } },
  { name: 'blue', size: 20_000, finish: { baseColor: [0.03, 0.12, 0.4], specularRoughness: 0.5, coatWeight: 1 } },
];

/** A block with a ball on it and a shaft beside, in proportion to its size. */
function project({ size, finish }: (typeof PRODUCTS)[number]): ProjectDocument {
  const document = newDocument('Sheet');
  document.finishes['own'] = newFinish({ ...finish, id: 'own' });
  const s = size;
  const part = (id: string, piece: object, at: [number, number, number]) =>
    (document.nodes[id] = newNode({ id, kind: 'part', mesh: { piece: piece as never }, finish: 'own', position: at }));
  part('block', { kind: 'box', width: s * 0.9, height: s * 0.3, depth: s * 0.6, bevel: s * 0.03 }, [0, 0, 0]);
  part('ball', { kind: 'sphere', radius: s * 0.24 }, [-s * 0.16, s * 0.3, 0]);
  part('shaft', { kind: 'cylinder', radius: s * 0.12, height: s * 0.55, bevel: s * 0.02 }, [s * 0.26, s * 0.3, 0]);
  const [camera] = Object.keys(document.cameras);
  document.cameras[camera!] = newCamera({
    id: camera!,
    position: [s * 0.9, s * 1.15, s * 2.9],
    target: [0, s * 0.4, 0],
    focalLength: 50,
    fStop: 0,
  });
  return document;
}

const module = await compileKernel();
const memory = createKernelMemory();
const kernel = await startKernel(module, memory, 0);
const darkroom = await Darkroom.open(module);
const none = () => Promise.reject(new Error('no ready set wears pictures'));
const scene = new SceneMemory(kernel, memory, { mesh: none, sky: none, picture: none });

async function render(document: ProjectDocument): Promise<{ pixels: Uint8Array; matte: (k: number) => boolean }> {
  const state = evaluate(document, Object.values(document.shots)[0]!, 1);
  const settings = {
    ...defaultRenderSettings(),
    width: WIDTH,
    height: HEIGHT,
    samples: SAMPLES,
    depth: 8,
    speckLimit: 8,
  };
  const draw = async (frameState: typeof state) => {
    const frame = await scene.load(frameState, settings);
    scene.setPass(frame, SAMPLES);
    resetTiles(memory);
    renderTiles(kernel, memory, frame, false);
    return filmFrame({ ...frame, film: scene.readFilm(frame) });
  };
  const pixels = darkroom.develop(await draw(state), { ...document.look, denoise: 1 });
  return { pixels, matte: silhouette(document) };
}

/** Whether a pixel shows the product, by its outline as a ball round each part: near enough to tell it from the ground. */
function silhouette(document: ProjectDocument): (k: number) => boolean {
  const size = document.nodes['block']!.mesh as unknown as { piece: { width: number } };
  const s = size.piece.width / 0.9;
  const [camera] = Object.values(document.cameras);
  const [ex, ey, ez] = camera!.position;
  const [tx, ty, tz] = camera!.target;
  const forward = [tx - ex, ty - ey, tz - ez];
  const length = Math.hypot(...forward);
  const [fx, fy, fz] = forward.map((v) => v / length) as [number, number, number];
  const flat = Math.hypot(fx, fz);
  const right = [-fz / flat, 0, fx / flat];
  const up = [(-fy * fx) / flat, flat, (-fy * fz) / flat];
  const half = camera!.sensorWidth / 2 / camera!.focalLength;
  const balls = [
    [0, 0.15, 0, 0.2],
    [-0.16, 0.54, 0, 0.22],
    [0.26, 0.55, 0, 0.12],
  ].map(([x, y, z, r]) => {
    const d = [x! * s - ex, y! * s - ey, z! * s - ez];
    const along = d[0]! * fx + d[1]! * fy + d[2]! * fz;
    const across = (axis: number[]) => (d[0]! * axis[0]! + d[1]! * axis[1]! + d[2]! * axis[2]!) / along / half;
    return {
      x: (0.5 + across(right) / 2) * WIDTH,
      y: HEIGHT / 2 - (across(up) / 2) * WIDTH,
      r: ((r! * s) / along / half / 2) * WIDTH,
    };
  });
  return (k) =>
    balls.some(({ x, y, r }) => Math.hypot((k % WIDTH) + 0.5 - x, Math.floor(k / WIDTH) + 0.5 - y) < r * 0.9);
}

const [, , what, file] = process.argv;
const SURPRISES = 16;
type Made = { name: string; of(product: (typeof PRODUCTS)[number]): ReadySet };
const brightness = ({ finish }: (typeof PRODUCTS)[number]): number =>
  finish.transmissionWeight ? 0.5 : luminance(finish.baseColor ?? [0.5, 0.5, 0.5]);
const sets: Made[] =
  what === 'surprises'
    ? Array.from({ length: SURPRISES }, (_, k) => ({
        name: `Surprise ${k + 1}`,
        of: (product) => surpriseSet(k + 1, brightness(product)),
      }))
    : READY_SETS.map((ready) => ({ name: ready.name, of: () => ready }));

const tiles: OverlayOptions[] = [];
const rows: string[] = [];
for (const [row, ready] of sets.entries()) {
  for (const [column, product] of PRODUCTS.entries()) {
    const document = project(product);
    const center: [number, number, number] = [0, product.size * 0.42, 0];
    applySet(document, ready.of(product), {
      center,
      size: product.size,
      eye: [product.size * 0.9, product.size * 1.15, product.size * 2.9],
      floor: 0,
    });
    const { pixels, matte } = await render(document);
    let [burnt, own, ground, owns, grounds, most] = [0, 0, 0, 0, 0, 0];
    for (let k = 0; k < WIDTH * HEIGHT; k++) {
      const [r, g, b] = pixels.subarray(4 * k, 4 * k + 3) as unknown as [number, number, number];
      const light = 0.2126 * r + 0.7152 * g + 0.0722 * b;
      if (r >= 254 && g >= 254 && b >= 254) burnt++;
      if (matte(k)) {
        own += light;
        owns++;
        most = Math.max(most, light);
      } else {
        ground += light;
        grounds++;
      }
    }
    const share = (100 * burnt) / (WIDTH * HEIGHT);
    rows.push(
      `${ready.name} / ${product.name}: ${share.toFixed(2)} % burnt, product ${(own / owns).toFixed(0)} (to ${most.toFixed(0)}), ground ${(ground / grounds).toFixed(0)}`,
    );
    const input = await sharp(pixels, { raw: { width: WIDTH, height: HEIGHT, channels: 4 } })
      .flatten({ background: '#2a2b2d' })
      .png()
      .toBuffer();
    tiles.push({ input, left: column * WIDTH, top: row * (HEIGHT + LABEL) });
  }
  const text = `<svg width="${WIDTH * 3}" height="${LABEL}"><text x="4" y="12" font-size="11" font-family="sans-serif" fill="#ddd">${ready.name}</text></svg>`;
  tiles.push({ input: Buffer.from(text), left: 0, top: row * (HEIGHT + LABEL) + HEIGHT });
}
const out = file ?? new URL('../../docs/screenshots/sets.png', import.meta.url).pathname;
await sharp({
  create: {
    width: WIDTH * PRODUCTS.length,
    height: sets.length * (HEIGHT + LABEL),
    channels: 3,
    background: '#1d1e20',
  },
})
  .composite(tiles)
  .png({ palette: true, quality: 90 })
  .toFile(out);
console.log(rows.join('\n'));
