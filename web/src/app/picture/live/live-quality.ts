/** How finely the sketch is drawn. */
export interface Fineness {
  /** Of the canvas, across and down. */
  scale: number;
  /** Of each pixel; 0 for one. */
  samples: number;
  /** Places a shadow map is read at for each pixel; 0 for no shadows. */
  shadowTaps: number;
  /** Lamps as points. */
  quick: boolean;
}

/** What is drawn while something moves, the finest first. */
const STEPS: readonly Fineness[] = [
  { scale: 1, samples: 4, shadowTaps: 24, quick: false },
  { scale: 1, samples: 4, shadowTaps: 12, quick: false },
  { scale: 1, samples: 0, shadowTaps: 12, quick: false },
  { scale: 0.7, samples: 0, shadowTaps: 8, quick: false },
  { scale: 0.5, samples: 0, shadowTaps: 0, quick: true },
];
/** As finely as a program draws in a few seconds. */
const FINE_BY_SOFTWARE: Fineness = { scale: 1, samples: 0, shadowTaps: 6, quick: false };
/** The light grade at rest: where a program stands in for the graphics card, or by choice. */
const LIGHT: Fineness = { scale: 1, samples: 0, shadowTaps: 0, quick: true };

/** How finely the sketch is drawn: as the machine can, lightly, or finely whatever it takes. */
export type Grading = 'machine' | 'light' | 'fine';

/** Milliseconds from one drawn frame to the next that are too many. */
const SLOW = 40;
/** Milliseconds after which a frame does not follow the one before. */
const LONG_AGO = 1000;
/** Frames in a row that have to be slow before less is drawn. */
const PATIENCE = 3;
/** Milliseconds after the last touch from which on nothing moves any more; longer where drawing finely takes long. */
const REST = 400;
const REST_BY_SOFTWARE = 700;

/**
 * Follows the machine: while something moves, quality only goes down until frames come fluently; once all rests, one more frame is
 * drawn as finely as it can be.
 */
export class LiveQuality {
  grading: Grading = 'machine';
  private step: number;
  private moving = false;
  private slow = 0;
  private last = -Infinity;
  private timer: ReturnType<typeof setTimeout> | undefined;

  /** @param software a program stands in for the graphics card @param again draws once more */
  constructor(
    readonly software: boolean,
    private readonly again: () => void,
  ) {
    this.step = software ? STEPS.length - 1 : 0;
  }

  get present(): Fineness {
    const { grading } = this;
    const light = grading === 'light' || (grading === 'machine' && this.software);
    if (light) return this.moving ? STEPS.at(-1)! : LIGHT;
    return grading === 'fine' || !this.moving ? (this.software ? FINE_BY_SOFTWARE : STEPS[0]!) : STEPS[this.step]!;
  }

  /** Something moves: what is drawn next shall come fast. */
  touch(): void {
    this.moving = true;
    clearTimeout(this.timer);
    this.timer = setTimeout(
      () => {
        this.moving = false;
        this.slow = 0;
        this.last = -Infinity;
        this.again();
      },
      this.software ? REST_BY_SOFTWARE : REST,
    );
  }

  /** Takes note that a frame has been drawn. @param now milliseconds */
  drawn(now: number): void {
    const apart = now - this.last;
    this.last = now;
    if (!this.moving || apart > LONG_AGO) return;
    this.slow = apart > SLOW ? this.slow + 1 : 0;
    if (this.slow < PATIENCE || this.step === STEPS.length - 1) return;
    this.step++;
    this.slow = 0;
  }

  dispose(): void {
    clearTimeout(this.timer);
  }
}
