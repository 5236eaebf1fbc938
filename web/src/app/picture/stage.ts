import * as THREE from 'three';
import { OrbitControls } from 'three/examples/jsm/controls/OrbitControls.js';
import { TransformControls } from 'three/examples/jsm/controls/TransformControls.js';
import { newFinish, type Camera, type Light, type MeshRef, type Vector3 } from '@zippy/core/document';
import type { Bounds, Quaternion, Transform } from '@zippy/core/geometry';
import type { FrameState } from '@zippy/core/motion';
import { lightOf, type Flight } from '@zippy/core/scene';
import { otherWork } from '../store/other-work';
import { FocusVeil } from './focus-veil';
import { GivenGeometries } from '../meshes/drawing-portions';
import type { GripDrag, GripMode } from './handles/grip-drag';
import { MotionFigures, NEAR_MARK, onCanvas, pixelsApart } from './motion/motion-figures';
import type { SeenMotion } from './motion/motion-seen';
import type { Standing } from './view-plan.component';
import { aimFigure, asSeen, cameraFigure, helperFigure, lampFigure, markFigures, type Mark } from './figures';
import type { MeshLibrary } from '../meshes/mesh-library';
import { PartMeshes, SOLID_LAYER, type PartHit, type PartsView } from '../meshes/part-meshes';
import { matrixOf } from '../meshes/sketch-geometry';
import type { PointedPlace } from '../store/pointing';
import { LampShadows } from './live/lamp-shadows';
import { LiveMaterials, LiveTextures, stainMaterial, surfaceMaterial } from './live/live-materials';
import { LiveQuality, type Grading } from './live/live-quality';
import type { ShiningLamp } from './live/light-rig';
import { lightTarget, LiveScene, type LiveSet } from './live/live-scene';
import { SketchMeshes } from './sketch-meshes';
import { SketchPrograms } from './sketch-programs';
import { aimCamera, reach } from './sketch-set';
import { StillDrawer } from './still-drawer';

/** What the stage shows besides the frame. */
export interface StageView extends PartsView, LiveSet {
  allLights: Light[];
  allCameras: Camera[];
  selected: { kind: string; id: string } | null;
  throughCamera: boolean;
  /** Turning the view through the camera moves the camera itself. */
  flies: boolean;
  /** Where the shot's camera is seen in a corner of the free view, in pixels from the canvas' left and bottom; null for nowhere. */
  inset: { left: number; bottom: number; width: number; height: number } | null;
  /** Of the canvas' width, from its left, that the free view has; the rest is the inset's. */
  share: number;
  /** What is out of focus is veiled while one looks through the camera. */
  sharpness: boolean;
  /** World place and axes of the handles, null for none, and what dragging them does. */
  grip: { place: Vector3; axes: Quaternion } | null;
  /** World place that what is selected is aimed at; null for none. */
  aim: Vector3 | null;
  /** The line about which what is selected turns, in the world; null for none. */
  axis: { point: Vector3; direction: Vector3; length: number } | null;
  /** World places of helpers. */
  helpers: { id: string; transform: Transform }[];
  gripMode: GripMode;
  motion: SeenMotion;
  aspect: number;
  surround: string;
}

type FigureKind = 'light' | 'camera' | 'node';

/** A lamp, camera or helper, by its figure. */
export interface Thing {
  kind: FigureKind;
  id: string;
}

/** A mark that is drawn elsewhere in the picture. */
export interface HeldMark {
  place: Vector3;
  /** Of the key; null of an aim. */
  frame: number | null;
}

export interface Pick {
  node: string;
  /** Which of the places at which the node is shown. */
  transform: Transform;
  /** The same as it is drawn, perhaps apart from the others. */
  drawn: Transform;
  mesh: MeshRef;
  /** Number of the triangle in the part's mesh. */
  triangle: number;
  point: Vector3;
  /** Out of the surface there, in the world. */
  normal: Vector3;
  /** Millimetres that a pixel of the canvas covers there. */
  pixel: number;
  /** Distance from the camera along its axis, millimetres. */
  distance: number;
}

const SELECT = 0x4fcfae;
const MARK = 0xff9f5a;

/** The sketch picture: parts in plain shading, lamp and camera figures, handles. Draws only when something has changed. */
export class Stage {
  private readonly renderer: THREE.WebGLRenderer;
  private readonly live = new LiveScene(() => this.draw());
  /** What lies over the developed picture: figures, marks, handles. */
  private readonly overlay = new THREE.Scene();
  private readonly shadows = new LampShadows(this.live.rig, SHADOW_SIZE);
  private readonly quality: LiveQuality;
  private target = lightTarget(2, 2, 0);
  private small = lightTarget(2, 2, 0);
  private readonly eye = new THREE.PerspectiveCamera();
  private readonly chosen = new THREE.WebGLRenderTarget(2, 2);
  private readonly white = new THREE.MeshBasicMaterial({ side: THREE.DoubleSide });
  private lamps: ShiningLamp[] = [];
  private readonly meshes: SketchMeshes;
  private readonly parts: PartMeshes;
  private readonly stills: StillDrawer;
  private readonly programs: SketchPrograms;
  private readonly figures = new THREE.Group();
  private readonly marks = new THREE.Group();
  private readonly motion = new MotionFigures();
  private readonly veil = new FocusVeil();
  private readonly grid = new THREE.GridHelper(1000, 20, 0x555555, 0x3a3a3b);
  private readonly free = new THREE.PerspectiveCamera(30, 1, 5, 60000);
  private readonly shot = new THREE.PerspectiveCamera(30, 1, 5, 60000);
  private readonly orbit: OrbitControls;
  private readonly handles: TransformControls;
  private readonly handleTarget = new THREE.Object3D();
  private readonly taken = new THREE.Object3D();
  private readonly ray = new THREE.Raycaster();
  private view: StageView | null = null;
  private asked = false;
  private covered = false;
  private turning = false;
  private flownFrom = { position: new THREE.Vector3(), target: new THREE.Vector3() };
  private more = false;
  private sized = '';
  private standing: Standing = { around: NaN, above: NaN };
  /** Handles go by steps. */
  private steps = false;
  private shadowed = false;
  /** What was drawn in linear light is no longer what is to be seen. */
  private stale = true;
  private anew = true;
  private fine = '';

  /** Meshes have come: their bounds in their own space and their triangles, by their keys. */
  onMeshes: (bounds: Map<string, Bounds>, triangles: Map<string, number>, bare: readonly string[]) => void = () =>
    undefined;
  onLeaveCamera: () => void = () => undefined;
  /** The camera that is looked through is flown: how far since it was taken hold of. */
  onFly: (by: Flight | 'taken') => void = () => undefined;
  /** The free view stands elsewhere. */
  onStanding: (standing: Standing) => void = () => undefined;
  /** The free view moves, or has come to rest. */
  onTurning: (turning: boolean) => void = () => undefined;
  /** It has drawn: what is on the canvas can be read until this returns. */
  onDrawn: () => void = () => undefined;
  onGrip: (drag: GripDrag | 'taken' | 'dropped') => void = () => undefined;
  onFailure: (message: string) => void = () => undefined;

  constructor(
    readonly canvas: HTMLCanvasElement,
    library: MeshLibrary,
  ) {
    this.meshes = new SketchMeshes(library, {
      meshes: (bounds, triangles, bare) => this.onMeshes(bounds, triangles, bare),
      model: () => (canvas.dataset['models'] = String(Number(canvas.dataset['models'] ?? 0) + 1)),
      more: () => this.showAnew(),
      failure: (message) => this.onFailure(message),
    });
    const given = new GivenGeometries();
    const textures = new LiveTextures(() => this.draw());
    this.parts = new PartMeshes(this.meshes, new LiveMaterials(this.live.rig, textures), given);
    this.renderer = new THREE.WebGLRenderer({
      canvas,
      antialias: false,
      powerPreference: 'high-performance',
    });
    // Asking whether shaders were made well waits for the graphics card each time, and holds up the page.
    this.renderer.debug.checkShaderErrors = false;
    this.renderer.autoClear = false;
    this.quality = new LiveQuality(isSoftware(this.renderer), () => this.draw());
    this.renderer.setPixelRatio(this.quality.software ? 1 : Math.min(2, devicePixelRatio));
    const still = new LiveScene(() => undefined);
    const stillMaterials = new LiveMaterials(still.rig, textures);
    const stillParts = new PartMeshes(this.meshes, stillMaterials, given);
    this.stills = new StillDrawer(this.renderer, still, stillParts, this.quality.software);
    this.free.position.set(320, 240, 720);
    this.orbit = new OrbitControls(this.free, canvas);
    this.orbit.target.set(0, 70, 0);
    this.orbit.enableDamping = false;
    this.orbit.update();
    this.orbit.addEventListener('start', () => this.beginTurning());
    this.orbit.addEventListener('end', () => {
      this.turning = false;
      this.onTurning(false);
    });
    this.orbit.addEventListener('change', () => {
      // A mere click starts a turn too: the shot's camera is left only once the view has moved.
      if (this.turning && this.view?.throughCamera && this.view.flies) {
        this.onFly({
          position: this.free.position.clone().sub(this.flownFrom.position).toArray(),
          target: this.orbit.target.clone().sub(this.flownFrom.target).toArray(),
        });
        return;
      }
      if (this.turning && this.view?.throughCamera) {
        this.view = { ...this.view, throughCamera: false };
        this.onLeaveCamera();
      }
      this.quality.touch();
      this.draw();
    });
    this.handles = new TransformControls(this.free, canvas);
    this.handles.setSize(0.7);
    this.handles.attach(this.handleTarget);
    this.handles.addEventListener('change', () => this.draw(false));
    this.handles.addEventListener('mouseDown', () => {
      this.taken.copy(this.handleTarget);
      this.onGrip('taken');
    });
    this.handles.setSpace('local');
    this.handles.addEventListener('objectChange', () => this.tellGrip());
    this.handles.addEventListener('mouseUp', () => {
      this.onGrip('dropped');
      if (this.view) this.showHandles(this.view);
    });
    // Before the handles hear of it.
    canvas.addEventListener('pointermove', (event) => (this.steps = event.ctrlKey || event.metaKey), { capture: true });
    this.handles.addEventListener('dragging-changed', ({ value }) => (this.orbit.enabled = !value));
    this.live.scene.add(this.parts.group);
    this.overlay.add(
      this.figures,
      this.motion.group,
      this.marks,
      this.grid,
      this.handleTarget,
      this.handles.getHelper(),
    );
    const glass = surfaceMaterial(this.live.rig, newFinish({ transmissionWeight: 1 }));
    const wall = surfaceMaterial(this.live.rig, newFinish());
    wall.side = THREE.FrontSide;
    this.programs = new SketchPrograms(this.renderer, {
      light: [
        surfaceMaterial(this.live.rig, newFinish()),
        surfaceMaterial(this.live.rig, newFinish({ geometryOpacity: 0.5 })),
        glass,
        stainMaterial(newFinish({ transmissionWeight: 1 })),
        wall,
        this.live.backdrop.mesh.material,
        this.shadows.material,
      ],
      memory: [this.live.developer.example, this.white],
      canvas: [
        this.live.developer.example,
        this.veil.material,
        new THREE.MeshBasicMaterial({ side: THREE.DoubleSide, transparent: true }),
      ],
    });
    void this.programs.whenReady.then(() => this.draw());
  }

  resize(width: number, height: number): void {
    if (width < 2 || height < 2) return;
    this.renderer.setSize(width, height, false);
    this.sized = '';
    this.free.aspect = width / height;
    this.free.updateProjectionMatrix();
    this.draw();
  }

  show(view: StageView): void {
    const was = this.view;
    this.view = view;
    this.showParts();
    this.showFigures(view);
    this.motion.show(view.motion, (mesh) => this.meshes.of(mesh), view.aspect);
    this.showHandles(view);
    if (was?.throughCamera && !view.throughCamera && !this.turning) this.copyShotCamera();
    const changed = !was || !sameScene(was, view);
    if (changed) {
      this.shadowed = false;
      this.quality.touch();
    }
    this.draw(changed);
  }

  /** Draws the sketch as the machine can, lightly, or finely. */
  grade(grading: Grading): void {
    this.quality.grading = grading;
    this.draw();
  }

  /** Whether parts are still on their way to the graphics card, which they are only while the sketch is drawn. */
  get filling(): boolean {
    return this.more && !this.covered;
  }

  /** While something else covers the sketch, it is not drawn. */
  cover(covered: boolean): void {
    this.covered = covered;
    if (!covered) this.draw();
  }

  /** Draws soon, once, however often it is asked. @param anew whether more has changed than what lies over the picture */
  draw(anew = true): void {
    this.stale ||= anew;
    if (this.asked || this.covered) return;
    this.asked = true;
    requestAnimationFrame(() => {
      this.asked = false;
      if (!this.covered) this.drawNow();
    });
  }

  /**
   * All parts under a point of the canvas, the nearest first, each once.
   * @param byShot as the shot's camera sees them, whatever the canvas shows
   */
  pickAll(x: number, y: number, byShot = false): Pick[] {
    // What covers the sketch keeps it from being drawn, and its camera from being aimed.
    this.aim();
    const camera = byShot ? this.shot : this.camera();
    this.ray.setFromCamera(new THREE.Vector2(2 * x - 1, 1 - 2 * y), camera);
    return this.parts.cast(this.ray).map((hit) => this.pickOf(hit, camera));
  }

  /** The surface under a point of the canvas, the floor too, as it is shaded and seen from; null where there is none. */
  seenAt(x: number, y: number): PointedPlace | null {
    this.aim();
    const camera = this.camera();
    this.ray.setFromCamera(new THREE.Vector2(2 * x - 1, 1 - 2 * y), camera);
    const [part] = this.parts.cast(this.ray);
    const [floor] = this.ray.intersectObject(this.live.floor.mesh, false);
    const hit = part && (!floor || part.hit.distance <= floor.distance) ? part.hit : floor;
    if (!hit) return null;
    return {
      node: hit === part?.hit ? part.part.node : '',
      point: hit.point.toArray(),
      normal: shadedNormal(hit),
      // Parallel rays come from far away.
      eye: hit.point.clone().addScaledVector(this.ray.ray.direction, -Math.max(hit.distance, 1e-3)).toArray(),
      between: (from, to) => this.firstBetween(from, to),
    };
  }

  private firstBetween(from: Vector3 | readonly number[], to: Vector3 | readonly number[]): string | null {
    const [start, end] = [from, to].map(([x, y, z]) => new THREE.Vector3(x, y, z)) as [THREE.Vector3, THREE.Vector3];
    const apart = start.distanceTo(end);
    this.ray.set(start, end.sub(start).normalize());
    const [first] = this.parts.cast(this.ray).filter(({ hit }) => hit.distance > apart * 1e-3 && hit.distance < apart);
    return first ? first.part.name : null;
  }

  /** The lamp, camera or helper whose figure is under a point of the canvas, and how far away. */
  pickFigure(x: number, y: number): (Thing & { distance: number; sheet: boolean }) | null {
    if (!this.figures.visible) return null;
    this.aim();
    const camera = this.camera();
    this.ray.setFromCamera(new THREE.Vector2(2 * x - 1, 1 - 2 * y), camera);
    const before = this.ray.params.Line.threshold;
    const away = camera.position.distanceTo(this.orbit.target);
    this.ray.params.Line.threshold = (NEAR_LINE * 2 * away * Math.tan((camera.fov * Math.PI) / 360)) / Math.max(1, this.canvas.clientHeight); // prettier-ignore
    const [hit] = this.ray.intersectObjects(this.figures.children, true).filter(({ object }) => {
      // What a lamp is aimed along is no part of it.
      return !(object instanceof THREE.Line && (object.material as THREE.Material).type === 'LineDashedMaterial');
    });
    this.ray.params.Line.threshold = before;
    for (let each: THREE.Object3D | null = hit?.object ?? null; each; each = each.parent)
      if (each.userData['thing'])
        return {
          ...(each.userData['thing'] as Thing),
          distance: hit!.distance,
          sheet: hit!.object instanceof THREE.Mesh,
        };
    return null;
  }

  /** Nodes of parts that lie wholly within a rectangle of the canvas (0 to 1 from the top left), hidden behind others too. */
  within(left: number, top: number, right: number, bottom: number): string[] {
    return this.parts.within(this.camera(), left, top, right, bottom);
  }

  /** A mark under a point of the canvas that can be drawn elsewhere: where something is aimed, or a key of its path. */
  pickMark(x: number, y: number): HeldMark | null {
    this.aim();
    const camera = this.camera();
    const aim = this.view?.aim;
    if (aim && pixelsApart(aim, x, y, camera, this.canvas) < NEAR_MARK) return { place: aim, frame: null };
    const key = this.motion.keyAt(x, y, camera, this.canvas);
    return key && { place: key.place, frame: key.frame };
  }

  /** Where a point of the canvas lies in the plane through a place that faces the view; null behind it. */
  acrossView(place: Vector3, x: number, y: number): Vector3 | null {
    this.aim();
    const camera = this.camera();
    this.ray.setFromCamera(new THREE.Vector2(2 * x - 1, 1 - 2 * y), camera);
    const facing = camera.getWorldDirection(new THREE.Vector3());
    const plane = new THREE.Plane().setFromNormalAndCoplanarPoint(facing, new THREE.Vector3(...place));
    return this.ray.ray.intersectPlane(plane, new THREE.Vector3())?.toArray() ?? null;
  }

  private pickOf({ hit, part, transform }: PartHit, camera: THREE.PerspectiveCamera): Pick {
    const forward = camera.getWorldDirection(new THREE.Vector3());
    const distance = hit.point.clone().sub(camera.position).dot(forward);
    return {
      node: part.node,
      drawn: transform,
      transform: part.transform,
      mesh: part.mesh,
      triangle: hit.faceIndex!,
      point: hit.point.toArray(),
      normal: outwardAt(hit, camera),
      pixel: (2 * distance * Math.tan((camera.fov * Math.PI) / 360)) / Math.max(1, this.canvas.clientHeight),
      distance,
    };
  }

  /** Lights a part up while a finish is dragged over it. */
  hover(node: string | null): void {
    if (!this.parts.hover(node)) return;
    this.showParts();
    this.draw(false);
  }

  /** Points something out over everything else; null for nothing. */
  point(mark: Mark | null): void {
    this.marks.clear();
    if (mark) this.marks.add(...markFigures(mark, MARK, this.camera().position));
    this.draw(false);
  }

  viewPoint(): { position: Vector3; target: Vector3 } {
    if (this.view?.throughCamera && this.view.frame.camera)
      return { position: [...this.view.frame.camera.position], target: [...this.view.frame.camera.target] };
    return { position: this.free.position.toArray(), target: this.orbit.target.toArray() };
  }

  /** The camera whose picture the canvas shows while it is not looked through the shot's own. */
  freeCamera(like: Camera): Camera {
    const { position, target } = this.viewPoint();
    const tanX = Math.tan((this.free.fov * Math.PI) / 360) * this.free.aspect;
    return { ...like, position, target, roll: 0, fStop: 0, focalLength: like.sensorWidth / 2 / tanX };
  }

  /** Moves the free view so that a box fills it, from a direction (towards the viewer). */
  frameBox({ low, high }: Bounds, from?: Vector3): void {
    this.leaveCamera();
    const center = new THREE.Vector3(...low).add(new THREE.Vector3(...high)).multiplyScalar(0.5);
    const radius = Math.max(0.01, new THREE.Vector3(...high).distanceTo(new THREE.Vector3(...low)) / 2);
    const direction = from ? new THREE.Vector3(...from) : this.free.position.clone().sub(this.orbit.target);
    const half = Math.atan(Math.tan((this.free.fov * Math.PI) / 360) * Math.min(1 / this.free.zoom, this.free.aspect));
    this.orbit.target.copy(center);
    this.free.position.copy(center).addScaledVector(direction.normalize(), radius / Math.sin(half));
    this.orbit.update();
    this.draw();
  }

  /** Moves the free view round what it looks at, and over it. */
  stand({ around, above }: Standing): void {
    this.leaveCamera();
    const away = this.free.position.distanceTo(this.orbit.target);
    const high = Math.min(STEEPEST, Math.max(-STEEPEST, above));
    const flat = away * Math.cos(high);
    this.free.position
      .set(Math.sin(around) * flat, away * Math.sin(high), Math.cos(around) * flat)
      .add(this.orbit.target);
    this.orbit.update();
    this.draw();
  }

  private tellStanding(): void {
    const { x, y, z } = this.free.position.clone().sub(this.orbit.target);
    const around = Math.atan2(x, z);
    const above = Math.atan2(y, Math.hypot(x, z));
    if (around === this.standing.around && above === this.standing.above) return;
    this.standing = { around, above };
    this.onStanding(this.standing);
  }

  /** How far the camera has to be flown so that its frame just holds a box, from where it looks at it. */
  flightTo({ low, high }: Bounds): Flight | null {
    const camera = this.view?.frame.camera;
    if (!camera) return null;
    const middle = new THREE.Vector3(...low).add(new THREE.Vector3(...high)).multiplyScalar(0.5);
    const radius = Math.max(0.01, new THREE.Vector3(...high).distanceTo(new THREE.Vector3(...low)) / 2);
    const [position, target] = [new THREE.Vector3(...camera.position), new THREE.Vector3(...camera.target)];
    const tanX = camera.sensorWidth / 2 / camera.focalLength;
    const half = Math.atan(Math.min(tanX, tanX / this.view!.aspect));
    const stand = position
      .clone()
      .sub(target)
      .normalize()
      .multiplyScalar(radius / Math.sin(half))
      .add(middle);
    return { position: stand.sub(position).toArray(), target: middle.sub(target).toArray() };
  }

  /**
   * A small picture of a frame through its own camera, as a data URL; null while meshes are missing or there is no camera.
   * @param height pixels
   */
  async still(frame: FrameState, aspect: number, height: number): Promise<string | null> {
    const { view } = this;
    if (!view || !this.meshes.has(frame)) return null;
    await this.programs.whenReady;
    return this.stills.draw(frame, view, aspect, height);
  }

  dispose(): void {
    this.quality.dispose();
    this.orbit.dispose();
    this.handles.dispose();
    this.renderer.dispose();
  }

  private showParts(): void {
    if (this.view && this.parts.show(this.view)) void otherWork().then(() => this.showAnew());
  }

  /** Shows parts that have come, or look otherwise. */
  private showAnew(): void {
    this.showParts();
    this.shadowed = false;
    this.draw();
  }

  private camera(): THREE.PerspectiveCamera {
    return this.view?.throughCamera && this.view.frame.camera ? this.shot : this.free;
  }

  private beginTurning(): void {
    if (this.view?.throughCamera) {
      this.copyShotCamera();
      this.flownFrom = { position: this.free.position.clone(), target: this.orbit.target.clone() };
      if (this.view.flies) this.onFly('taken');
    }
    this.turning = true;
    this.onTurning(true);
  }

  private leaveCamera(): void {
    if (!this.view?.throughCamera) return;
    this.copyShotCamera();
    this.view = { ...this.view, throughCamera: false };
    this.onLeaveCamera();
  }

  private copyShotCamera(): void {
    const camera = this.view?.frame.camera;
    if (!camera) return;
    this.free.position.set(...camera.position);
    this.orbit.target.set(...camera.target);
    this.free.fov = this.shot.fov;
    this.free.updateProjectionMatrix();
    this.orbit.update();
  }

  private drawNow(): void {
    const { view } = this;
    if (!view || !this.programs.ready) return;
    const { camera } = view.frame;
    this.aim();
    const through = this.camera() === this.shot;
    this.figures.visible = !through;
    this.grid.visible = view.frame.set.floor.kind === 'none';
    this.handles.camera = this.camera();
    for (const each of this.figures.children) if (each.name === STEADY) asSeen(each, this.camera().position);
    this.more = this.parts.admit();
    const fine = JSON.stringify(this.quality.present);
    this.anew = this.stale || this.more || fine !== this.fine;
    if (this.anew) this.drawLight(view, through);
    this.stale = false;
    this.fine = fine;
    this.developLight();
    this.renderer.render(this.overlay, this.camera());
    if (!through && view.inset && camera) this.drawInset(view, camera, view.inset);
    if (through && view.sharpness && camera) {
      this.veil.aim(camera, view.surround);
      this.veil.draw(this.renderer, this.live.scene, this.shot, [this.parts.group, this.live.floor.mesh]);
    }
    this.quality.drawn(performance.now());
    this.tellStanding();
    this.canvas.dataset['grip'] = this.gripOnCanvas();
    this.canvas.dataset['aim'] = view.aim ? onCanvas(view.aim, this.camera()).join(' ') : '';
    this.canvas.dataset['keys'] = this.motion.keysOnCanvas(this.camera());
    this.canvas.dataset['drawn'] = String(Number(this.canvas.dataset['drawn'] ?? 0) + 1);
    this.onDrawn();
    if (this.more) this.draw();
  }

  /** Draws the set in linear light. */
  private drawLight(view: StageView, through: boolean): void {
    const camera = this.camera();
    const { renderer, live } = this;
    this.sizeTargets();
    const ball = this.parts.ball();
    const shown = Math.max(1, view.aspect / this.free.aspect) * MARGIN;
    const frame = through
      ? { across: (shown * this.free.aspect) / view.aspect, down: shown, aspect: view.aspect }
      : { across: 1, down: 1, aspect: this.free.aspect };
    this.lamps = live.show(view.frame, view, frame, ball.center, view.isolated === null);
    // From behind, a backdrop would hide the product while one works on it.
    live.floor.seenThrough = !through;
    live.backdrop.aim(camera);
    live.rig.uniforms.shadowTaps.value = this.quality.present.shadowTaps;
    live.rig.uniforms.quick.value = this.quality.present.quick;
    if (!this.shadowed && this.quality.present.shadowTaps > 0) {
      this.parts.whileCasting(() => this.shadows.draw(renderer, this.parts.group, this.lamps, ball));
      this.shadowed = true;
    }
    renderer.setRenderTarget(this.target);
    renderer.clear();
    // Where a program shades, what is hidden shall not be shaded.
    if (this.quality.software) {
      camera.layers.set(SOLID_LAYER);
      live.scene.overrideMaterial = this.shadows.material;
      renderer.render(live.scene, camera);
      live.scene.overrideMaterial = null;
      camera.layers.set(0);
    }
    renderer.render(live.scene, camera);
  }

  /** Develops what was drawn in linear light onto the canvas, with the outline of what is selected. */
  private developLight(): void {
    const outlined = this.parts.outlined;
    if (outlined.length > 0) this.drawChosen(outlined, this.camera());
    const chosen = outlined.length > 0 ? this.chosen.texture : null;
    this.live.developer.develop(this.renderer, this.target, chosen, SELECT, null);
  }

  /** Draws what the shot's camera sees into a corner of the canvas. */
  private drawInset(view: StageView, camera: Camera, box: NonNullable<StageView['inset']>): void {
    const { renderer, live } = this;
    const ratio = renderer.getPixelRatio();
    const [width, height] = [Math.round(box.width * ratio), Math.round(box.height * ratio)];
    const resized = this.small.width !== width || this.small.height !== height;
    if (resized) {
      this.small.dispose();
      this.small = lightTarget(width, height, this.quality.software ? 0 : 4);
    }
    if (this.anew || resized) {
      this.eye.aspect = view.aspect;
      aimCamera(this.eye, camera, view.aspect, 1);
      live.show(view.frame, view, { across: 1, down: 1, aspect: view.aspect }, this.parts.ball().center, view.isolated === null); // prettier-ignore
      live.floor.seenThrough = false;
      live.backdrop.aim(this.eye);
      renderer.setRenderTarget(this.small);
      renderer.clear();
      renderer.render(live.scene, this.eye);
    }
    renderer.setRenderTarget(null);
    if (view.share < 1) this.clearRest(view);
    renderer.setViewport(box.left, box.bottom, box.width, box.height);
    live.developer.develop(renderer, this.small, null, SELECT, null);
    renderer.setViewport(0, 0, this.canvas.clientWidth, this.canvas.clientHeight);
  }

  /** Empties the part of the canvas that the free view does not have. */
  private clearRest({ share, surround }: StageView): void {
    const { clientWidth: width, clientHeight: height } = this.canvas;
    const { renderer } = this;
    renderer.setScissor(Math.ceil(width * share), 0, Math.floor(width * (1 - share)), height);
    renderer.setScissorTest(true);
    renderer.setClearColor(surround);
    renderer.clear();
    renderer.setScissorTest(false);
    renderer.setClearColor(0x000000, 0);
  }

  /** Draws what is selected white on black, from which its outline is made. */
  private drawChosen(outlined: readonly THREE.Mesh[], camera: THREE.PerspectiveCamera): void {
    for (const mesh of outlined) mesh.layers.enable(CHOSEN);
    camera.layers.set(CHOSEN);
    this.live.scene.overrideMaterial = this.white;
    this.renderer.setRenderTarget(this.chosen);
    this.renderer.clear();
    this.renderer.render(this.live.scene, camera);
    this.live.scene.overrideMaterial = null;
    camera.layers.set(0);
    for (const mesh of outlined) mesh.layers.disable(CHOSEN);
  }

  /** Gives the pictures in memory the size and fineness that are drawn now. */
  private sizeTargets(): void {
    const { x, y } = this.renderer.getDrawingBufferSize(new THREE.Vector2());
    const { scale, samples } = this.quality.present;
    const [width, height] = [Math.max(2, Math.round(x * scale)), Math.max(2, Math.round(y * scale))];
    const sized = `${width}/${height}/${samples}`;
    if (sized === this.sized) return;
    this.sized = sized;
    this.target.dispose();
    this.target = lightTarget(width, height, samples);
    this.chosen.setSize(width, height);
  }

  /** Aims both cameras, and has them see from a small part of the way to what they look at to far behind it, whatever its size. */
  private aim(): void {
    const camera = this.view?.frame.camera;
    if (camera) {
      // The camera's own frame fills the width or the height of the canvas; the mask shows which part is in the film.
      const shown = Math.max(1, this.view!.aspect / this.free.aspect);
      this.shot.aspect = this.free.aspect;
      aimCamera(this.shot, camera, this.view!.aspect, shown * MARGIN);
    }
    const distance = this.free.position.distanceTo(this.orbit.target);
    this.shareCanvas();
    reach(this.free, distance);
    // A square of the grid is 50 mm about a product of 240, and as much smaller or larger as others are.
    this.grid.scale.setScalar(10 ** Math.round(Math.log10(Math.max(1e-3, distance / GRID_DISTANCE))));
  }

  /** Where the free view has a part of the canvas only, it shows as much across there, with its middle in that of its part. */
  private shareCanvas(): void {
    const share = this.view?.share ?? 1;
    const { clientWidth: width, clientHeight: height } = this.canvas;
    if (this.free.zoom !== share) {
      this.free.zoom = share;
      this.free.updateProjectionMatrix();
    }
    if (share < 1) this.free.setViewOffset(width, height, (width * (1 - share)) / 2, 0, width, height);
    else if (this.free.view?.enabled) this.free.clearViewOffset();
  }

  /** Where the handles are, as parts of the canvas from its top left, for tests and assistive tools; empty without any. */
  private gripOnCanvas(): string {
    if (!this.view?.grip) return '';
    const { x, y } = this.handleTarget.position.clone().project(this.camera());
    return `${((x + 1) / 2).toFixed(4)} ${((1 - y) / 2).toFixed(4)}`;
  }

  private showFigures({ allLights, allCameras, selected, axis, aim, helpers, aspect }: StageView): void {
    this.figures.clear();
    if (axis) {
      const mark = { point: axis.point, line: { direction: axis.direction, length: axis.length } };
      this.figures.add(...markFigures(mark, SELECT, this.camera().position));
    }
    if (aim) this.figures.add(aimFigure(aim, SELECT));
    for (const { id, transform } of helpers) {
      const cross = helperFigure(selected?.id === id ? SELECT : 0x9aa0a6);
      matrixOf(transform).decompose(cross.position, cross.quaternion, new THREE.Vector3());
      cross.name = STEADY;
      this.keepFigure(cross, 'node', id);
    }
    const tint = (kind: string, id: string, plain: number) =>
      selected?.kind === kind && selected.id === id ? SELECT : plain;
    for (const light of allLights)
      this.keepFigure(lampFigure(light, tint('light', lightOf(light.id), 0xf3d774)), 'light', lightOf(light.id));
    for (const camera of allCameras)
      this.keepFigure(cameraFigure(camera, aspect, tint('camera', camera.id, 0x9aa0a6)), 'camera', camera.id);
  }

  private keepFigure(figure: THREE.Object3D, kind: FigureKind, id: string): void {
    figure.userData = { thing: { kind, id } satisfies Thing };
    this.figures.add(figure);
  }

  private showHandles({ grip, gripMode }: StageView): void {
    this.handles.enabled = grip !== null;
    this.handles.getHelper().visible = grip !== null;
    if (this.handles.dragging || !grip) return;
    this.handles.setMode(HANDLES[gripMode]);
    this.handleTarget.position.set(...grip.place);
    this.handleTarget.quaternion.set(...grip.axes);
    this.handleTarget.scale.setScalar(1);
  }

  private tellGrip(): void {
    const { position, quaternion, scale } = this.handleTarget;
    this.onGrip({
      by: position.clone().sub(this.taken.position).toArray(),
      turn: quaternion.clone().multiply(this.taken.quaternion.clone().invert()).toArray(),
      size: scale.toArray(),
      axis: this.handles.axis ?? '',
      axes: this.taken.quaternion.toArray(),
      step: this.steps ? roundStep(this.camera().position.distanceTo(this.taken.position) * STEP) : null,
    });
  }
}

const HANDLES = { move: 'translate', turn: 'rotate', size: 'scale' } as const;
/** Of the distance from which handles are seen, that one of their steps is about. */
const STEP = 0.01;

/** The nearest of 1, 2, 5, 10, … and their parts. */
function roundStep(value: number): number {
  const ten = 10 ** Math.floor(Math.log10(value));
  return [1, 2, 5, 10].map((k) => k * ten).reduce((a, b) => (Math.abs(b - value) < Math.abs(a - value) ? b : a));
}

/** Whether two views show the same, but for what lies over the picture. */
function sameScene(a: StageView, b: StageView): boolean {
  const same = (x: ReadonlySet<string> | null, y: ReadonlySet<string> | null) =>
    x === y || (x !== null && y !== null && x.size === y.size && [...x].every((each) => y.has(each)));
  return (
    a.frame === b.frame &&
    a.look === b.look &&
    a.painted === b.painted &&
    a.paintedBehind === b.paintedBehind &&
    a.throughCamera === b.throughCamera &&
    a.aspect === b.aspect &&
    a.share === b.share &&
    JSON.stringify(a.inset) === JSON.stringify(b.inset) &&
    a.apart?.by === b.apart?.by &&
    same(a.isolated, b.isolated) &&
    same(a.lit, b.lit) &&
    Object.keys(a.pictures).length === Object.keys(b.pictures).length
  );
}

/** Radians above the floor beyond which up would turn over. */
const STEEPEST = Math.PI / 2 - 0.001;
/** Pixels of a lamp's shadow map each way. */
const SHADOW_SIZE = 1024;
/** Name of figures that are as large from wherever they are seen. */
const STEADY = 'steady';
/** Pixels from a line within which it is picked. */
const NEAR_LINE = 6;
/** Layer of what is selected. */
const CHOSEN = 1;

/** Whether a program stands in for the graphics card. */
function isSoftware(renderer: THREE.WebGLRenderer): boolean {
  const gl = renderer.getContext();
  const told = gl.getExtension('WEBGL_debug_renderer_info');
  const name = String(gl.getParameter(told ? told.UNMASKED_RENDERER_WEBGL : gl.RENDERER));
  return /swiftshader|llvmpipe|softpipe|software|basic render/i.test(name);
}

/** Distance from which the grid has its plain size. */
const GRID_DISTANCE = 800;
/** A little more than the frame is shown, so that the mask has an outside. */
const MARGIN = 1.06;

/** The normal of the triangle that was hit, in the world, on the side from which it is seen. */
function outwardAt({ face, object, point }: THREE.Intersection, camera: THREE.Camera): Vector3 {
  const normal = face!.normal
    .clone()
    .applyNormalMatrix(new THREE.Matrix3().getNormalMatrix(object.matrixWorld))
    .normalize();
  const away = point.clone().sub(camera.position).dot(normal) > 0;
  return (away ? normal.negate() : normal).toArray();
}

/** The normal by which a place is shaded: that of its triangle's corners, mixed as it lies between them. */
function shadedNormal({ object, face, point }: THREE.Intersection): Vector3 {
  const { geometry } = object as THREE.Mesh;
  const [normals, positions] = [geometry.getAttribute('normal'), geometry.getAttribute('position')];
  const corners = [face!.a, face!.b, face!.c];
  const at = (attribute: THREE.BufferAttribute | THREE.InterleavedBufferAttribute) =>
    corners.map((corner) => new THREE.Vector3().fromBufferAttribute(attribute, corner));
  const [a, b, c] = at(positions) as [THREE.Vector3, THREE.Vector3, THREE.Vector3];
  const local = object.worldToLocal(point.clone());
  const weights = THREE.Triangle.getBarycoord(local, a, b, c, new THREE.Vector3());
  const own = normals && weights ? at(normals) : [];
  const mixed = new THREE.Vector3();
  own.forEach((normal, k) => mixed.addScaledVector(normal, weights!.getComponent(k)));
  if (mixed.lengthSq() < 1e-12) mixed.copy(face!.normal);
  return mixed.applyNormalMatrix(new THREE.Matrix3().getNormalMatrix(object.matrixWorld)).normalize().toArray();
}
