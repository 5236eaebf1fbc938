import {
  BEHIND_COLOR,
  BEHIND_SURROUNDINGS,
  BEHIND_TRANSPARENT,
  FILM_FLOATS,
  FINISH_SIZE,
  INSTANCE_EMISSION,
  INSTANCE_FINISH,
  INSTANCE_LIGHT,
  INSTANCE_MESH,
  INSTANCE_PART,
  INSTANCE_SIZE,
  INSTANCE_TO_WORLD,
  KIND_BULB,
  KIND_PANEL,
  KIND_PART,
  KIND_SURROUNDINGS,
  LIGHT_AREA,
  LIGHT_CAMERA,
  LIGHT_EMISSION,
  LIGHT_INSTANCE,
  LIGHT_KIND,
  LIGHT_NORMAL,
  LIGHT_POSITION,
  LIGHT_RADIUS,
  LIGHT_SIZE,
  LIGHT_WEIGHT,
  LIGHT_X,
  LIGHT_Y,
  NODE_SIZE,
  SCENE_BEHIND,
  SCENE_BEHIND_COLOR,
  SCENE_CAMERA_FORWARD,
  SCENE_CAMERA_POSITION,
  SCENE_CAMERA_RIGHT,
  SCENE_CAMERA_UP,
  SCENE_DEPTH,
  SCENE_FILM,
  SCENE_FINISH_COUNT,
  SCENE_FINISHES,
  SCENE_FIRST_SAMPLE,
  SCENE_FOCUS,
  SCENE_HEIGHT,
  SCENE_INSTANCE_COUNT,
  SCENE_INSTANCES,
  SCENE_LENS_RADIUS,
  SCENE_LIGHT_COUNT,
  SCENE_LIGHTS,
  SCENE_ROOT,
  SCENE_SAMPLES,
  SCENE_SEED,
  SCENE_SIZE,
  SCENE_SKY,
  SCENE_SKY_BRIGHTNESS,
  SCENE_SKY_TURN,
  SCENE_SPECK,
  SCENE_TAN_X,
  SCENE_TAN_Y,
  SCENE_WIDTH,
} from '@zippy/kernel/layout';
import { newFinish, type Camera, type Finish, type Light } from '../document';
import {
  composeTransform,
  corners,
  determinant,
  floorMesh,
  frameAlong,
  invertTransform,
  isEmpty,
  quaternionAbout,
  rotateVector,
  subtract,
  sweepMesh,
  transformBounds,
  type Transform,
  type TriangleMesh,
} from '../geometry';
import {
  bulbRadiance,
  lambertianRadiance,
  lensRadius,
  lightColor,
  LUMENS_PER_WATT,
  luminance,
  tanHalfWidth,
} from '../optics';
import type { FrameState } from '../motion';
import { KernelHeap, type KernelExports } from '@zippy/kernel/host';
import { loadMesh, type LoadedMesh } from './meshes';
import { averageFilm } from './film';
import { floorFinish, writeFinish } from './finishes';
import type { RenderSettings } from './settings';
import { loadSky, plainSky, type LoadedSky, type SkyPicture } from './sky';

/** Where meshes and surroundings come from; asked for once each. */
export interface SceneSource {
  mesh(asset: string, index: number): Promise<TriangleMesh>;
  /** The surroundings picture of the frame; called only where the frame wants one. */
  sky(picture: string): Promise<SkyPicture>;
}

/** A frame in kernel memory, ready to be rendered by any worker on it. */
export interface LoadedFrame {
  scene: number;
  film: number;
  width: number;
  height: number;
}

interface Instance {
  mesh: LoadedMesh;
  transform: Transform;
  inverse: Transform;
  finish: number;
  emission: readonly [number, number, number];
  lumens: number;
}

/** Forget all meshes beyond this, rather than run out of room in the middle of a film. */
const FULL = 3_000_000_000;

/** Keeps meshes and surroundings in kernel memory from frame to frame and lays each frame's instances, lights and camera over them. */
export class SceneMemory {
  private readonly heap: KernelHeap;
  private readonly meshes = new Map<string, LoadedMesh>();
  private readonly skies = new Map<string, LoadedSky>();
  private kept: number;

  constructor(
    private readonly kernel: KernelExports,
    memory: WebAssembly.Memory,
    private readonly source: SceneSource,
  ) {
    this.heap = new KernelHeap(memory);
    this.kept = this.heap.top;
    this.empty = this.kept;
  }
  private readonly empty: number;

  /** Brings a frame into memory. The film is cleared to nothing rendered. */
  async load(state: FrameState, settings: RenderSettings): Promise<LoadedFrame> {
    if (this.kept > FULL) {
      this.meshes.clear();
      this.skies.clear();
      this.kept = this.empty;
    }
    this.heap.shrinkTo(this.kept);
    const finishIds = Object.keys(state.finishes).sort();
    const finishes = [newFinish({ id: 'none' }), floorFinish(state), ...finishIds.map((id) => state.finishes[id]!)];
    const instances: Instance[] = [];
    for (const part of state.parts) {
      const inverse = invertTransform(part.transform);
      if (!inverse) continue;
      const { asset, index } = part.mesh;
      const mesh = await this.keepMesh(`${asset}/${index}`, () => this.source.mesh(asset, index));
      if (isEmpty(mesh.bounds)) continue;
      const finish = part.finish === null ? 0 : finishIds.indexOf(part.finish) + 2;
      const worn = finishes[finish === 1 ? 0 : finish]!;
      const lumens = worn.emissionLumens * part.glow;
      const area = mesh.area * Math.abs(determinant(part.transform)) ** (2 / 3);
      const color = lightColor(worn.emissionKelvin, worn.emissionColor);
      const radiance = lambertianRadiance(lumens, area);
      instances.push({
        mesh,
        transform: part.transform,
        inverse,
        finish: finish === 1 ? 0 : finish,
        emission: [color[0] * radiance, color[1] * radiance, color[2] * radiance],
        lumens: luminance(color) > 0 ? lumens : 0,
      });
    }
    const floor = await this.floorInstance(state);
    if (floor) instances.push(floor);
    const sky = await this.keepSky(state);
    this.kept = this.heap.top;
    return this.writeFrame(state, settings, instances, finishes, sky);
  }

  private async keepMesh(name: string, read: () => Promise<TriangleMesh>): Promise<LoadedMesh> {
    const known = this.meshes.get(name);
    if (known) return known;
    const loaded = loadMesh(this.kernel, this.heap, await read());
    this.meshes.set(name, loaded);
    return loaded;
  }

  private async floorInstance({ set: { floor } }: FrameState): Promise<Instance | null> {
    if (floor.kind === 'none') return null;
    const name = `${floor.kind}/${floor.size}/${floor.depth}`;
    const mesh = await this.keepMesh(name, async () =>
      floor.kind === 'floor' ? floorMesh(floor.size) : sweepMesh(floor.size, floor.depth),
    );
    const transform = composeTransform([0, 0, 0], quaternionAbout([0, 1, 0], floor.turn), [1, 1, 1]);
    return { mesh, transform, inverse: invertTransform(transform)!, finish: 1, emission: [0, 0, 0], lumens: 0 };
  }

  private async keepSky({ set: { surroundings } }: FrameState): Promise<LoadedSky> {
    const { kind, picture, color } = surroundings;
    const name = kind === 'picture' && picture ? `picture/${picture}` : `color/${color.join()}`;
    const known = this.skies.get(name);
    if (known) return known;
    const sky = kind === 'picture' && picture ? await this.source.sky(picture) : plainSky(color);
    const loaded = loadSky(this.kernel, this.heap, sky);
    this.skies.set(name, loaded);
    return loaded;
  }

  private writeFrame(
    state: FrameState,
    settings: RenderSettings,
    instances: Instance[],
    finishes: Finish[],
    sky: LoadedSky,
  ): LoadedFrame {
    const { heap, kernel } = this;
    const emissive = instances.flatMap((instance, index) => (instance.lumens > 0 ? [{ instance, index }] : []));
    const lightCount = state.lights.length + emissive.length + 1;
    const scene = heap.allocate(SCENE_SIZE);
    const instancesAt = heap.allocate(Math.max(1, instances.length) * INSTANCE_SIZE);
    const finishesAt = heap.allocate(finishes.length * FINISH_SIZE);
    const lightsAt = heap.allocate(lightCount * LIGHT_SIZE);
    const boxes = heap.allocate(Math.max(1, instances.length) * 24);
    const nodes = heap.allocate((instances.length + 64) * NODE_SIZE);
    const film = heap.allocate(settings.width * settings.height * FILM_FLOATS * 4);
    const scratch = heap.allocate(kernel.treeScratchSize(instances.length));
    const { u32, i32, f32 } = heap.views();
    f32.fill(0, film / 4, film / 4 + settings.width * settings.height * FILM_FLOATS);

    finishes.forEach((finish, k) => writeFinish(f32, finishesAt + k * FINISH_SIZE, finish));
    kernel.prepareFinishes(finishesAt, finishes.length);

    instances.forEach((instance, k) => {
      const at = instancesAt + k * INSTANCE_SIZE;
      f32.set(instance.inverse, at / 4);
      f32.set(instance.transform, (at + INSTANCE_TO_WORLD) / 4);
      u32[(at + INSTANCE_MESH) / 4] = instance.mesh.at;
      u32[(at + INSTANCE_FINISH) / 4] = instance.finish;
      u32[(at + INSTANCE_PART) / 4] = k + 1;
      i32[(at + INSTANCE_LIGHT) / 4] = -1;
      f32.set(instance.emission, (at + INSTANCE_EMISSION) / 4);
      const box = transformBounds(instance.mesh.bounds, instance.transform);
      // Rounding to 32 bits must not cut into a part.
      const slack = 1e-6 * Math.max(...box.low.map(Math.abs), ...box.high.map(Math.abs)) + 1e-6;
      f32.set(
        box.low.map((v) => v - slack),
        (boxes + k * 24) / 4,
      );
      f32.set(
        box.high.map((v) => v + slack),
        (boxes + k * 24 + 12) / 4,
      );
    });
    kernel.buildInstanceTree(boxes, instances.length, nodes, scratch);

    state.lights.forEach((light, k) => writeLight(f32, u32, lightsAt + k * LIGHT_SIZE, light));
    emissive.forEach(({ instance, index }, k) => {
      const light = state.lights.length + k;
      i32[(instancesAt + index * INSTANCE_SIZE + INSTANCE_LIGHT) / 4] = light;
      writePartLight(f32, u32, lightsAt + light * LIGHT_SIZE, instance, index);
    });
    const skyLight = lightsAt + (lightCount - 1) * LIGHT_SIZE;
    u32.fill(0, skyLight / 4, (skyLight + LIGHT_SIZE) / 4);
    u32[(skyLight + LIGHT_KIND) / 4] = KIND_SURROUNDINGS;
    f32[(skyLight + LIGHT_WEIGHT) / 4] = Math.PI * sky.mean * state.set.surroundings.brightness;

    const { surroundings, behind } = state.set;
    const word = (offset: number, value: number) => (u32[(scene + offset) / 4] = value);
    word(SCENE_INSTANCES, instancesAt);
    word(SCENE_INSTANCE_COUNT, instances.length);
    word(SCENE_ROOT, nodes);
    word(SCENE_FINISHES, finishesAt);
    word(SCENE_FINISH_COUNT, finishes.length);
    word(SCENE_LIGHTS, lightsAt);
    word(SCENE_LIGHT_COUNT, lightCount);
    word(SCENE_SKY, sky.at);
    word(
      SCENE_BEHIND,
      { surroundings: BEHIND_SURROUNDINGS, color: BEHIND_COLOR, transparent: BEHIND_TRANSPARENT }[behind.kind],
    );
    word(SCENE_FILM, film);
    word(SCENE_WIDTH, settings.width);
    word(SCENE_HEIGHT, settings.height);
    word(SCENE_FIRST_SAMPLE, 0);
    word(SCENE_SAMPLES, settings.samples);
    word(SCENE_SEED, settings.seed);
    word(SCENE_DEPTH, settings.depth);
    f32[(scene + SCENE_SPECK) / 4] = settings.speckLimit;
    f32[(scene + SCENE_SKY_TURN) / 4] = surroundings.turn;
    f32[(scene + SCENE_SKY_BRIGHTNESS) / 4] = surroundings.brightness;
    f32.set(behind.color, (scene + SCENE_BEHIND_COLOR) / 4);
    writeCamera(f32, scene, state.camera, settings);
    return { scene, film, width: settings.width, height: settings.height };
  }

  /** Has the next pass over a loaded frame add the samples from `first` up to `end` to its film. */
  setSamples({ scene }: LoadedFrame, first: number, end: number): void {
    const { u32 } = this.heap.views();
    u32[(scene + SCENE_FIRST_SAMPLE) / 4] = first;
    u32[(scene + SCENE_SAMPLES) / 4] = end;
  }

  /** The film of a loaded frame, FILM_FLOATS floats a pixel as means over its samples, copied out of the shared memory. */
  readFilm({ scene, film, width, height }: LoadedFrame): Float32Array<ArrayBuffer> {
    const { buffer } = this.heap.memory;
    const pixels = new Float32Array(new Float32Array(buffer, film, width * height * FILM_FLOATS));
    averageFilm(pixels, new Uint32Array(buffer)[(scene + SCENE_SAMPLES) / 4]!);
    return pixels;
  }
}

function writeLight(f32: Float32Array, u32: Uint32Array, at: number, light: Light): void {
  u32.fill(0, at / 4, (at + LIGHT_SIZE) / 4);
  const { x, y, z } = frameAlong(subtract(light.target, light.position));
  const panel = light.kind === 'panel';
  const area = panel ? light.width * light.height : 4 * Math.PI * light.radius ** 2;
  const radiance = panel ? lambertianRadiance(light.lumens, area) : bulbRadiance(light.lumens, light.radius);
  const color = lightColor(light.kelvin, light.tint);
  u32[(at + LIGHT_KIND) / 4] = panel ? KIND_PANEL : KIND_BULB;
  u32[(at + LIGHT_CAMERA) / 4] = light.visibleToCamera ? 1 : 0;
  f32.set(
    color.map((v) => v * radiance),
    (at + LIGHT_EMISSION) / 4,
  );
  f32[(at + LIGHT_WEIGHT) / 4] = luminance(color) > 0 ? intensity(light.lumens) * (panel ? 2 : 1) : 0;
  f32.set(light.position, (at + LIGHT_POSITION) / 4);
  f32.set(
    x.map((v) => (v * light.width) / 2),
    (at + LIGHT_X) / 4,
  );
  f32.set(
    y.map((v) => (v * light.height) / 2),
    (at + LIGHT_Y) / 4,
  );
  f32.set(z, (at + LIGHT_NORMAL) / 4);
  f32[(at + LIGHT_AREA) / 4] = area;
  f32[(at + LIGHT_RADIUS) / 4] = panel ? Math.sqrt(area) / 2 : light.radius;
}

function writePartLight(f32: Float32Array, u32: Uint32Array, at: number, instance: Instance, index: number): void {
  u32.fill(0, at / 4, (at + LIGHT_SIZE) / 4);
  const { low, high } = transformBounds(instance.mesh.bounds, instance.transform);
  u32[(at + LIGHT_KIND) / 4] = KIND_PART;
  f32.set(instance.emission, (at + LIGHT_EMISSION) / 4);
  f32[(at + LIGHT_WEIGHT) / 4] = intensity(instance.lumens);
  f32.set(
    low.map((v, k) => (v + high[k]!) / 2),
    (at + LIGHT_POSITION) / 4,
  );
  f32[(at + LIGHT_RADIUS) / 4] = Math.hypot(...corners({ low: [0, 0, 0], high: subtract(high, low) })[7]!) / 2;
  u32[(at + LIGHT_INSTANCE) / 4] = index;
}

/** Mean radiant intensity in the unit that makes intensity / mm² an irradiance, comparable with that of the surroundings. */
const intensity = (lumens: number): number => (lumens / LUMENS_PER_WATT / (4 * Math.PI)) * 1e6;

function writeCamera(f32: Float32Array, scene: number, camera: Camera | null, settings: RenderSettings): void {
  const position = camera?.position ?? [0, 0, 1000];
  const { x, y, z } = frameAlong(subtract(position, camera?.target ?? [0, 0, 0]));
  const roll = quaternionAbout(z, -(camera?.roll ?? 0));
  const tanX = camera ? tanHalfWidth(camera) : 0.36;
  f32.set(position, (scene + SCENE_CAMERA_POSITION) / 4);
  f32.set(rotateVector(x, roll), (scene + SCENE_CAMERA_RIGHT) / 4);
  f32.set(rotateVector(y, roll), (scene + SCENE_CAMERA_UP) / 4);
  f32.set(
    z.map((v) => -v),
    (scene + SCENE_CAMERA_FORWARD) / 4,
  );
  f32[(scene + SCENE_TAN_X) / 4] = tanX;
  f32[(scene + SCENE_TAN_Y) / 4] = (tanX * settings.height) / settings.width;
  f32[(scene + SCENE_LENS_RADIUS) / 4] = camera ? lensRadius(camera) : 0;
  f32[(scene + SCENE_FOCUS) / 4] = camera?.focusDistance ?? 1000;
}
