import { computed, effect, inject, Injectable, InjectionToken, linkedSignal, signal } from '@angular/core';
import { proxy, releaseProxy, wrap, type Remote } from 'comlink';
import { lastOrder, newCamera, nextName, type Camera, type Vector3 } from '@zippy/core/document';
import { cameraOf, pinholeOf, sightOf, type Pinhole, type Sight } from '@zippy/core/solve';
import { Notices } from '../../store/notices';
import { Studio } from '../../store/studio';
import { MatchOpen } from './match-open';
import type { ClipSolved, Found, MatchThread, StillAsked } from './match.worker';

/** A place of the film's frame, 0 to 1 from its left and its top. */
export interface Mark {
  x: number;
  y: number;
}

/** What is marked: a rectangle on the ground, or edges that run in two of its directions. */
export type Marked = 'rectangle' | 'directions';

/** The marks of each kind as they lie before they are dragged. */
const AT_FIRST: Record<Marked, readonly Mark[]> = {
  rectangle: [{ x: 0.3, y: 0.8 }, { x: 0.7, y: 0.8 }, { x: 0.62, y: 0.6 }, { x: 0.38, y: 0.6 }],
  directions: [
    { x: 0.25, y: 0.85 }, { x: 0.75, y: 0.85 }, { x: 0.32, y: 0.62 }, { x: 0.68, y: 0.62 },
    { x: 0.22, y: 0.9 }, { x: 0.34, y: 0.58 }, { x: 0.78, y: 0.9 }, { x: 0.66, y: 0.58 },
    { x: 0.5, y: 0.72 },
  ],
}; // prettier-ignore

export const MARK_NAMES: Record<Marked, readonly string[]> = {
  rectangle: ['Near left corner', 'Near right corner', 'Far right corner', 'Far left corner'],
  directions: [
    'Near edge, left end', 'Near edge, right end', 'Far edge, left end', 'Far edge, right end',
    'Left edge, near end', 'Left edge, far end', 'Right edge, near end', 'Right edge, far end',
    'Origin on the ground',
  ],
}; // prettier-ignore

/** Pairs of marks between which a line is drawn. */
export const MARK_LINES: Record<Marked, readonly (readonly [number, number])[]> = {
  rectangle: [[0, 1], [1, 2], [2, 3], [3, 0]],
  directions: [[0, 1], [2, 3], [4, 5], [6, 7]],
}; // prettier-ignore

/** A thread that solves cameras, and its end. */
export const MATCH_THREAD = new InjectionToken<() => { thread: Remote<MatchThread>; end: () => void }>('MATCH_THREAD', {
  factory: () => () => {
    const worker = new Worker(new URL('./match.worker', import.meta.url), { type: 'module' });
    const thread = wrap<MatchThread>(worker);
    return {
      thread,
      end: () => {
        thread[releaseProxy]();
        worker.terminate();
      },
    };
  },
});

/** Matches the shot's camera to the picture that fills its frame, by what is marked in that. */
@Injectable({ providedIn: 'root' })
export class Matching {
  private readonly studio = inject(Studio);
  private readonly notices = inject(Notices);
  private readonly begin = inject(MATCH_THREAD);

  readonly open = inject(MatchOpen).open;
  readonly kind = signal<Marked>('rectangle');
  readonly marks = linkedSignal(() => [...AT_FIRST[this.kind()]]);
  /** Edges of the rectangle in mm; null where one is not known. */
  readonly width = signal<number | null>(1000);
  readonly depth = signal<number | null>(null);
  /** Of the camera above the ground, in mm. */
  readonly height = signal(1500);
  /** In mm, where it is known. */
  readonly focalLength = signal<number | null>(null);
  /** Frames that were followed, and of how many; null while none are. */
  readonly progress = signal<{ done: number; of: number } | null>(null);
  /** What the last clip came to, and the shot it was of. */
  readonly solved = signal<(ClipSolved & { shot: string }) | null>(null);
  private stopper: (() => void) | null = null;

  readonly aspect = computed(() => {
    const { width, height } = this.studio.pictureSize();
    return width / height;
  });
  /** Whether a picture fills the frame behind the product. */
  readonly plate = computed(() => {
    const { kind, plate } = this.studio.presentAtRest().set.behind;
    return kind === 'plate' ? plate : null;
  });
  /** Whether that was filmed. */
  readonly filmed = computed(() => {
    const plate = this.plate();
    return plate !== null && (this.studio.document().assets[plate]?.footage ?? null) !== null;
  });
  private readonly own = computed((): Camera | null => {
    const id = this.studio.shot()?.camera;
    return (id && this.studio.document().cameras[id]) || null;
  });
  private readonly sensorWidth = computed(() => this.own()?.sensorWidth ?? newCamera({}).sensorWidth);

  private sight = ({ x, y }: Mark): Sight => [2 * x - 1, (1 - 2 * y) / this.aspect()];
  /** Where the film's frame shows something, 0 to 1 from its left and its top. */
  markOf = ([x, y]: Sight): Mark => ({ x: (x + 1) / 2, y: (1 - y * this.aspect()) / 2 });

  private readonly asked = computed((): StillAsked => {
    const at = this.marks().map(this.sight);
    const own = this.focalLength();
    const focal = own === null ? null : (2 * own) / this.sensorWidth();
    if (this.kind() === 'rectangle') {
      const [a, b, c, d] = at as [Sight, Sight, Sight, Sight];
      return { kind: 'rectangle', corners: [a, b, c, d], width: this.width(), depth: this.depth(), focal };
    }
    const [a, b, c, d, e, f, g, h, origin] = at as [Sight, Sight, Sight, Sight, Sight, Sight, Sight, Sight, Sight];
    return { kind: 'directions', across: [[a, b], [c, d]], away: [[e, f], [g, h]], origin, height: this.height(), focal }; // prettier-ignore
  });
  private readonly answered = signal<Found | null>(null);
  readonly found = computed((): Found => this.answered() ?? { camera: null, problem: '' });
  private still: ReturnType<typeof this.begin> | null = null;

  constructor() {
    // One question is on its way at a time; the last one that was meant is asked when its answer is there.
    let busy = false;
    let next: StillAsked | null = null;
    const ask = async (asked: StillAsked): Promise<void> => {
      if (busy) return void (next = asked);
      busy = true;
      this.still ??= this.begin();
      this.answered.set(await this.still.thread.still(asked));
      busy = false;
      const then = next;
      next = null;
      if (then) await ask(then);
    };
    effect(() => {
      if (this.open()) void ask(this.asked());
    });
  }

  /** Pixels of the film's picture in a half width. */
  private readonly pixels = computed(() => this.studio.pictureSize().width / 2);
  /** What the marks came to, in words. */
  readonly says = computed((): string => {
    const found = this.found();
    if (!found.camera) return found.problem;
    const { camera, miss } = found;
    const down = Math.round((Math.asin(-camera.forward[1]) * 1800) / Math.PI) / 10;
    const lens = (camera.focal * this.sensorWidth()) / 2;
    const off = this.kind() === 'rectangle' ? ` · marks within ${(miss * this.pixels()).toFixed(1)} px` : '';
    return `${lens.toFixed(1)} mm, looks ${Math.abs(down)}° ${down >= 0 ? 'down' : 'up'}${off}`;
  });

  /** The frame of the picture that is marked. */
  private readonly markedOn = signal(0);
  /** Marks are of one frame: on others the camera of the shot is judged. */
  readonly marking = computed(() => !this.filmed() || Math.round(this.studio.frame()) === this.markedOn());
  /** Lines of the ground as the camera that was found sees it, or as that of the shot does on other frames, from mark to mark. */
  readonly grid = computed((): [Mark, Mark][] => {
    const own = this.marking() ? null : this.studio.frameState().camera;
    const camera = own ? pinholeOf(own) : this.found().camera;
    if (!camera) return [];
    const reach = Math.hypot(...camera.position);
    const step = 10 ** Math.floor(Math.log10(reach / 3));
    const lines: [Mark, Mark][] = [];
    const most = 10;
    for (let k = -most; k <= most; k++) {
      // Short pieces: what is behind the camera is left out, not turned about.
      for (let j = -most; j < most; j++) {
        for (const [from, to] of [[[k, j], [k, j + 1]], [[j, k], [j + 1, k]]] as const) {
          const [a, b] = [from, to].map(([x, z]) => sightOf(camera, [x * step, 0, z * step]));
          if (a && b && Math.max(...a.map(Math.abs), ...b.map(Math.abs)) < 4) lines.push([this.markOf(a), this.markOf(b)]); // prettier-ignore
        }
      }
    } // prettier-ignore
    return lines;
  });

  /** Begins to mark, with the shot's picture in sight. */
  start(): void {
    this.open.set(true);
    this.markedOn.set(Math.round(this.studio.frame()));
    this.studio.lookThroughCamera(true);
  }

  /** The present frame is marked instead of another one. */
  markHere(): void {
    this.markedOn.set(Math.round(this.studio.frame()));
  }

  move(index: number, to: Mark): void {
    const within = (v: number) => Math.min(1.5, Math.max(-0.5, v));
    this.marks.update((marks) => marks.map((mark, k) => (k === index ? { x: within(to.x), y: within(to.y) } : mark)));
  }

  /** Puts the shot's camera where the marks tell, at rest; a shot without one gets one. */
  put(): void {
    const [found, shot] = [this.found(), this.studio.shotId()];
    if (!found.camera || !shot) return;
    const at = cameraOf(found.camera, this.sensorWidth(), this.reach(found.camera));
    this.studio.edit('Match the camera', (draft) => {
      const own = draft.shots[shot]!;
      const id = own.camera && draft.cameras[own.camera] ? own.camera : null;
      const values = {
        position: [...at.position] as Vector3,
        target: [...at.target] as Vector3,
        roll: at.roll,
        focalLength: at.focalLength,
        projection: 'perspective' as const,
      };
      if (id) {
        for (const name of Object.keys(values)) {
          delete own.tracks[`cameras/${id}/${name}`];
          delete own.changes[`cameras/${id}/${name}`];
        }
        Object.assign(draft.cameras[id]!, values);
        return;
      }
      const names = Object.values(draft.cameras).map(({ name }) => name);
      const made = newCamera({ ...values, name: nextName(names, 'Matched camera'), order: lastOrder(draft.cameras) });
      draft.cameras[made.id] = made;
      own.camera = made.id;
    });
    this.studio.lookThroughCamera(true);
  }

  /** How far away what the camera looks at is: the origin, along its axis. */
  private reach({ position, forward }: Pinhole): number {
    const along = -position.reduce((sum, v, k) => sum + v * forward[k]!, 0);
    return Math.max(1, along);
  }

  /** Follows the clip, and gives the shot a camera that moves as the one that filmed it did. */
  async track(): Promise<void> {
    const [found, shot] = [this.found(), this.studio.shotId()];
    if (!found.camera || !shot || this.progress()) return;
    if (this.kind() !== 'rectangle') return this.notices.tell('A clip is followed by the corners of a rectangle. Mark one on the ground.'); // prettier-ignore
    const { thread, end } = this.begin();
    let stopped = false;
    const ended = new Promise<null>((resolve) => {
      this.stopper = () => {
        stopped = true;
        resolve(null);
      };
    });
    this.progress.set({ done: 0, of: this.studio.shot()!.length });
    const [w, d] = [found.width / 2, found.depth / 2];
    const places: Vector3[] = [[-w, 0, d], [w, 0, d], [w, 0, -d], [-w, 0, -d]]; // prettier-ignore
    const document = this.studio.document();
    try {
      const solved = await Promise.race([
        thread.solve(
          {
            document,
            shot,
            frame: this.markedOn(),
            aspect: this.aspect(),
            corners: this.marks().map((mark, k) => ({ seen: this.sight(mark), place: places[k]! })),
            camera: found.camera,
            lens: this.focalLength() === null,
            sensorWidth: this.sensorWidth(),
            focusDistance: this.own()?.focusDistance ?? this.reach(found.camera),
            name: 'Matched camera',
          },
          proxy((done: number, of: number) => this.progress.set({ done, of })),
        ),
        ended,
      ]);
      if (!solved || stopped) return;
      this.take(shot, solved);
    } catch (error) {
      this.notices.tell(error);
    } finally {
      end();
      this.progress.set(null);
      this.stopper = null;
    }
  }

  stop(): void {
    this.stopper?.();
  }

  private take(shot: string, solved: ClipSolved): void {
    const lost = solved.misses.filter((miss) => miss === null).length;
    this.studio.edit('Follow the clip with the camera', (draft) => {
      const own = draft.shots[shot];
      if (!own) return;
      const names = Object.values(draft.cameras).map(({ name }) => name);
      draft.cameras[solved.camera.id] = {
        ...solved.camera,
        name: nextName(names, solved.camera.name),
        order: lastOrder(draft.cameras),
      };
      Object.assign(own.tracks, solved.tracks);
      own.camera = solved.camera.id;
    });
    this.solved.set({ ...solved, shot });
    this.studio.select('camera', solved.camera.id);
    if (lost > 0)
      this.notices.say(`On ${lost} frames too little was seen: there the camera stands as on the nearest one. Mark a rectangle that is seen longer.`); // prettier-ignore
  }

  /** Misses of the frames of the clip that was followed last in the present shot, in pixels of the film's picture. */
  readonly misses = computed((): (number | null)[] => {
    const solved = this.solved();
    if (!solved || solved.shot !== this.studio.shotId()) return [];
    return solved.misses.map((miss) => miss && miss * this.pixels());
  });
}
