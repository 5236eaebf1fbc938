/** Pixels from one node of the grid to the next: light is kept over areas as wide as this. */
const CELL = 32;
/** Pixels that a part needs about a node to have its own balance there; smaller ones share one, or it would be noise. */
const LEAST_PIXELS = 128;
/** What a part is multiplied by at most; what is missed beyond that is laid over it evenly. */
const MOST_GAIN = 3;
/** Of a bin: weight, light before (3), light after (3). */
const FIELDS = 7;
const SHARED = 0xffffffff;

/**
 * Gives a cleaned picture the light of the one it was made from, part by part and over areas of some thirty pixels, so that nothing that
 * was taken for noise is lost. Each part's light is brought into a coarse grid of nodes before and after; each pixel is multiplied by the
 * quotients of the nodes about it, blended as its light was brought there. The sums stay the same that way to the last digits.
 * @param before light as it was traced, four values a pixel, top row first
 * @param clean the same without specks and noise; alpha stays
 * @param parts number of the part each pixel shows; without it, all are one
 * @returns a new picture laid out as `clean`
 */
export function keepLight(
  before: Float32Array,
  clean: Float32Array,
  width: number,
  parts?: Uint32Array,
): Float32Array<ArrayBuffer> {
  const height = clean.length / 4 / width;
  const grid = new Grid(width, height, parts);
  grid.forEach((pixel, bins, weights) => {
    for (let k = 0; k < 4; k++) grid.add(bins[k]!, weights[k]!, before, clean, pixel * 4);
  });
  grid.shareSmall();
  const quotients = grid.quotients();
  const out = new Float32Array(clean);
  grid.forEach((pixel, bins, weights) => {
    for (let c = 0; c < 3; c++) {
      let [gain, more] = [0, 0];
      for (let k = 0; k < 4; k++) {
        const at = (grid.shared[bins[k]!]! * 3 + c) * 2;
        gain += weights[k]! * quotients[at]!;
        more += weights[k]! * quotients[at + 1]!;
      }
      out[pixel * 4 + c] = clean[pixel * 4 + c]! * gain + more;
    }
  });
  return out;
}

/** Light by node and part. A bin is made when its part is first met near its node. */
class Grid {
  private sums = new Float64Array(1024 * FIELDS);
  private readonly nodes: number[] = [];
  private readonly known = new Map<number, Map<number, number>>();
  /** Where each bin's light is counted: at itself, or with the other small parts of its node. */
  shared: Uint32Array = new Uint32Array(0);

  constructor(
    private readonly width: number,
    private readonly height: number,
    private readonly parts: Uint32Array | undefined,
  ) {}

  /** Calls back for every pixel with the bins of the four nodes about it, and how near it is to each: together 1. */
  forEach(each: (pixel: number, bins: Uint32Array, weights: Float64Array) => void): void {
    const across = Math.ceil(this.width / CELL) + 1;
    const weights = new Float64Array(4);
    for (let top = 0; top < this.height; top += CELL) {
      for (let left = 0; left < this.width; left += CELL) {
        const node = (top / CELL) * across + left / CELL;
        const corners = [node, node + 1, node + across, node + across + 1];
        const met = new Map<number, Uint32Array>();
        for (let y = top; y < Math.min(this.height, top + CELL); y++) {
          const down = (y + 0.5 - top) / CELL;
          for (let x = left; x < Math.min(this.width, left + CELL); x++) {
            const pixel = y * this.width + x;
            const part = this.parts ? this.parts[pixel]! : 0;
            let bins = met.get(part);
            if (!bins) met.set(part, (bins = Uint32Array.from(corners, (corner) => this.binOf(corner, part))));
            const right = (x + 0.5 - left) / CELL;
            weights[0] = (1 - right) * (1 - down);
            weights[1] = right * (1 - down);
            weights[2] = (1 - right) * down;
            weights[3] = right * down;
            each(pixel, bins, weights);
          }
        }
      }
    }
  }

  private binOf(node: number, part: number): number {
    let own = this.known.get(node);
    if (!own) this.known.set(node, (own = new Map()));
    let bin = own.get(part);
    if (bin === undefined) {
      own.set(part, (bin = this.nodes.length));
      this.nodes.push(node);
      if (this.nodes.length * FIELDS > this.sums.length) {
        const more = new Float64Array(this.sums.length * 2);
        more.set(this.sums);
        this.sums = more;
      }
    }
    return bin;
  }

  add(bin: number, weight: number, before: Float32Array, clean: Float32Array, at: number): void {
    const { sums } = this;
    const to = bin * FIELDS;
    sums[to]! += weight;
    for (let c = 0; c < 3; c++) {
      sums[to + 1 + c]! += weight * before[at + c]!;
      sums[to + 4 + c]! += weight * clean[at + c]!;
    }
  }

  /** Joins the parts of a node of which little is seen there. */
  shareSmall(): void {
    const bins = this.nodes.length;
    const homes = Array.from({ length: bins }, (_, bin) => {
      const small = this.sums[bin * FIELDS]! < LEAST_PIXELS;
      return small ? this.binOf(this.nodes[bin]!, SHARED) : bin;
    });
    this.shared = Uint32Array.from({ length: this.nodes.length }, (_, bin) => homes[bin] ?? bin);
    for (let bin = 0; bin < bins; bin++) {
      const home = homes[bin]!;
      if (home === bin) continue;
      for (let k = 0; k < FIELDS; k++) this.sums[home * FIELDS + k]! += this.sums[bin * FIELDS + k]!;
    }
  }

  /** By bin and channel: what its light is multiplied by, and what is laid over it. */
  quotients(): Float64Array {
    const out = new Float64Array(this.nodes.length * 6);
    for (let bin = 0; bin < this.nodes.length; bin++) {
      const weight = this.sums[bin * FIELDS]!;
      for (let c = 0; c < 3; c++) {
        const [before, after] = [this.sums[bin * FIELDS + 1 + c]!, this.sums[bin * FIELDS + 4 + c]!];
        const gain = after > 0 ? Math.min(MOST_GAIN, before / after) : 1;
        out[(bin * 3 + c) * 2] = gain;
        out[(bin * 3 + c) * 2 + 1] = weight > 0 ? (before - gain * after) / weight : 0;
      }
    }
    return out;
  }
}
