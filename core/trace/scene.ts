import { partMesh } from '../scene';
import type { FrameState, PartState } from '../motion';
import * as L from '@zippy/kernel/layout';
import { matteId } from '../develop';
import { footageOf, meshKey, newFinish, type Finish, type FinishMap, type Light, type StudioSet } from '../document';
import {
  composeTransform,
  floorMesh,
  invertTransform,
  isEmpty,
  quaternionAbout,
  sweepMesh,
  type TriangleMesh,
} from '../geometry';
import {
  gradeSurroundings,
  luminance,
  mirrorSurroundings,
  paintSurroundings,
  pictureOfSource,
  surroundingsGain,
  type SurroundingsPicture,
  shiningLamp,
} from '../optics';
import { KernelHeap, type KernelExports } from '@zippy/kernel/host';
import { writeCamera } from './cameras';
import { mostSamples } from './allocation';
import { averageFilm } from './film';
import type { LoadedFrame } from './loadedFrame';
import { markLit, type View } from './guides';
import { floorFinish, writeFinish } from './finishes';
import { writeCuts } from './cuts';
import { makeInstance, writePolar, type Instance, type Placed } from './instances';
import { filmPlan, layerBits } from './layers';
import { lightGroups, skySun, writeLights, type LightGroups } from './lights';
import { loadMesh, meshIn, type LoadedMesh } from './meshes';
import type { RenderSettings } from './settings';
import { loadSky, surroundingsName, type LoadedSky } from './sky';
import { loadEdges } from './edges';
import { finishMaps, writeMaps } from './maps';
import { lightLinks, partFlags, type Links } from './links';
import { loadTexture, type TexturePicture } from './textures';

/** Where meshes and surroundings come from; asked for once each. */
export interface SceneSource {
  mesh(asset: string, index: number): Promise<TriangleMesh>;
  /** A surroundings picture of the frame; called only where the frame wants one. */
  sky(picture: string): Promise<SurroundingsPicture>;
  /** A picture that a finish wears or that is the plate, by its asset id. */
  picture(asset: string): Promise<TexturePicture>;
  /** What tells the content behind an asset id: one memory serves many projects, and ids are unique in theirs only. */
  contentOf?(asset: string): string;
}

/** Forget all meshes beyond this, rather than run out of room in the middle of a film. */
const FULL = 3_000_000_000;
/** Most workers that may render one memory; each keeps moving parts' places for itself. */
const WORKERS = 64;

/** A picture in memory. */
interface Texture {
  at: number;
  /** Footage and coding by which frames take each other's room; null of a picture that stands alone. */
  row: string | null;
}

let energyTables: Float32Array | null = null;

/** Keeps meshes and surroundings in kernel memory from frame to frame and lays each frame's instances, lights and camera over them. */
export class SceneMemory {
  private readonly heap: KernelHeap;
  private readonly meshes = new Map<string, LoadedMesh>();
  private readonly skies = new Map<string, LoadedSky>();
  private lastSky: { content: string; picture: SurroundingsPicture } | null = null;
  /** With the footage whose frames take each other's room; null of a picture that stands alone. */
  private readonly plates = new Map<string, { at: number; aspect: number; row: string | null }>();
  /** Pictures that finishes wear, by content and coding. */
  private readonly textures = new Map<string, Texture>();
  private readonly energy: number;
  private readonly empty: number;
  private kept: number;

  constructor(
    private readonly kernel: KernelExports,
    memory: WebAssembly.Memory,
    private readonly source: SceneSource,
  ) {
    this.heap = new KernelHeap(memory);
    this.energy = loadEnergyTables(kernel, this.heap);
    this.kept = this.heap.top;
    this.empty = this.kept;
  }

  /** Brings a frame into memory. The film is cleared to nothing rendered. */
  async load(state: FrameState, settings: RenderSettings): Promise<LoadedFrame> {
    if (this.kept > FULL) {
      this.meshes.clear();
      this.skies.clear();
      this.plates.clear();
      this.textures.clear();
      this.kept = this.empty;
    }
    this.heap.shrinkTo(this.kept);
    for (const { mesh } of state.parts) {
      await this.keepMesh(meshKey(mesh), () => partMesh(mesh, (asset, index) => this.source.mesh(asset, index)));
    }
    const { floor } = state.set;
    if (floor.kind !== 'none') {
      await this.keepMesh(floorName(state), async () =>
        floor.kind === 'floor' ? floorMesh(floor.size) : sweepMesh(floor.size, floor.depth),
      );
    }
    const sky = await this.keepSky(state);
    const behind = await this.keepBehind(state);
    await this.keepTextures(state);
    this.kept = this.heap.top;
    return this.writeFrame(state, settings, sky, behind);
  }

  private async keepMesh(name: string, read: () => Promise<TriangleMesh>): Promise<void> {
    if (!this.meshes.has(name)) this.meshes.set(name, loadMesh(this.kernel, this.heap, await read()));
  }

  private async keepSky(state: FrameState): Promise<LoadedSky> {
    const name = surroundingsName(state, (asset) => this.contentOf(asset));
    const known = this.skies.get(name);
    if (known) return known;
    const { surroundings } = state.set;
    const picture = await paintSurroundings(surroundings, (asset) => this.readSky(asset));
    const loaded = loadSky(this.kernel, this.heap, gradeSurroundings(picture, surroundings));
    this.skies.set(name, loaded);
    return loaded;
  }

  /** The surroundings picture of an asset; the one read last is kept, as its grade may change again and again. */
  private async readSky(asset: string): Promise<SurroundingsPicture> {
    const content = this.contentOf(asset);
    if (this.lastSky?.content !== content) this.lastSky = { content, picture: await this.source.sky(asset) };
    return this.lastSky.picture;
  }

  /** The picture that is seen behind: one all around, or a plate that fills the frame; 0 where there is none. */
  private async keepBehind({ set: { behind } }: FrameState): Promise<{ at: number; aspect: number }> {
    if (behind.kind === 'plate' && behind.plate) {
      const name = `plate/${this.contentOf(behind.plate)}`;
      const known = this.plates.get(name);
      if (known) return known;
      const picture = await this.source.picture(behind.plate);
      const row = footageOf(behind.plate);
      const [before, over] = [...this.plates].find(([, each]) => row !== null && each.row === row) ?? [];
      if (before !== undefined) this.plates.delete(before);
      const at = loadTexture(this.heap, picture, 'srgb', over?.at ?? null);
      const plate = { at, aspect: picture.width / picture.height, row };
      this.plates.set(name, plate);
      return plate;
    }
    if (behind.kind !== 'picture' || !behind.picture) return { at: 0, aspect: 1 };
    const name = `picture/${this.contentOf(behind.picture)}/${behind.mirrored}/1/1/0`;
    const known = this.skies.get(name);
    if (known) return { at: known.at, aspect: 2 };
    const picture = await this.readSky(behind.picture);
    const loaded = loadSky(this.kernel, this.heap, behind.mirrored ? mirrorSurroundings(picture) : picture);
    this.skies.set(name, loaded);
    return { at: loaded.at, aspect: 2 };
  }

  /** Pictures of the finishes that are worn, and the edges of parts where they wear. */
  private async keepTextures(state: FrameState): Promise<void> {
    const worn = new Set(state.parts.map((part) => part.finish));
    const moments = [state, ...(state.shutter ?? []).map(({ middle }) => middle)];
    const wanted = new Map<string, { picture: string; coding: FinishMap['coding'] }>();
    for (const { finishes } of moments) {
      for (const finish of Object.values(finishes).filter(({ id }) => worn.has(id))) {
        for (const { source, coding } of finishMaps(finish)) {
          const picture = pictureOfSource(source);
          if (picture !== null) wanted.set(this.textureName(picture, coding), { picture, coding });
        }
      }
    }
    for (const [name, { picture, coding }] of wanted) {
      if (this.textures.has(name)) continue;
      const footage = footageOf(picture);
      const row = footage && `${footage}/${coding}`;
      const pixels = await this.source.picture(picture);
      this.textures.set(name, { at: loadTexture(this.heap, pixels, coding, this.takeOver(row, wanted)), row });
    }
    for (const moment of moments) this.keepEdges(moment);
  }

  /** Where a frame of the same footage lies that is not seen now, and is forgotten: a long clip takes the room of a few of its frames. */
  private takeOver(row: string | null, wanted: ReadonlyMap<string, unknown>): number | null {
    if (row === null) return null;
    for (const [name, texture] of this.textures) {
      if (texture.row !== row || wanted.has(name)) continue;
      this.textures.delete(name);
      return texture.at;
    }
    return null;
  }

  /** Edges of the parts whose finish wears along them, for the widest that is asked for. */
  private keepEdges({ parts, finishes }: FrameState): void {
    for (const { mesh, finish } of parts) {
      const maps = finish === null || !finishes[finish] ? [] : finishMaps(finishes[finish]);
      const reach = Math.max(0, ...maps.map(({ source }) => (source.kind === 'wear' ? source.width : 0)));
      const loaded = this.meshes.get(meshKey(mesh))!;
      if (reach <= loaded.wearsWithin || isEmpty(loaded.bounds)) continue;
      loaded.wearsWithin = reach;
      const edges = loadEdges(this.heap, meshIn(this.heap, loaded), reach);
      this.heap.views().u32[(loaded.at + L.MESH_EDGES) / 4] = edges;
    }
  }

  private contentOf(asset: string): string {
    return this.source.contentOf?.(asset) ?? asset;
  }

  private textureName(picture: string, coding: FinishMap['coding']): string {
    return `${this.contentOf(picture)}/${coding}`;
  }

  private writeMapsOf(finish: Finish, at: number, seen: { camera: FrameState['camera']; aspect: number }): void {
    const maps = finishMaps(finish).flatMap((map) => {
      const picture = pictureOfSource(map.source);
      const data = picture === null ? 0 : this.textures.get(this.textureName(picture, map.coding))?.at;
      return data === undefined ? [] : [{ map, data }];
    });
    if (maps.length > 0) writeMaps(this.heap, at, maps, seen);
  }

  /** Parts and floor as they stand from one moment to another, with what they wear in between. */
  private instancesOf(
    from: FrameState,
    to: FrameState,
    next: FrameState | null,
    finishes: Finish[],
    lamps: Light[],
    links: Links,
  ): Instance[] {
    const later = (state: FrameState | null) => new Map(state?.parts.map((part) => [part.instance, part]) ?? []);
    const [ends, nexts] = [from === to ? null : later(to), later(next)];
    const numbers = new Map(finishes.map((finish, k) => [finish.id, k]));
    const instances: Instance[] = [];
    const put = (placed: Placed, finish: number) => instances.push(makeInstance(placed, finishes[finish]!, finish));
    for (const part of from.parts) {
      const inverse = invertTransform(part.transform);
      const mesh = this.meshes.get(meshKey(part.mesh))!;
      if (!inverse || isEmpty(mesh.bounds)) continue;
      const end: PartState = ends?.get(part.instance) ?? part;
      put(
        {
          mesh,
          name: part.name,
          from: part.transform,
          to: end === part || invertTransform(end.transform) ? end.transform : part.transform,
          inverse,
          next: nexts.get(part.instance)?.transform ?? null,
          glow: part.glow,
          flags: partFlags(part.seen) | links.on(part),
        },
        (part.finish !== null && numbers.get(part.finish)) || 0,
      );
    }
    const { floor } = from.set;
    if (floor.kind !== 'none') {
      const transform = composeTransform([0, 0, 0], quaternionAbout([0, 1, 0], floor.turn), [1, 1, 1]);
      const mesh = this.meshes.get(floorName(from))!;
      const inverse = invertTransform(transform)!;
      const flags = L.INSTANCE_CATCHER | L.INSTANCE_CUT | (floor.catches ? L.INSTANCE_CATCHES : 0) | links.on(null);
      put({ mesh, name: 'Floor', from: transform, to: transform, inverse, next: null, glow: 1, flags }, 1);
    }
    markLit(instances, lamps);
    return instances;
  }

  private writeFrame(
    state: FrameState,
    settings: RenderSettings,
    sky: LoadedSky,
    behind: { at: number; aspect: number },
  ): LoadedFrame {
    const { heap } = this;
    const slices = state.shutter ?? [{ from: state, middle: state, to: state }];
    const layers = settings.layers;
    const { turn, tilt } = state.set.surroundings;
    const lightsOf = (moment: FrameState) => [
      ...moment.lights.map((light) => shiningLamp(light)),
      ...skySun(moment, turn, tilt),
    ];
    const finishesOf = (moment: FrameState) => [
      newFinish({ id: 'none', name: 'No finish' }),
      floorFinish(moment),
      ...Object.keys(state.finishes)
        .sort()
        .map((id) => moment.finishes[id] ?? state.finishes[id]!),
    ];
    const luminous = finishesOf(state).filter((finish) => finish.emissionPower > 0);
    const groups = lightGroups(
      [...(state.sources?.lamps ?? []), ...slices.flatMap(({ middle }) => lightsOf(middle))],
      [
        ...(state.sources?.finishes ?? []).map((name) => ({ name })),
        ...luminous,
        ...slices.flatMap(({ middle }) => finishesOf(middle).filter((each) => each.emissionPower > 0)),
      ],
    );
    const plan = filmPlan(layers, groups.names.length);
    const pixels = settings.width * settings.height;
    const film = heap.allocate(pixels * plan.floats * 4);
    const mask = heap.allocate(pixels);
    const scene = heap.allocate(slices.length * L.SCENE_SIZE);
    new Uint8Array(heap.memory.buffer, film, pixels * plan.floats * 4).fill(0);
    let parts: string[] = [];
    slices.forEach((slice, k) => {
      const links = lightLinks(lightsOf(slice.middle));
      const instances = this.instancesOf(
        slice.from,
        slice.to,
        state.next ?? null,
        finishesOf(slice.middle),
        lightsOf(slice.middle),
        links,
      );
      parts = instances.map((instance) => instance.name);
      this.writeSlice(scene + k * L.SCENE_SIZE, slice, state, settings, instances, finishesOf(slice.middle), {
        sky,
        behind,
        groups,
        lights: lightsOf(slice.middle),
        links,
        film,
        floats: plan.floats,
        slices: slices.length,
      });
    });
    return {
      scene,
      film,
      mask,
      width: settings.width,
      height: settings.height,
      window: windowOf(settings),
      floats: plan.floats,
      layers: plan.at,
      groups: groups.names,
      mattes: { parts: unique(parts), finishes: unique(finishesOf(state).map((finish) => finish.name)) },
    };
  }

  private writeSlice(
    scene: number,
    slice: { from: FrameState; middle: FrameState; to: FrameState },
    state: FrameState,
    settings: RenderSettings,
    instances: Instance[],
    finishes: Finish[],
    shared: {
      sky: LoadedSky;
      behind: { at: number; aspect: number };
      groups: LightGroups;
      lights: FrameState['lights'];
      links: Links;
      film: number;
      floats: number;
      slices: number;
    },
  ): void {
    const { heap } = this;
    const { surroundings, behind, air } = slice.middle.set;
    const finishesAt = heap.allocate(finishes.length * L.FINISH_SIZE);
    const instancesAt = heap.allocate(Math.max(1, instances.length) * L.INSTANCE_SIZE);
    const moving = instances.filter((instance) => instance.motion);
    const motions = heap.allocate(Math.max(1, moving.length) * L.MOTION_SIZE);
    const moved = heap.allocate(Math.max(1, moving.length) * L.MOVED_SIZE * WORKERS);
    const nexts = heap.allocate(Math.max(1, instances.length) * 48);
    this.writeInstances(instances, instancesAt, finishesAt, motions, nexts);
    new Uint8Array(heap.memory.buffer, moved, Math.max(1, moving.length) * L.MOVED_SIZE * WORKERS).fill(0);
    const root = this.buildInstanceTree(instances);
    const gain = surroundingsGain(surroundings);
    const irradiance = Math.PI * shared.sky.mean * luminance(gain);
    const lights = writeLights(
      heap,
      shared.lights,
      instances,
      instancesAt,
      shared.groups,
      shared.links.of,
      irradiance,
      {
        cameras: camerasOf(slice),
        width: settings.width,
      },
    );
    finishes.forEach((finish, k) => {
      const at = finishesAt + k * L.FINISH_SIZE;
      const { f32, u32 } = heap.views();
      writeFinish(f32, u32, at, finish);
      this.writeMapsOf(finish, at, { camera: slice.middle.camera, aspect: settings.width / settings.height });
    });
    const cuts = writeCuts(heap, slice.middle.parts);
    const { f32, u32 } = heap.views();
    u32.fill(0, scene / 4, (scene + L.SCENE_SIZE) / 4);
    const word = (offset: number, value: number) => (u32[(scene + offset) / 4] = value);
    const put = (offset: number, ...values: readonly number[]) => f32.set(values, (scene + offset) / 4);
    word(L.SCENE_INSTANCES, instancesAt);
    word(L.SCENE_INSTANCE_COUNT, instances.length);
    word(L.SCENE_ROOT, root);
    word(L.SCENE_ENERGY, this.energy);
    word(L.SCENE_SLICES, shared.slices);
    word(L.SCENE_UNSHADOWED, instances.some(({ flags }) => flags & L.INSTANCE_SHADOWLESS) ? 1 : 0);
    word(L.SCENE_LIGHTS, lights.at);
    word(L.SCENE_LIGHT_COUNT, lights.count);
    word(L.SCENE_LAMPS, lights.lamps);
    word(L.SCENE_LOCAL_LIGHTS, lights.locals);
    word(L.SCENE_LIGHT_TREE, lights.tree);
    word(L.SCENE_GUIDES, lights.guides);
    word(L.SCENE_GUIDE_COUNT, lights.guideCount);
    word(L.SCENE_LENS_GUIDES, lights.lensGuides);
    word(L.SCENE_LENS_GUIDE_COUNT, lights.lensGuideCount);
    put(L.SCENE_SHADE, behind.shade);
    word(L.SCENE_CUTS, cuts.at);
    word(L.SCENE_CUT_COUNT, cuts.count);
    word(L.SCENE_SKY, shared.sky.at);
    const { turn, tilt } = surroundings;
    put(L.SCENE_SKY_TURN, turn);
    word(L.SCENE_SKY_TILTED, tilt === 0 ? 0 : 1);
    put(L.SCENE_SKY_TURN_COSINE, Math.cos(turn), Math.sin(turn), Math.cos(tilt), Math.sin(tilt));
    put(L.SCENE_SKY_GAIN, ...gain);
    // A picture that is missing shows the surroundings.
    word(
      L.SCENE_BEHIND,
      SEEN_BEHIND[needsPicture(behind.kind) && shared.behind.at === 0 ? 'surroundings' : behind.kind],
    );
    put(L.SCENE_BEHIND_COLOR, ...(needsPicture(behind.kind) ? Array<number>(3).fill(behind.brightness) : behind.color));
    word(L.SCENE_BEHIND_PICTURE, shared.behind.at);
    put(L.SCENE_BEHIND_TURN, behind.turn);
    const wider = shared.behind.aspect / (settings.width / settings.height);
    put(L.SCENE_BEHIND_FIT, Math.min(1, 1 / wider), Math.min(1, wider));
    word(L.SCENE_MOVING, moving.length);
    word(L.SCENE_MOVED, moved);
    const aspect = settings.width / settings.height;
    writeCamera(f32, scene + L.SCENE_CAMERA, slice.from.camera, aspect);
    writeCamera(f32, scene + L.SCENE_CAMERA + L.CAMERA_SIZE, slice.to.camera, aspect);
    writeCamera(f32, scene + L.SCENE_NEXT_CAMERA, (state.next ?? state).camera, aspect);
    word(L.SCENE_BLADES, state.camera?.blades ?? 0);
    put(L.SCENE_BLADE_TURN, state.camera?.bladeTurn ?? 0);
    word(L.SCENE_ORTHOGRAPHIC, state.camera?.projection === 'orthographic' ? 1 : 0);
    word(L.SCENE_FILM, shared.film);
    word(L.SCENE_WIDTH, settings.width);
    word(L.SCENE_HEIGHT, settings.height);
    word(L.SCENE_SAMPLES, mostSamples(settings));
    word(L.SCENE_PASS, settings.samples);
    word(L.SCENE_SEED, settings.seed);
    word(L.SCENE_DEPTH, settings.depth);
    put(L.SCENE_SPECK, settings.speckLimit);
    word(L.SCENE_SAMPLE_BITS, Math.ceil(Math.log2(Math.max(1, settings.samples))));
    put(L.SCENE_FOG, ...[1, 1, 1].map((v) => (v * air.density) / 1000));
    put(L.SCENE_FOG_ALBEDO, ...air.color.map((v) => Math.min(1, v)));
    put(L.SCENE_FOG_ANISOTROPY, air.anisotropy);
    put(L.SCENE_FOG_REACH, air.reach);
    word(L.SCENE_GROUPS, shared.groups.names.length);
    word(L.SCENE_LAYERS, layerBits(settings.layers));
    word(L.SCENE_PIXEL, shared.floats);
    put(L.SCENE_OCCLUSION, occlusionReach(instances));
  }

  private writeInstances(
    instances: Instance[],
    instancesAt: number,
    finishesAt: number,
    motions: number,
    nexts: number,
  ): void {
    const { f32, u32, i32 } = this.heap.views();
    let moving = 0;
    instances.forEach((instance, k) => {
      const at = instancesAt + k * L.INSTANCE_SIZE;
      f32.set(instance.inverse, at / 4);
      f32.set(instance.transform, (at + L.INSTANCE_TO_WORLD) / 4);
      u32[(at + L.INSTANCE_MESH) / 4] = instance.mesh.at;
      u32[(at + L.INSTANCE_FINISH) / 4] = finishesAt + instance.finish * L.FINISH_SIZE;
      u32[(at + L.INSTANCE_PART) / 4] = k + 1;
      i32[(at + L.INSTANCE_LIGHT) / 4] = -1;
      f32.set(instance.emission, (at + L.INSTANCE_EMISSION) / 4);
      u32[(at + L.INSTANCE_MOVING) / 4] = 0;
      u32[(at + L.INSTANCE_NEXT) / 4] = 0;
      u32[(at + L.INSTANCE_HASH) / 4] = matteId(instance.name);
      u32[(at + L.INSTANCE_FLAGS) / 4] = instance.flags;
      if (instance.motion) {
        const motion = motions + moving * L.MOTION_SIZE;
        writePolar(f32, motion, instance.motion.from);
        writePolar(f32, motion + 64, instance.motion.to);
        u32[(at + L.INSTANCE_MOVING) / 4] = ++moving;
        u32[(at + L.INSTANCE_MOTION) / 4] = motion;
      }
      if (instance.next) {
        f32.set(instance.next, (nexts + k * 48) / 4);
        u32[(at + L.INSTANCE_NEXT) / 4] = nexts + k * 48;
      }
    });
  }

  /** The tree over all parts' boxes. Meshes keep theirs, so a part that moved costs no more than this. */
  private buildInstanceTree(instances: Instance[]): number {
    const { heap, kernel } = this;
    // One part needs no box above it.
    if (instances.length === 1) return L.LEAF;
    const nodes = heap.allocate((instances.length + 64) * L.NODE_SIZE);
    const top = heap.top;
    const boxes = heap.allocate(Math.max(1, instances.length) * 24);
    const scratch = heap.allocate(kernel.treeScratchSize(instances.length));
    const { f32 } = heap.views();
    instances.forEach(({ box }, k) => {
      // Rounding to 32 bits must not cut into a part.
      const slack = 1e-6 * Math.max(...box.low.map(Math.abs), ...box.high.map(Math.abs)) + 1e-6;
      f32.set([...box.low.map((v) => v - slack), ...box.high.map((v) => v + slack)], (boxes + k * 24) / 4);
    });
    kernel.buildInstanceTree(boxes, instances.length, nodes, scratch);
    heap.shrinkTo(top);
    return nodes;
  }

  /** Has the next passes over a loaded frame add so many samples to a pixel, up to those of its settings. */
  setPass({ scene }: LoadedFrame, samples: number): void {
    this.heap.views().u32[(scene + L.SCENE_PASS) / 4] = samples;
  }

  /** The film of a loaded frame as means over its samples, copied out of the shared memory; see `filmPlan` for its pixels. */
  readFilm(frame: LoadedFrame): Float32Array<ArrayBuffer> {
    const { width, height, floats, film } = frame;
    const pixels = new Float32Array(new Float32Array(this.heap.memory.buffer, film, width * height * floats));
    averageFilm(pixels, frame);
    return pixels;
  }
}

/** The region in whole pixels, at least one. */
function windowOf({ width, height, region }: RenderSettings): LoadedFrame['window'] {
  if (!region) return { left: 0, top: 0, right: width, bottom: height };
  const left = Math.min(width - 1, Math.floor(region.left * width));
  const top = Math.min(height - 1, Math.floor(region.top * height));
  return {
    left,
    top,
    right: Math.max(left + 1, Math.ceil(region.right * width)),
    bottom: Math.max(top + 1, Math.ceil(region.bottom * height)),
  };
}

const SEEN_BEHIND: Record<StudioSet['behind']['kind'], number> = {
  surroundings: L.BEHIND_SURROUNDINGS,
  color: L.BEHIND_COLOR,
  transparent: L.BEHIND_TRANSPARENT,
  picture: L.BEHIND_PICTURE,
  plate: L.BEHIND_PLATE,
};

const needsPicture = (kind: StudioSet['behind']['kind']): boolean => kind === 'picture' || kind === 'plate';

/** The camera in the middle, at the beginning and at the end of a slice. */
function camerasOf({ from, middle, to }: Record<'from' | 'middle' | 'to', FrameState>): View['cameras'] {
  return middle.camera && from.camera && to.camera ? [middle.camera, from.camera, to.camera] : null;
}

const floorName = ({ set: { floor } }: FrameState): string => `${floor.kind}/${floor.size}/${floor.depth}`;

const unique = (names: string[]): string[] => [...new Set(names)];

/** Occlusion reaches a tenth of the product's size: the floor does not count. */
function occlusionReach(instances: Instance[]): number {
  const own = instances.filter((instance) => instance.finish !== 1);
  const low = [0, 1, 2].map((k) => Math.min(...own.map(({ box }) => box.low[k]!)));
  const high = [0, 1, 2].map((k) => Math.max(...own.map(({ box }) => box.high[k]!)));
  const size = Math.hypot(...low.map((v, k) => high[k]! - v));
  return Number.isFinite(size) && size > 0 ? size / 10 : 100;
}

/** The tables are the same for all scenes: they are made once in a process. */
function loadEnergyTables(kernel: KernelExports, heap: KernelHeap): number {
  const at = heap.allocate(L.ENERGY_SIZE);
  if (energyTables) new Float32Array(heap.memory.buffer, at, L.ENERGY_SIZE / 4).set(energyTables);
  else {
    kernel.fillEnergyTables(at);
    energyTables = new Float32Array(new Float32Array(heap.memory.buffer, at, L.ENERGY_SIZE / 4));
  }
  return at;
}
