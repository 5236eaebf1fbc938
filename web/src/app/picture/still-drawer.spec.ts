import * as THREE from 'three';
import { beforeEach, describe, expect, it, vi, type MockInstance } from 'vitest';
import { boundsOfPositions, pieceMesh } from '@zippy/core/geometry';
import { evaluate } from '@zippy/core/motion';
import { eventually } from '../../testing/mount';
import { sampleDocument } from '../../testing/studioBed';
import { GivenGeometries } from '../meshes/drawing-portions';
import type { MeshLibrary } from '../meshes/mesh-library';
import { PartMeshes } from '../meshes/part-meshes';
import { LiveMaterials, LiveTextures } from './live/live-materials';
import { LiveScene, type LiveSet } from './live/live-scene';
import { SketchMeshes } from './sketch-meshes';
import { StillDrawer } from './still-drawer';

const box = pieceMesh({ kind: 'box', width: 20, height: 20, depth: 20, bevel: 0 });
/** One that fills a portion. */
const large = { ...box, indices: new Uint32Array(2_000_000) };
const LOOK: LiveSet = { pictures: {}, look: sampleDocument().look, painted: null, paintedBehind: null };

let painted: Uint8ClampedArray;
let paint: MockInstance;
let drawn: { parts: string[]; background: boolean; floor: boolean }[];
let drawer: StillDrawer;
const frame = () => {
  const document = sampleDocument();
  return evaluate(document, document.shots['one']!, 1);
};

beforeEach(async () => {
  drawn = [];
  // The page of the tests has no canvas: what would be painted is kept.
  paint = vi.spyOn(HTMLCanvasElement.prototype, 'getContext').mockReturnValue({
    createImageData: (width: number, height: number) => ({ data: new Uint8ClampedArray(width * height * 4) }),
    putImageData: ({ data }: ImageData) => void (painted = data),
  } as never);
  vi.spyOn(HTMLCanvasElement.prototype, 'toDataURL').mockReturnValue('data:image/webp;base64,');
  const renderer = {
    setRenderTarget: vi.fn(),
    clear: vi.fn(),
    render(scene: THREE.Object3D) {
      // Developing draws one surface over all.
      if (!(scene instanceof THREE.Scene)) return;
      const parts: string[] = [];
      let floor = false;
      scene.traverseVisible((each) => {
        if (each.name) parts.push(each.name);
        else if (each instanceof THREE.Mesh && each.renderOrder === 0) floor = true;
      });
      drawn.push({ parts, background: live.backdrop.mesh.visible, floor });
    },
    async readRenderTargetPixelsAsync(
      _: unknown,
      x: number,
      y: number,
      width: number,
      height: number,
      pixels: Uint8Array,
    ) {
      // The lowest row is white, which graphics memory gives first; of the others, each second pixel is.
      for (let k = 0; k < width * height * 4; k++) pixels[k] = k < width * 4 || (k >> 2) % 2 ? 255 : 0;
      expect([x, y]).toEqual([0, 0]);
    },
  };
  const load = async () => {
    const meshes = [large, large, box];
    return { meshes, bounds: meshes.map(() => boundsOfPositions(box.positions)) };
  };
  const more = vi.fn();
  const news = { meshes: vi.fn(), model: vi.fn(), more, failure: vi.fn() };
  const meshes = new SketchMeshes({ load, trees: new Map() } as unknown as MeshLibrary, news);
  const live = new LiveScene(vi.fn());
  const materials = new LiveMaterials(live.rig, new LiveTextures(vi.fn()));
  const parts = new PartMeshes(meshes, materials, new GivenGeometries());
  for (const { mesh } of frame().parts) meshes.of(mesh);
  await eventually(() => expect(more).toHaveBeenCalled());
  drawer = new StillDrawer(renderer as never, live, parts, false);
});

describe('a still', () => {
  it('is drawn a portion at a time over the floor, each part once', async () => {
    expect(await drawer.draw(frame(), LOOK, 2, 10)).toMatch(/^data:/);
    expect(drawn).toEqual([
      { parts: [], background: true, floor: true },
      { parts: ['shell'], background: false, floor: false },
      { parts: ['knob'], background: false, floor: false },
      { parts: ['lid'], background: false, floor: false },
    ]);
  });

  it('waits for the picture that fills its frame', async () => {
    let arrive!: (texture: THREE.Texture) => void;
    vi.spyOn(THREE.TextureLoader.prototype, 'load').mockImplementation((_, come) => {
      arrive = come as typeof arrive;
      return new THREE.Texture();
    });
    const made = frame();
    made.set = { ...made.set, behind: { ...made.set.behind, kind: 'plate', plate: 'p' } };
    const pictures = { p: { hash: 'a'.repeat(64), deep: null, name: 'p' } } as unknown as LiveSet['pictures'];
    const still = drawer.draw(made, { ...LOOK, pictures }, 2, 10);
    await vi.waitFor(() => expect(arrive).toBeDefined());
    expect(drawn).toEqual([]);
    arrive(new THREE.Texture());
    expect(await still).toMatch(/^data:/);
  });

  it('draws what is of the plate before all that could stand behind it', async () => {
    const made = frame();
    made.parts = made.parts.map((part) => (part.node === 'lid' ? { ...part, seen: { ...part.seen, ofPlate: 'hides' } } : part)); // prettier-ignore
    await drawer.draw(made, LOOK, 2, 10);
    expect(drawn.map(({ parts }) => parts.join())).toEqual(['', 'shell,lid', 'knob']);
  });

  it('stands upright, with several drawn pixels in each of its own', async () => {
    await drawer.draw(frame(), LOOK, 2, 10);
    expect(painted.length).toBe(20 * 10 * 4);
    // Kept where it can be read without waiting for the graphics card.
    expect(paint).toHaveBeenCalledWith('2d', { willReadFrequently: true });
    // 4 rows of 4 pixels: half of them white, and of the lowest row all.
    expect([painted[0], painted.at(-1)]).toEqual([128, Math.round((255 * (4 + 6)) / 16)]);
  });

  it('gives way to one that is asked for later', async () => {
    const first = drawer.draw(frame(), LOOK, 2, 10);
    const second = drawer.draw(frame(), LOOK, 2, 10);
    expect([await first, await second]).toEqual([null, 'data:image/webp;base64,']);
    expect(drawn.filter(({ parts }) => parts.includes('shell'))).toHaveLength(1);
  });

  it('is none without a camera', async () => {
    expect(await drawer.draw({ ...frame(), camera: null }, LOOK, 2, 10)).toBeNull();
    expect(drawn).toEqual([]);
  });
});
