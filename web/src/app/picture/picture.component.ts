import { ThingMenu } from '../menu/thing-menu';
import { MatButtonModule } from '@angular/material/button';
import { MatRippleModule } from '@angular/material/core';
import { MatMenuModule } from '@angular/material/menu';
import { MatTooltipModule } from '@angular/material/tooltip';
import { MatButtonToggleModule } from '@angular/material/button-toggle';
import { filmUrl } from '../api/urls';
import { filmFormat } from '@zippy/core/reel';
import { ReelFilm } from '../store/reel/reel-film';
import { ReelPictureComponent } from './reel/reel-picture.component';
import {
  focusDistanceTo,
  followedPoint,
  lampsOf,
  placedAimed,
  worldTransforms,
  type GripAxes,
} from '@zippy/core/scene';
import { NgComponentOutlet } from '@angular/common';
import {
  afterNextRender,
  ChangeDetectionStrategy,
  Component,
  computed,
  DestroyRef,
  effect,
  type ElementRef,
  inject,
  signal,
  type Type,
  untracked,
  viewChild,
} from '@angular/core';
import { inOrder, newCamera, pictureFiles, subtree, type Finish, type Vector3 } from '@zippy/core/document';
import { lampKind } from '@zippy/core/optics';
import { isEmpty, normalize, subtract, transformDirection, unite, type Bounds } from '@zippy/core/geometry';
import { Commands } from '../commands/commands';
import { Ask } from '../ui/ask/ask';
import { CameraFlight, type Walk } from './camera-flight';
import { FINISH_DRAG } from '../store/edits/finish-shelf';
import { Importer } from '../tasks/import/importer';
import { IconComponent } from '../ui/icon.component';
import { LENGTH_UNIT, MILLIMETRES } from '../ui/project-units';
import { PickingTask, type Picking } from '../store/picking';
import { PointingTask } from '../store/pointing';
import { Playback } from '../store/playback';
import { SceneBounds } from '../store/scene-bounds';
import { ExposureMeter } from '../store/exposure-meter';
import { Notices } from '../store/notices';
import { ShownLayer } from '../store/shown-layer';
import { Studio } from '../store/studio';
import { Routes } from '../store/edits/routes';
import { Things } from '../store/edits/things';
import { Watching } from '../store/watching';
import { DragBox } from './drag-box';
import { DIMMINGS, GUIDES, Guides, type Dimming, type Guide } from './guides';
import { GuidesComponent } from './guides.component';
import { MatchOpen } from '../tasks/match/match-open';
import { MeshLibrary } from '../meshes/mesh-library';
import type { Grading } from './live/live-quality';
import { MirrorBallComponent } from './mirror-ball.component';
import { SurroundingsPainter } from './surroundings-painter';
import { SecondView } from './second-view';
import { ViewPlanComponent, type Standing } from './view-plan.component';
import { LayerBarComponent } from './take/layer-bar.component';
import { TakePictureComponent } from './take/take-picture.component';
import { TracedComponent } from './traced/traced.component';
import { TracedPicture } from './traced/traced-picture';
import { ShotStills } from '../tasks/shot-stills';
import type { Against, Grade } from '../store/view/view.state';
import { CompareBarComponent } from './compare/compare-bar.component';
import { KeptPicture } from './compare/kept-picture';
import { layerStyle, type LayerBox, type LayerStyle } from './compare/layer-style';
import { Loupe } from './compare/loupe';
import { PictureSeen } from './scopes/picture-seen';
import { ClipMarksComponent } from './scopes/clip-marks.component';
import { ScopesComponent } from './scopes/scopes.component';
import { surveyPick, type Surveyed } from './survey';
import type { Pick, Stage, StageView, Thing } from './stage';
import type { GripMode } from './handles/grip-drag';
import { GripHold } from './handles/grip-hold';
import { GHOSTS, MotionSeen, type GhostChoice } from './motion/motion-seen';

/** Pixels; larger pictures are traced smaller and shown enlarged. */
const MOST_TRACED_WIDTH = 960;

/** Milliseconds without a change after which the traced picture comes by itself, and samples from which on it is seen then. */
const SETTLES_AFTER = 500;
const SETTLED = 4;
/** Parts of a document that a render is of; a look develops takes anew. */
const SCENE = ['nodes', 'finishes', 'lights', 'cameras', 'shots', 'set'] as const;
/** Things behind the first that the menu lists. */
const MOST_BEHIND = 8;
/** Where the browser keeps how the picture is shown. */
const GRADE_KEPT = 'zippy-picture';
const GRADING_KEPT = 'zippy-sketch';
const GRADINGS = { machine: 'as the machine can', light: 'lightly', fine: 'finely' } as const;

const DIMMED: Record<Dimming, string> = {
  none: 'Outside not dimmed',
  little: 'Outside a little dimmed',
  usual: 'Outside dimmed',
  all: 'Outside hidden',
};

const HANDLES: Record<GripMode, string> = { move: 'Handles move', turn: 'Handles turn', size: 'Handles size' };
const AXES: Record<GripAxes, string> = {
  world: 'Along the axes of the world',
  own: 'Along its own axes',
  parent: "Along its parent's axes",
};

const GHOSTS_NAMED: Record<GhostChoice, string> = {
  none: 'none',
  close: 'every 2 frames',
  apart: 'every 6 frames',
  wide: 'every 12 frames',
};

const WALKS: [Walk, string][] = [
  ['forward', 'Alt+ArrowUp'],
  ['back', 'Alt+ArrowDown'],
  ['left', 'Alt+ArrowLeft'],
  ['right', 'Alt+ArrowRight'],
  ['up', 'Alt+PageUp'],
  ['down', 'Alt+PageDown'],
];

const VIEWS: { name: string; from: Vector3 }[] = [
  { name: 'Front view', from: [0, 0.12, 1] },
  { name: 'Back view', from: [0, 0.12, -1] },
  { name: 'Left view', from: [-1, 0.12, 0] },
  { name: 'Right view', from: [1, 0.12, 0] },
  { name: 'Top view', from: [0, 1, 0.001] },
  { name: 'Three-quarter view', from: [-0.6, 0.45, 1] },
];

/** The one picture: the sketch, the frames of a take, or a film. */
@Component({
  selector: 'zr-picture',
  imports: [
    ClipMarksComponent,
    CompareBarComponent,
    GuidesComponent,
    NgComponentOutlet,
    IconComponent,
    LayerBarComponent,
    MatMenuModule,
    MatRippleModule,
    MatButtonModule,
    MatButtonToggleModule,
    MatTooltipModule,
    MirrorBallComponent,
    ScopesComponent,
    ReelPictureComponent,
    TakePictureComponent,
    TracedComponent,
    ViewPlanComponent,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './picture.component.html',
  styleUrl: './picture.component.scss',
  host: {
    '(document:keydown.escape)':
      'marking.set(false); focusing.set(null); boxing.set(false); pointing.task.set(null); stopPicking()',
  },
})
export class PictureComponent {
  readonly reel = inject(ReelFilm);
  readonly studio = inject(Studio);
  readonly watching = inject(Watching);
  private readonly things = inject(Things);
  private readonly routes = inject(Routes);
  private readonly notices = inject(Notices);
  private readonly bounds = inject(SceneBounds);
  private readonly importer = inject(Importer);
  private readonly commands = inject(Commands);
  private readonly stills = inject(ShotStills);
  private readonly library = inject(MeshLibrary);
  private readonly painter = inject(SurroundingsPainter);
  private readonly flying = inject(CameraFlight);
  private readonly ask = inject(Ask);
  readonly picking = inject(PickingTask);
  readonly pointing = inject(PointingTask);
  private readonly traced = inject(TracedPicture);
  private readonly canvas = viewChild.required<ElementRef<HTMLCanvasElement>>('canvas');
  private readonly area = viewChild.required<ElementRef<HTMLElement>>('area');
  private readonly stage = signal<Stage | null>(null);
  private readonly size = signal({ width: 1, height: 1 });
  readonly focusing = signal<'here' | 'follow' | null>(null);
  readonly took = signal<string | null>(null);
  readonly unseen = signal(false);
  private pressed: { x: number; y: number } | null = null;
  private rightPressed: { x: number; y: number } | null = null;
  private readonly menu = inject(ThingMenu);
  readonly hold = inject(GripHold);
  readonly motion = inject(MotionSeen);

  readonly take = inject(ShownLayer).take;
  /** The scene has been changed since the take was rendered. */
  readonly takeOlder = computed(() => this.take() !== null && this.studio.isOlder(this.take()!));
  readonly aspect = computed(() => {
    // A take that is seen has the shape it was rendered in.
    const { width, height } = (this.shows('take') ? this.take()?.settings : null) ?? this.studio.pictureSize();
    return width / height;
  });
  /** The film's frame inside the canvas, in pixels; the same margin as the stage's. */
  readonly mask = computed(() => {
    const { width, height } = this.size();
    const canvasAspect = width / height;
    const wide = canvasAspect > this.aspect() ? (height * this.aspect()) / 1.06 : width / 1.06;
    const high = wide / this.aspect();
    return { left: (width - wide) / 2, top: (height - high) / 2, width: wide, height: high };
  });
  /** Dragging marks a region now. */
  readonly marking = signal(false);
  private readonly regionDrag = new DragBox();
  /** The marked region in pixels of the area. */
  readonly regionBox = computed(() => {
    const region = this.region();
    if (!region || !this.throughCamera()) return null;
    const { left, top, width, height } = this.mask();
    return {
      left: left + region.left * width,
      top: top + region.top * height,
      width: (region.right - region.left) * width,
      height: (region.bottom - region.top) * height,
    };
  });
  readonly loupe = inject(Loupe);
  readonly keeping = inject(KeptPicture);
  readonly seen = inject(PictureSeen);
  private readonly exposureMeter = inject(ExposureMeter);
  /** How a picture that lies in a box is drawn: beside or over what it is compared with, and how near. */
  layer = (shown: Grade | Against, box: LayerBox): LayerStyle =>
    layerStyle(shown, this.ownOf(shown), this.studio.wipe(), box, this.size(), this.loupe.zoom());

  /** The grade that is shown anyway: what settles is the sketch, and the traced picture over it. */
  private ownOf(shown: Grade | Against): Grade {
    const [grade, wipe] = [this.studio.grade(), this.studio.wipe()];
    const settles = grade === 'settle' && wipe?.against !== shown;
    return settles && (shown === 'traced' || shown === 'sketch') ? shown : grade;
  }
  readonly wholeBox = computed((): LayerBox => ({ left: 0, top: 0, ...this.size() }));
  /** The sketch lies below all others: where it is none of two that are compared, it is not seen beside them. */
  readonly sketchHidden = computed(() => {
    const [grade, wipe] = [this.studio.grade(), this.studio.wipe()];
    return wipe !== null && wipe.against !== 'sketch' && grade !== 'sketch' && grade !== 'settle';
  });
  /** Another take that is compared with. */
  readonly otherTake = computed(() => {
    const against = this.studio.wipe()?.against ?? '';
    const id = against.startsWith('take:') ? against.slice('take:'.length) : null;
    return this.studio.takes().find((take) => take.id === id) ?? null;
  });
  /** What lies to the right of the edge. */
  readonly sideName = computed(() => {
    const [wipe, other] = [this.studio.wipe(), this.otherTake()];
    return other ? `take ${other.number}` : (wipe?.against ?? '');
  });
  readonly keptShown = computed(() => (this.studio.wipe()?.against === 'kept' ? this.keeping.kept() : null));
  /** Where the picture that lies on top is in the area, so that what is clipped can be marked in it. */
  readonly seenBox = computed((): LayerBox => {
    const top = this.seen.top();
    const { width, height } = this.size();
    const traced = this.tracedBox();
    const own = this.throughCamera() ? this.mask() : { left: 0, top: 0, width, height };
    const box = top === 'traced' ? traced : top === 'take' ? this.fittedTake() : own;
    const { scale, x, y } = this.loupe.zoom();
    return {
      left: box.left * scale + x,
      top: box.top * scale + y,
      width: box.width * scale,
      height: box.height * scale,
    };
  });
  /** The take's picture within its box, which it is fitted into. */
  private readonly fittedTake = computed((): LayerBox => {
    const box = this.takeBox();
    const settings = this.take()?.settings;
    const aspect = settings ? settings.width / settings.height : this.aspect();
    const width = Math.min(box.width, box.height * aspect);
    const height = width / aspect;
    return { left: box.left + (box.width - width) / 2, top: box.top + (box.height - height) / 2, width, height };
  });
  /** The pointer over the picture that lies on top, in parts of it. */
  readonly seenPointer = signal<{ x: number; y: number } | null>(null);

  track(event: PointerEvent): void {
    if (!this.seen.watching()) return;
    const [box, area] = [this.seenBox(), this.area().nativeElement.getBoundingClientRect()];
    const [x, y] = [
      (event.clientX - area.left - box.left) / box.width,
      (event.clientY - area.top - box.top) / box.height,
    ];
    this.seenPointer.set(x >= 0 && y >= 0 && x < 1 && y < 1 ? { x, y } : null);
  }

  /** Draws the picture so near that its pixels are those of the screen, or all of it again. */
  toThePixel(): void {
    if (!this.loupe.fitted()) return this.loupe.fit();
    const { width, height } = this.size();
    const box = this.seen.top() === 'take' ? this.fittedTake() : this.tracedBox();
    const pixels = this.seen.top() === 'take' ? (this.take()?.settings.width ?? box.width) : Math.min(MOST_TRACED_WIDTH, box.width); // prettier-ignore
    const near = pixels / devicePixelRatio / box.width;
    // What has its own pixels already is drawn twice as large.
    this.loupe.about(near > 1.05 ? near : 2, width / 2, height / 2);
  }

  dragLoupe(event: PointerEvent): void {
    if (event.buttons & 1) this.loupe.shift(event.movementX, event.movementY);
    this.track(event);
  }

  zoomLoupe(event: WheelEvent): void {
    event.preventDefault();
    event.stopPropagation();
    const { left, top } = this.area().nativeElement.getBoundingClientRect();
    this.loupe.about(2 ** (-event.deltaY / 300), event.clientX - left, event.clientY - top);
  }

  /** Whether a grade is seen: alone, or on one side of the wipe. */
  shows(grade: Grade): boolean {
    const [present, wipe] = [this.studio.grade(), this.studio.wipe()];
    return present === grade || wipe?.against === grade;
  }

  /** The take lies in the film's frame while it is compared, and fills the picture alone. */
  readonly takeBox = computed(() =>
    this.studio.wipe() && this.throughCamera() ? this.mask() : { left: 0, top: 0, ...this.size() },
  );
  readonly turning = signal(false);
  /** Nothing of the picture has changed for half a second. */
  private readonly still = signal(false);
  readonly SETTLED = SETTLED;
  readonly guides = inject(Guides);
  private readonly matching = inject(MatchOpen);
  /** What is drawn over the plate while it is marked, fetched when it first is. */
  readonly marks = signal<Type<unknown> | null>(null);
  readonly marked = computed(() => this.matching.open() && this.studio.throughCamera());
  private readonly lengthUnit = inject(LENGTH_UNIT);
  readonly GUIDES = GUIDES;
  readonly DIMMED = DIMMED;
  readonly handleModes = Object.keys(HANDLES) as GripMode[];
  readonly HANDLES = HANDLES;
  readonly axesNames = Object.keys(AXES) as GripAxes[];
  readonly AXES = AXES;
  readonly ghostNames = Object.keys(GHOSTS) as GhostChoice[];
  readonly GHOSTS_NAMED = GHOSTS_NAMED;
  readonly guideNames = Object.keys(GUIDES) as Guide[];
  readonly dimmings = Object.keys(DIMMINGS) as Dimming[];
  readonly dimming = computed(() => DIMMINGS[this.guides.dimming()]);
  /** Counts moves of the free view that have come to rest. */
  private readonly rested = signal(0);
  readonly tracing = computed(() => {
    const playing = this.studio.playing();
    const wanted = this.shows('traced') || (this.studio.grade() === 'settle' && this.still());
    return wanted && !playing && (this.besideTraced() || !this.turning()) && this.stage() !== null;
  });
  /** Where the traced picture lies: the film's frame, the second view, or all of the free one. */
  readonly tracedBox = computed(() => {
    if (this.throughCamera()) return this.mask();
    const [box, { width, height }] = [this.second.box(), this.size()];
    if (box && this.second.tracesCamera()) return { ...box, top: height - box.bottom - box.height };
    return { left: 0, top: 0, width: width * this.second.share(), height };
  });
  // Of their own, so that frames that arrive and films that encode do not draw the sketch again.
  private readonly isolated = computed(() => this.studio.isolated());
  private readonly litNode = computed(() => this.studio.lit());
  private readonly apart = computed(() => this.studio.apart());
  private readonly apartShown = computed(() => {
    const by = this.apart();
    return by > 0 ? { by, center: this.bounds.product().center, middles: this.bounds.middles() } : null;
  });
  /** Of its own, so that only another look traces the picture anew. */
  private readonly shownLook = computed(() => this.studio.shownLook(this.studio.look()), {
    equal: (a, b) => a === b || JSON.stringify(a) === JSON.stringify(b),
  });
  private readonly throughCamera = computed(() => this.studio.throughCamera());
  private readonly region = computed(() => this.studio.region());
  /** The line about which the selected node turns. */
  private readonly axisShown = computed(() => {
    const grip = this.hold.grip();
    const node = grip?.collection === 'nodes' ? this.studio.present().nodes[grip.id] : undefined;
    const point = this.hold.place();
    if (!node || !point) return null;
    const world = worldTransforms(this.studio.present(), [node.id]).get(node.id)!;
    const box = this.bounds.of(subtree(this.studio.document(), node.id));
    const size = isEmpty(box) ? 60 : Math.hypot(...box.high.map((v, k) => v - box.low[k]!));
    return { point, direction: normalize(transformDirection(world, node.axis)), length: Math.max(20, size * 1.6) };
  });
  private readonly helpers = computed(() => {
    const present = this.studio.present();
    const ids = Object.values(present.nodes).flatMap(({ id, kind, visible }) =>
      kind === 'helper' && visible ? [id] : [],
    );
    const world = worldTransforms(present, ids);
    return ids.map((id) => ({ id, transform: world.get(id)! }));
  });
  readonly lens = computed(() => {
    const camera = this.studio.frameState().camera;
    return camera
      ? `${Math.round(camera.focalLength)} mm · ${camera.fStop > 0 ? `f/${camera.fStop}` : 'all sharp'}`
      : 'no camera';
  });
  readonly time = computed(() => ((this.studio.frame() - 1) / this.studio.frameRate()).toFixed(2));
  /** A take or film lies over all of the sketch. */
  private readonly covered = computed(() => this.filmUrl() !== null || this.reel.shown() || this.takeAlone());
  /** Shows a grade of the picture in place of a film. */
  show(grade: Grade | 'film' | 'reel'): void {
    if (grade === 'film') return;
    if (grade === 'reel') {
      this.watching.film.set(null);
      return this.reel.show();
    }
    if (grade !== 'take') localStorage.setItem(GRADE_KEPT, grade);
    this.watching.film.set(null);
    this.studio.showGrade(grade);
  }

  /** What plays by itself as a picture does, and not as a video. */
  readonly filmIsPicture = computed(() => filmFormat(this.watching.film()!.format).mediaType.startsWith('image/'));
  readonly filmUrl = computed(() => {
    const film = this.watching.film();
    return film ? filmUrl(film.id) : null;
  });

  constructor() {
    effect(() => {
      const [wipe, answer] = [this.studio.wipe(), this.traced.answer()];
      void wipe;
      const traced = this.tracing() && (answer?.samples ?? 0) >= (this.shows('traced') ? 1 : SETTLED);
      this.seen.top.set(this.studio.grade() === 'take' && this.take() ? 'take' : traced ? 'traced' : 'sketch');
    });
    // The playhead moves wherever a picture is there to show it.
    inject(Playback);
    afterNextRender(() => void this.start());
    effect(() => {
      const stage = this.stage();
      const { width, height } = this.size();
      this.second.size.set({ width, height });
      stage?.resize(width, height);
    });
    effect(() => this.second.aspect.set(this.aspect()));
    effect(() => {
      if (this.marked() && !this.marks())
        void import('./match-marks.component').then((part) => this.marks.set(part.MatchMarksComponent));
    });
    // All that the view is made of, which is not looked at here: of large models that takes its time.
    effect(() => {
      const stage = this.stage();
      this.studio.document();
      this.studio.shotId();
      this.studio.frame();
      this.studio.selection();
      this.studio.desk();
      this.isolated();
      this.litNode();
      this.apart();
      this.throughCamera();
      this.studio.sharpness();
      this.aspect();
      this.bounds.meshes();
      this.picking.task();
      this.painter.arrived();
      this.shownLook();
      this.second.box();
      this.hold.mode();
      this.hold.axes();
      this.motion.ghosts();
      if (stage) this.showSoon(stage);
    });
    effect(() => this.stage()?.cover(this.covered() || this.traced.awaited()));
    const kept = localStorage.getItem(GRADE_KEPT);
    if (kept === 'sketch' || kept === 'traced') this.studio.showGrade(kept);
    // What the traced picture is of: clicks and desks that change none of it leave it where it is.
    effect((onCleanup) => {
      this.studio.frameState();
      this.shownLook();
      this.tracedBox();
      this.isolated();
      this.region();
      if (!this.besideTraced()) {
        this.rested();
        this.turning();
      }
      untracked(() => this.still.set(false));
      const timer = setTimeout(() => this.still.set(true), SETTLES_AFTER);
      onCleanup(() => clearTimeout(timer));
    });
    // What is seen is what is edited: a take is older than what has been done since.
    let edited = { project: this.studio.project(), document: this.studio.document() };
    effect(() => {
      const now = { project: this.studio.project(), document: this.studio.document() };
      const changed = SCENE.some((part) => now.document[part] !== edited.document[part]);
      const sees = untracked(() => this.studio.grade() === 'take' && !this.studio.wipe());
      if (changed && sees && now.project === edited.project) this.studio.showGrade('settle');
      edited = now;
    });
    effect(() => {
      if (this.tracing()) this.trace();
      else untracked(() => this.traced.stop());
    });
    // Frames a model that has just been placed, once its meshes are here.
    effect(() => {
      const placed = this.importer.placed();
      this.bounds.meshes();
      if (!placed || !this.stage()) return;
      const box = untracked(() => this.bounds.of(subtree(this.studio.document(), placed)));
      if (isEmpty(box)) return;
      this.importer.placed.set(null);
      this.stage()!.frameBox(box, VIEWS[5]!.from);
    });
  }

  private readonly gripShown = computed(() => {
    const place = this.hold.place();
    return place && { place, axes: this.hold.axes() };
  });

  private readonly view = computed((): StageView => {
    const aimed = placedAimed(this.studio.present());
    const isolated = this.isolated();
    const document = this.studio.document();
    return {
      frame: this.studio.frameState(),
      look: this.shownLook(),
      ...this.paintedAround(),
      pictures: pictureFiles(document.assets),
      allLights: inOrder(aimed.lights).flatMap((light) => lampsOf(light, this.studio.present().moment)),
      allCameras: inOrder(aimed.cameras),
      selected: this.studio.primary(),
      selectedNodes: new Set(this.studio.selectedNodes().flatMap((id) => subtree(document, id))),
      isolated: isolated ? new Set(subtree(document, isolated)) : null,
      lit: this.litNode() ? new Set(subtree(document, this.litNode()!)) : null,
      apart: this.apartShown(),
      throughCamera: this.throughCamera(),
      flies: this.flyable() !== null,
      inset: this.second.box(),
      share: this.second.share(),
      sharpness: this.studio.sharpness(),
      grip: this.gripShown(),
      aim: this.hold.aim(),
      axis: this.axisShown(),
      helpers: this.helpers(),
      gripMode: this.hold.mode(),
      motion: this.motion.seen(),
      aspect: this.aspect(),
      surround: getComputedStyle(this.area().nativeElement).getPropertyValue('--surround').trim() || '#2a2a2b',
    };
  });
  readonly second = inject(SecondView);
  /** Where the free view stands. */
  readonly standing = signal<Standing>({ around: 0, above: 0 });
  /** What a click into looks through the camera, in pixels from the left and the bottom. */
  readonly secondBox = computed(() => {
    const box = this.second.box();
    const { width, height } = this.size();
    return box && this.second.beside() ? { left: width / 2, bottom: 0, width: width / 2, height } : box;
  });
  /** Cuts the corner out of what lies over the sketch, which draws it. */
  readonly insetHole = computed(() => {
    const box = this.second.box();
    if (!box || this.second.beside() || this.tracesCamera()) return null;
    const [right, top] = [`${box.left + box.width}px`, `calc(100% - ${box.bottom + box.height}px)`];
    return `polygon(0 0, 100% 0, 100% 100%, ${right} 100%, ${right} ${top}, ${box.left}px ${top}, ${box.left}px 100%, 0 100%)`;
  });
  /** The traced picture is that of the second view: the free one may be moved meanwhile. */
  private readonly besideTraced = computed(() => this.second.box() !== null && this.second.tracesCamera());
  private readonly tracesCamera = computed(() => this.throughCamera() || this.besideTraced());

  /** What stands all around the set, as far as it has been painted. */
  private readonly paintedAround = computed(() => {
    this.painter.arrived();
    const { surroundings, behind } = this.studio.frameState().set;
    const { assets } = this.studio.document();
    const { picture, mirrored } = behind;
    const seen = { ...surroundings, kind: 'picture' as const, picture, mirrored, contrast: 1, saturation: 1, blur: 0 };
    return {
      painted: this.painter.of(surroundings, assets),
      paintedBehind: behind.kind === 'picture' && picture ? this.painter.of(seen, assets) : null,
    };
  });
  /** The camera that turning the view flies: the one that is looked through, unless it is locked. */
  private readonly flyable = computed(() => {
    const seen = this.throughCamera() ? this.studio.frameState().camera?.id : undefined;
    const camera = seen ? this.studio.document().cameras[seen] : undefined;
    // On a route it is where the viewpoints say, however it is flown.
    return camera && !camera.locked && !this.routes.onRoute(camera.id) ? camera.id : null;
  });
  private shown: StageView | null = null;
  private timer: ReturnType<typeof setTimeout> | undefined;

  /** Shows what is to be seen in a task of its own, once for all that changes until then, and only what has changed. */
  private showSoon(stage: Stage): void {
    this.timer ??= setTimeout(() => {
      this.timer = undefined;
      const view = untracked(this.view);
      if (view !== this.shown) stage.show(view);
      this.shown = view;
    });
  }

  dragWipe(event: PointerEvent): void {
    const wipe = this.studio.wipe();
    if (!wipe || !(event.buttons & 1)) return;
    (event.target as HTMLElement).setPointerCapture(event.pointerId);
    const box = this.area().nativeElement.getBoundingClientRect();
    this.moveWipe((event.clientX - box.left) / box.width - wipe.at);
  }

  moveWipe(by: number): void {
    const wipe = this.studio.wipe();
    if (wipe) this.studio.setWipe({ ...wipe, at: Math.min(1, Math.max(0, wipe.at + by)) });
  }

  /** Marks a region by dragging over the film's frame; a click without a drag takes the mark away. */
  startRegion(): void {
    this.studio.markRegion(null);
    this.studio.lookThroughCamera(true);
    this.marking.update((marking) => !marking);
  }

  dragRegion(event: PointerEvent): void {
    const area = this.area().nativeElement.getBoundingClientRect();
    const mask = this.mask();
    const box = this.regionDrag.follow(event, { ...mask, left: area.left + mask.left, top: area.top + mask.top });
    if (!box) return;
    const { ended, ...region } = box;
    if (ended) this.marking.set(false);
    const marked = region.right - region.left > 0.01 && region.bottom - region.top > 0.01;
    this.studio.markRegion(marked ? region : null);
  }

  /** What the place under the pointer would be taken as, said while something waits for a click. */
  readonly felt = signal<string | null>(null);
  private feeling = false;
  private feelNext: PointerEvent | null = null;

  /** What of the canvas is the film's frame, in parts of it. */
  private partOfCanvas(): LayerBox | null {
    if (!this.throughCamera()) return null;
    const [{ left, top, width, height }, size] = [this.mask(), this.size()];
    return { left: left / size.width, top: top / size.height, width: width / size.width, height: height / size.height };
  }

  /** Points out what a click would take. One look at a time; of those that come meanwhile the last counts. */
  async feel(event: PointerEvent): Promise<void> {
    const task = this.picking.task();
    if (!task) return;
    if (this.feeling) {
      this.feelNext = event;
      return;
    }
    this.feeling = true;
    try {
      const found = await this.survey(event, task.kind);
      if (this.picking.task() !== task) return;
      this.felt.set(found?.said ?? null);
      this.stage()?.hover(task.kind === 'part' ? (found?.place.node ?? null) : null);
      this.stage()?.point(task.kind === 'part' ? null : (found?.mark ?? null));
    } catch (error) {
      this.notices.tell(error);
    } finally {
      this.feeling = false;
      const next = this.feelNext;
      this.feelNext = null;
      if (next) void this.feel(next);
    }
  }

  private async survey(event: PointerEvent, kind: Picking['kind']): Promise<Surveyed | null> {
    const hit = this.pickAt(event);
    const name = hit && this.studio.document().nodes[hit.node]?.name;
    return hit && surveyPick(this.library, hit, kind, name ?? '');
  }

  /** Ends what waits for a click without one. */
  stopPicking(): void {
    this.picking.task.set(null);
    this.felt.set(null);
    this.stage()?.point(null);
    this.stage()?.hover(null);
  }

  private async takePlace(event: PointerEvent): Promise<void> {
    const task = this.picking.task()!;
    try {
      const found = await this.survey(event, task.kind);
      if (!found) return;
      this.stopPicking();
      await task.done(found.place);
    } catch (error) {
      this.notices.tell(error);
    }
  }

  /** Has what follows the pointer follow it, from where it is pressed to where it is let go. */
  pointOver(event: PointerEvent): void {
    const [task, stage] = [this.pointing.task(), this.stage()];
    if (!task || !stage || event.button > 0) return;
    if (event.type === 'pointerdown') (event.target as HTMLElement).setPointerCapture(event.pointerId);
    else if (event.type === 'pointermove' && event.buttons !== 1) return;
    const place = stage.seenAt(...this.onCanvas(event));
    if (event.type === 'pointerup') {
      this.pointing.task.set(null);
      task.done(place);
    } else if (place) task.over(place);
  }

  /** Drags a key on the path of what is selected, or what that is aimed at, over the parts; a click on a key goes to its frame. */
  private dragMark(event: PointerEvent): void {
    const stage = this.stage();
    const mark =
      event.button === 0 && !this.picking.task() && !this.takeAlone() ? stage?.pickMark(...this.onCanvas(event)) : null;
    if (!stage || !mark) return;
    event.stopPropagation();
    const area = this.area().nativeElement;
    area.setPointerCapture(event.pointerId);
    let moved = false;
    const follow = (next: PointerEvent) => {
      const at = this.onCanvas(next);
      // What is aimed is aimed at a part where one is.
      const part = mark.frame === null ? stage.pickAll(...at)[0] : undefined;
      const to = part?.point ?? stage.acrossView(mark.place, ...at);
      moved ||= Math.hypot(next.clientX - event.clientX, next.clientY - event.clientY) > 3;
      if (!moved || !to) return;
      if (mark.frame === null) this.hold.aimBy(subtract(to, mark.place));
      else this.motion.drag(subtract(to, mark.place));
    };
    const drop = () => {
      area.removeEventListener('pointermove', follow);
      this.motion.drop();
      this.hold.aimBy('dropped');
      if (!moved && mark.frame !== null) this.studio.goTo(mark.frame);
    };
    if (mark.frame === null) this.hold.aimBy('taken');
    else this.motion.take(mark.frame);
    area.addEventListener('pointermove', follow);
    area.addEventListener('pointerup', drop, { once: true });
    area.addEventListener('pointercancel', drop, { once: true });
  }

  /** Where a pointer is on the canvas, in parts of it from its top left. */
  private onCanvas({ clientX, clientY }: MouseEvent): [number, number] {
    const box = this.canvas().nativeElement.getBoundingClientRect();
    return [(clientX - box.left) / box.width, (clientY - box.top) / box.height];
  }

  press(event: PointerEvent): void {
    this.pressed = { x: event.clientX, y: event.clientY };
    if (event.button === 2) this.rightPressed = this.pressed;
  }

  /** The menu of the part under the pointer, where the right button was not used to move the view. */
  menuAt(event: MouseEvent): void {
    event.preventDefault();
    const start = this.rightPressed;
    if (start && Math.hypot(event.clientX - start.x, event.clientY - start.y) > 4) return;
    const hits = this.picksAt(event);
    const figure = this.figureAt(event, hits[0]);
    const nodes = this.studio.document().nodes;
    const parts = hits.map(({ node }) => ({ kind: 'node' as const, id: node, name: nodes[node]?.name ?? '' }));
    const [first = null] = figure ? [figure] : parts;
    this.menu.openFor(event, first, (figure ? parts : parts.slice(1)).slice(0, MOST_BEHIND));
  }

  /** The lamp, camera or helper that a click means: a part is seen through a lamp's sheet, so that a click there means the part. */
  private figureAt(event: MouseEvent, hit: Pick | undefined): Thing | null {
    const figure = this.stage()?.pickFigure(...this.onCanvas(event)) ?? null;
    return figure && (!hit || (!figure.sheet && figure.distance <= hit.distance)) ? figure : null;
  }

  release(event: PointerEvent): void {
    const start = this.pressed;
    this.pressed = null;
    if (!start || Math.hypot(event.clientX - start.x, event.clientY - start.y) > 4 || event.button !== 0) return;
    if (this.picking.task()) return void this.takePlace(event);
    const hits = this.picksAt(event);
    const [hit] = hits;
    if (this.focusing()) {
      const camera = this.studio.frameState().camera;
      if (hit && camera) this.setFocus(camera.id, hit);
      this.focusing.set(null);
      return;
    }
    const figure = this.figureAt(event, hit);
    if (figure) this.studio.select(figure.kind, figure.id, event.ctrlKey || event.shiftKey);
    else if (hit) this.studio.select('node', this.oneBehind(event, hits), event.ctrlKey || event.shiftKey);
    else if (!event.ctrlKey && !event.shiftKey) this.studio.selectAll([]);
  }

  private clicked: { x: number; y: number; node: string } | null = null;

  /** The part that a click picks: the nearest, or the next one behind where the click before was here too. */
  private oneBehind({ clientX: x, clientY: y }: PointerEvent, hits: Pick[]): string {
    const nodes = hits.map(({ node }) => node);
    const last = this.clicked;
    const again =
      last && Math.hypot(x - last.x, y - last.y) < 4 && last.node === this.studio.selectedNodes().at(-1)
        ? nodes.indexOf(last.node)
        : -1;
    const node = nodes[(again + 1) % nodes.length]!;
    this.clicked = { x, y, node };
    return node;
  }

  /** Dragging selects what lies within a box now. */
  readonly boxing = signal(false);
  readonly box = signal<{ left: number; top: number; width: number; height: number } | null>(null);
  private readonly boxDrag = new DragBox();

  dragBox(event: PointerEvent): void {
    const area = this.area().nativeElement.getBoundingClientRect();
    const box = this.boxDrag.follow(event, area);
    if (!box) return;
    const { left, top, right, bottom, ended } = box;
    this.box.set({
      left: left * area.width,
      top: top * area.height,
      width: (right - left) * area.width,
      height: (bottom - top) * area.height,
    });
    if (!ended) return;
    this.box.set(null);
    this.boxing.set(false);
    const found = this.stage()?.within(left, top, right, bottom) ?? [];
    const more = event.ctrlKey || event.shiftKey ? this.studio.selection().filter(({ kind, id }) => kind === 'node' && !found.includes(id)) : []; // prettier-ignore
    this.studio.selectAll([...more, ...found.map((id) => ({ kind: 'node' as const, id }))]);
    this.say(found.length === 1 ? '1 part selected' : `${found.length} parts selected`);
  }

  /** Says for a moment what was done. */
  private say(text: string): void {
    this.took.set(text);
    setTimeout(() => this.took.set(null), 4000);
  }

  dragFinish(event: DragEvent): void {
    if (!event.dataTransfer?.types.includes(FINISH_DRAG)) return;
    event.preventDefault();
    event.dataTransfer.dropEffect = 'copy';
    this.stage()?.hover(this.pickAt(event)?.node ?? null);
  }

  dropFinish(event: DragEvent): void {
    const data = event.dataTransfer?.getData(FINISH_DRAG);
    this.stage()?.hover(null);
    if (!data) return;
    event.preventDefault();
    const hit = this.pickAt(event);
    if (!hit) return this.say('No part is there: nothing was changed. Drop it on a part.');
    this.things.wear([hit.node], JSON.parse(data) as string | Partial<Finish>);
    this.studio.select('node', hit.node);
    const part = this.studio.document().nodes[hit.node]!;
    this.say(`${part.name} wears ${this.studio.document().finishes[this.studio.dressed()(part)!]!.name}`);
  }

  leaveDrag(): void {
    this.stage()?.hover(null);
  }

  /** A camera that follows something follows what is clicked from now on; another one stays sharp at its distance. */
  private setFocus(id: string, { node, transform, point }: Pick): void {
    const distance = focusDistanceTo(this.studio.frameState().camera!, point);
    if (this.focusing() === 'follow' || this.studio.document().cameras[id]?.focusOn) {
      const focusOn = followedPoint(node, transform, point);
      this.studio.edit('Stay sharp here', (draft) => void (draft.cameras[id]!.focusOn = focusOn));
      this.say(`Stays sharp on ${this.studio.document().nodes[node]!.name}`);
      return;
    }
    this.studio.setProperty('Sharp here', `cameras/${id}/focusDistance`, Math.round(distance * 10) / 10);
    this.say(`Sharp at ${Math.round(distance)} mm`);
  }

  private pickAt = (event: MouseEvent): Pick | null => this.picksAt(event)[0] ?? null;

  private picksAt(event: MouseEvent): Pick[] {
    const [x, y] = this.onCanvas(event);
    if (!this.takeAlone()) return this.stage()?.pickAll(x, y) ?? [];
    // A take alone fills the picture: what lies there in it lies in the film's frame of its camera.
    const { width, height } = this.size();
    const across = Math.min(width, height * this.aspect());
    const [u, v] = [((x - 0.5) * width) / across, ((y - 0.5) * height * this.aspect()) / across];
    if (Math.abs(u) > 0.5 || Math.abs(v) > 0.5) return [];
    const { left, top, width: wide, height: high } = this.mask();
    return this.stage()?.pickAll((left + (u + 0.5) * wide) / width, (top + (v + 0.5) * high) / height, true) ?? [];
  }

  /** A take is all that is seen. */
  readonly takeAlone = computed(() => {
    const [grade, wipe] = [this.studio.grade(), this.studio.wipe()];
    return grade === 'take' && wipe === null && this.take() !== null;
  });

  private readonly destroy = inject(DestroyRef);

  private async start(): Promise<void> {
    const area = this.area().nativeElement;
    const watcher = new ResizeObserver(() => this.size.set({ width: area.clientWidth, height: area.clientHeight }));
    watcher.observe(area);
    this.size.set({ width: area.clientWidth, height: area.clientHeight });
    const { Stage } = await import('./stage');
    let stage: Stage;
    try {
      stage = new Stage(this.canvas().nativeElement, this.library);
    } catch {
      this.unseen.set(true);
      return;
    }
    stage.onMeshes = (bounds, triangles, bare) => {
      // Before the bounds, by which it is seen that they have come.
      this.bounds.bare.update((known) => new Set([...known, ...bare]));
      this.bounds.meshes.update((known) => new Map([...known, ...bounds]));
      this.bounds.triangles.update((known) => new Map([...known, ...triangles]));
    };
    stage.onLeaveCamera = () => void this.leaveCamera();
    stage.onFly = (by) => this.flying.fly(by, this.flyable());
    stage.onStanding = (standing) => this.standing.set(standing);
    stage.onTurning = (turning) => {
      this.turning.set(turning);
      this.rested.update((count) => count + 1);
    };
    stage.onFailure = (message) => this.notices.tell(message);
    stage.onGrip = (drag) => this.hold.drag(drag);
    stage.onDrawn = () => this.seen.drew('sketch', this.canvas().nativeElement, this.partOfCanvas());
    this.seen.redraw = () => stage.draw();
    this.exposureMeter.ask = (look) => this.seen.meter(look);
    // Before the view takes the wheel for its own.
    const wheel = (event: WheelEvent) => this.wheel(event);
    const key = (event: PointerEvent) => this.dragMark(event);
    area.addEventListener('wheel', wheel, { capture: true, passive: false });
    area.addEventListener('pointerdown', key, { capture: true });
    // Numbers that are typed while handles are dragged are no shortcuts.
    const typed = (event: KeyboardEvent) => {
      if (!this.hold.press(event)) return;
      event.preventDefault();
      event.stopPropagation();
    };
    document.addEventListener('keydown', typed, { capture: true });
    this.destroy.onDestroy(() => {
      area.removeEventListener('wheel', wheel, { capture: true });
      area.removeEventListener('pointerdown', key, { capture: true });
      document.removeEventListener('keydown', typed, { capture: true });
    });
    const grading = localStorage.getItem(GRADING_KEPT);
    if (grading === 'light' || grading === 'fine') stage.grade(grading);
    this.stage.set(stage);

    this.stills.stage.set(stage);
    this.commands.ofPicture.set([
      { name: 'Frame the selection', keys: 'F', run: () => this.frameSelection() },
      {
        name: 'Frame the selection by the camera',
        words: 'fly camera fit',
        keys: 'Shift+F',
        run: () => this.frameSelection(undefined, true),
      },
      { name: 'Keep view as camera', keys: 'Q', run: () => this.keepView() },
      {
        name: "The shot's camera in a corner of the free view, beside it, or away",
        words: 'inset second view side by side split',
        keys: 'D',
        run: () => this.second.next(),
      },
      {
        name: "Trace the free view or the camera's beside it",
        words: 'inset second view',
        run: () => this.second.tracesCamera.update((camera) => !camera),
      },
      { name: 'Add the view to the route', words: 'viewpoint camera path', run: () => this.viewToRoute() },
      {
        name: 'Put the view into the viewpoint',
        words: 'replace viewpoint route',
        run: () => this.viewToRoute(this.routes.station() ?? undefined),
      },
      { name: 'Take this view', words: 'update camera', keys: 'Shift+Q', run: () => this.takeView() },
      ...WALKS.map(([where, keys]) => ({
        name: `Walk ${where}`,
        words: 'fly camera move',
        keys,
        run: () => this.flying.walk(where, this.flyable()),
      })),
      ...(Object.keys(GRADINGS) as Grading[]).map((grading) => ({
        name: `Draw the sketch ${GRADINGS[grading]}`,
        words: 'quality performance shading',
        run: () => {
          localStorage.setItem(GRADING_KEPT, grading);
          stage.grade(grading);
        },
      })),
      { name: 'Measure between two points', words: 'distance ruler', run: () => this.measure() },
      ...this.guideNames.map((guide) => ({
        name: `Guides: ${GUIDES[guide]}`,
        words: 'lines overlay composition',
        run: () => this.guides.toggle(guide),
      })),
      {
        name: 'Handles move, turn or size',
        words: 'gizmo translate rotate scale',
        keys: 'M',
        run: () => this.hold.switchMode(),
      },
      {
        name: 'Handles along axes of the world, own or parent',
        words: 'gizmo local global orientation',
        keys: 'Shift+M',
        run: () => this.hold.switchAxes(),
      },
      ...(Object.keys(GHOSTS) as GhostChoice[]).map((choice) => ({
        name: `Ghosts of frames before and after: ${GHOSTS_NAMED[choice]}`,
        words: 'onion skin motion trail',
        run: () => this.motion.ghosts.set(choice),
      })),
      {
        name: 'Compare two pictures',
        keys: 'C',
        words: 'wipe side by side difference blink',
        run: () => this.studio.toggleWipe(),
      },
      {
        name: 'Scopes of the picture',
        keys: 'E',
        words: 'histogram waveform parade vectorscope clipping exposure',
        run: () => this.seen.watching.update((on) => !on),
      },
      {
        name: 'Draw the picture to the pixel, or all of it',
        keys: 'Z',
        words: 'zoom loupe 100 percent',
        run: () => this.toThePixel(),
      },
      { name: 'Keep this picture to compare with', words: 'reference still', run: () => void this.keeping.keep() },
      { name: 'Mark a region', keys: 'G', run: () => this.startRegion() },
      { name: 'Select parts in a box', keys: 'X', run: () => this.boxing.update((boxing) => !boxing) },
      { name: 'Click what shall be sharp', keys: 'S', run: () => this.focusing.set('here') },
      { name: 'Click what shall stay sharp', keys: 'Shift+S', run: () => this.focusing.set('follow') },
      {
        name: 'Before cleaning',
        keys: 'U',
        run: () => this.studio.leaveCleaningOut(),
      },
      {
        name: 'Show what is sharp',
        keys: 'P',
        run: () => this.studio.showSharpness(),
      },
      ...VIEWS.map((view, k) => ({ name: view.name, keys: `Alt+${k + 1}`, run: () => this.frameSelection(view.from) })),
    ]);
    this.destroy.onDestroy(() => {
      watcher.disconnect();
      clearTimeout(this.timer);
      this.stills.stage.set(null);
      stage.dispose();
    });
  }

  /** Asks for the picture of the present frame, in the size in which it is shown. */
  private trace(): void {
    const state = this.studio.frameState();
    const { width, height } = this.tracedBox();
    const { assets } = this.studio.document();
    const look = this.shownLook();
    const isolated = this.isolated();
    const byShot = this.tracesCamera();
    const region = this.throughCamera() ? this.region() : null;
    if (!this.besideTraced()) this.rested();
    const shown = isolated ? new Set(subtree(this.studio.document(), isolated)) : null;
    const scale = Math.min(1, MOST_TRACED_WIDTH / width);
    const like = state.camera ?? newCamera();
    untracked(() =>
      this.traced.show({
        state: {
          ...state,
          parts: shown ? state.parts.filter((part) => shown.has(part.node)) : state.parts,
          camera: byShot ? state.camera : this.stage()!.freeCamera(like),
        },
        look,
        region,
        width: Math.max(16, Math.round(width * scale)),
        height: Math.max(16, Math.round(height * scale)),
        pictures: pictureFiles(assets),
      }),
    );
  }

  /** Asks for two places and says how far apart they are. */
  measure(): void {
    this.picking.task.set({
      kind: 'point',
      say: 'Click where to measure from',
      done: ({ point: from }) =>
        this.picking.task.set({
          kind: 'point',
          say: 'Click where to measure to',
          done: ({ point: to }) => {
            const unit = this.lengthUnit();
            const by = to.map((v, k) => (v - from[k]!) / MILLIMETRES[unit]);
            const [x, y, z] = by.map((v) => Number(v.toPrecision(5)));
            this.notices.say(
              `${Number(Math.hypot(...by).toPrecision(5))} ${unit} apart: ${x}, ${y}, ${z} along X, Y, Z`,
            );
          },
        }),
    });
  }

  /** Locked cameras stay where they are; each is asked about once. */
  private readonly askedAbout = new Set<string>();

  private async leaveCamera(): Promise<void> {
    const { camera } = this.studio.frameState();
    this.studio.lookThroughCamera(false);
    if (!camera || !this.studio.document().cameras[camera.id]?.locked || this.askedAbout.has(camera.id)) return;
    this.askedAbout.add(camera.id);
    const text = 'So the view has left it, and the camera stays where it is. Unlock it to fly it from the picture.';
    if (!(await this.ask.sure(`"${camera.name}" is locked`, text, 'Unlock'))) return;
    this.studio.setProperty('Unlock camera', `cameras/${camera.id}/locked`, false);
    this.studio.lookThroughCamera(true);
  }

  /** Puts the free view into the selected camera, into that of the shot, or into a new one. */
  takeView(): void {
    const { primary, document, frameState } = this.studio;
    const chosen = primary()?.kind === 'camera' ? primary()!.id : frameState().camera?.id;
    const camera = chosen ? document().cameras[chosen] : undefined;
    const stage = this.stage();
    if (!stage || (this.throughCamera() && camera)) return;
    if (!camera) return this.keepView();
    this.flying.take(camera.id, stage.freeCamera(frameState().camera ?? camera));
    this.studio.lookThroughCamera(true);
  }

  /** With Alt the wheel changes the focal length of the camera that is looked through, with Shift it leans it. */
  wheel(event: WheelEvent): void {
    const camera = this.flyable();
    if (!camera || !(event.altKey || event.shiftKey)) return;
    event.preventDefault();
    event.stopPropagation();
    // Some systems turn the wheel sideways while Shift is held.
    const turned = event.deltaY || event.deltaX;
    if (event.altKey) this.flying.zoom(Math.exp(-turned / 1200), camera);
    else this.flying.roll((turned / 100) * (Math.PI / 180), camera);
  }

  /** Stands the free view elsewhere. */
  stand(standing: Standing): void {
    this.stage()?.stand(standing);
    this.rested.update((count) => count + 1);
  }

  /** Keeps the view as the next viewpoint of the route that is selected, or in place of one. */
  private viewToRoute(station?: number): void {
    const [route, point] = [this.routes.route(), this.stage()?.viewPoint()];
    if (!route) return this.notices.say('Select a route on the time strip first; the Motion desk makes one.');
    if (point) this.routes.putStation(route, point, station);
  }

  keepView(): void {
    const point = this.stage()?.viewPoint();
    if (point) this.things.keepView(point.position, point.target);
  }

  frameSelection(from?: Vector3, byCamera = false): void {
    const nodes = this.studio.selectedNodes().flatMap((id) => subtree(this.studio.document(), id));
    const all = this.studio.frameState().parts.map((part) => part.node);
    const box: Bounds = this.bounds.of(nodes.length > 0 ? nodes : all);
    // A light or camera is shown together with the product it is there for.
    const place = nodes.length === 0 ? this.hold.place() : null;
    const light =
      this.studio.primary()?.kind === 'light' ? this.studio.present().lights[this.studio.primary()!.id] : null;
    const reach = light ? lampKind(light).reach(light) : 0;
    if (place)
      unite(box, {
        low: place.map((v) => v - reach) as Vector3,
        high: place.map((v) => v + reach) as Vector3,
      });
    if (isEmpty(box)) return;
    // Looking at a part shall not change a shot: only where it is asked for, the camera itself is moved.
    const camera = byCamera ? this.flyable() : null;
    const flight = camera && this.stage()?.flightTo(box);
    if (!flight) return this.stage()?.frameBox(box, from);
    this.flying.fly('taken', camera);
    this.flying.fly(flight, camera);
  }
}
