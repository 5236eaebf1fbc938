import { drawRoundedRectangle } from 'replicad';
import { ball, block, disc, knurled, perforatedSlab, rod, slab, type Point, type Solid } from './cad';

/** A named solid, or a group of them with its own origin. Millimetres, Z up, the front looks along -Y. */
export type Piece =
  { name: string; solid: Solid; color: string; alpha?: number } | { name: string; pieces: Piece[]; at?: Point };

const CREAM = '#e6dcc6';
const PINE = '#1f3d40';
const STEEL = '#c9cdd0';
const GRAPHITE = '#2a2c2f';
const CORAL = '#f2643d';
const AMBER = '#f0a63c';

const FRONT = -35;
const BACK = 35;
const MIDDLE = 80;
const WIDTH = 244;
const HEIGHT = 140;
const GRILLE = { x: -52, z: MIDDLE, width: 116, height: 108 };

/** Where the antenna turns, and how its folded rod lies. */
export const ANTENNA_PIVOT: Point = [92, 18, 160];
export const SECTION_LENGTH = 168;

function housing(): Piece {
  const outer = slab(0, MIDDLE, WIDTH, HEIGHT, 34, BACK, BACK - FRONT).fillet(7, (e) =>
    e.inPlane('XZ', -FRONT),
  ) as Solid;
  const hollow = slab(0, MIDDLE, WIDTH - 12, HEIGHT - 12, 28, BACK - 3, 57);
  const mouth = slab(0, MIDDLE, WIDTH - 20, HEIGHT - 20, 25, -20, 30);
  const rear = slab(0, MIDDLE, WIDTH - 20, HEIGHT - 20, 25, BACK + 1, 10);
  const body = outer.cut(hollow).cut(mouth).cut(rear) as Solid;

  let panel = slab(0, MIDDLE, WIDTH - 21, HEIGHT - 21, 24.5, -27, 5) as Solid;
  panel = panel.cut(slab(GRILLE.x, GRILLE.z, GRILLE.width - 3, GRILLE.height - 3, 19, -20, 20)) as Solid;
  panel = panel.cut(slab(62, 112, 88, 40, 7, -20, 20)) as Solid;
  for (let k = 0; k < 10; k++) panel = panel.cut(disc(levelX(k), LEVEL_Z, 2.55, -20, 20)) as Solid;

  const cover = slab(0, MIDDLE, WIDTH - 21, HEIGHT - 21, 24.5, BACK - 1, 4).cut(
    slab(30, 62, 96, 60, 6, BACK + 2, 12),
  ) as Solid;
  const door = slab(30, 62, 95, 59, 5.6, BACK - 0.6, 3);
  const latch = slab(30, 94, 22, 7, 3, BACK + 0.8, 3);
  const feet: Piece[] = [
    [-84, -20],
    [84, -20],
    [-84, 22],
    [84, 22],
  ].map(([x, y], k) => ({
    name: `Foot ${k + 1}`,
    solid: rod(9, 11, [x!, y!, 0], [0, 0, 1]).fillet(2) as Solid,
    color: '#1b1b1c',
  }));
  const screws: Piece[] = [
    [-98, 128],
    [98, 128],
    [-98, 32],
    [98, 32],
    [0, 132],
    [-40, 28],
  ].map(([x, z], k) => ({
    name: `Screw ${k + 1}`,
    solid: disc(x!, z!, 3.4, BACK + 0.4, 5).cut(
      block([x! - 2.6, BACK - 0.6, z! - 0.5], [x! + 2.6, BACK + 1, z! + 0.5]),
    ) as Solid,
    color: STEEL,
  }));
  return {
    name: 'Housing',
    pieces: [
      { name: 'Body', solid: body, color: CREAM },
      { name: 'Front panel', solid: panel, color: PINE },
      { name: 'Back cover', solid: cover, color: PINE },
      { name: 'Battery door', solid: door, color: PINE },
      { name: 'Door latch', solid: latch, color: CORAL },
      { name: 'Feet', pieces: feet },
      { name: 'Screws', pieces: screws },
    ],
  };
}

function speaker(): Piece {
  const { x, z, width, height } = GRILLE;
  const holes: [number, number][] = [];
  const pitch = 6.1;
  for (let row = -8; row <= 8; row++) {
    for (let column = -9; column <= 9; column++) {
      const hx = (column + (row % 2 ? 0.5 : 0)) * pitch;
      const hz = row * pitch * 0.866;
      const inside = Math.abs(hx) < width / 2 - 7 && Math.abs(hz) < height / 2 - 7;
      const corner = Math.hypot(Math.max(0, Math.abs(hx) - 36), Math.max(0, Math.abs(hz) - 32)) < 15.5;
      if (inside && corner) holes.push([x + hx, z + hz]);
    }
  }
  const outline = drawRoundedRectangle(width, height, 20).translate(x, z);
  const frame = slab(x, z, width + 5, height + 5, 22.5, -31, 4.2).cut(
    slab(x, z, width + 0.4, height + 0.4, 20.2, -25, 14),
  ) as Solid;
  const cone = disc(x, z, 44, -18, 2).fuse(disc(x, z, 14, -20, 3)) as Solid;
  return {
    name: 'Speaker',
    pieces: [
      { name: 'Grille', solid: perforatedSlab(outline, holes, 2.05, -31.6, 1.6), color: '#b9bdbd' },
      { name: 'Grille frame', solid: frame.fillet(0.8, (e) => e.inPlane('XZ', 35.2)) as Solid, color: STEEL },
      { name: 'Speaker cloth', solid: slab(x, z, width - 4, height - 4, 19, -25, 1), color: '#141516' },
      { name: 'Speaker cone', solid: cone, color: '#1a1b1d' },
    ],
  };
}

function dial(): Piece {
  const [x, z] = [62, 112];
  const bezel = slab(x, z, 92, 44, 9, -30, 5)
    .cut(slab(x, z, 83, 35, 5.4, -20, 30))
    .fillet(1.1, (e) => e.inPlane('XZ', 35)) as Solid;
  let ticks = block([x - 36, -27.6, z - 8.2], [x + 36, -27.2, z - 7.5]);
  for (let k = 0; k <= 24; k++) {
    const tall = k % 6 === 0 ? 9 : k % 2 === 0 ? 5.5 : 3.4;
    ticks = ticks.fuse(
      block([x - 36 + k * 3 - 0.3, -27.6, z - 8], [x - 36 + k * 3 + 0.3, -27.2, z - 8 + tall]),
    ) as Solid;
  }
  return {
    name: 'Dial',
    pieces: [
      { name: 'Dial bezel', solid: bezel, color: STEEL },
      { name: 'Dial glass', solid: slab(x, z, 82.6, 34.6, 5.2, -31.4, 1.2), color: '#ffffff', alpha: 0.12 },
      { name: 'Dial scale', solid: slab(x, z, 84, 36, 5, -26, 1), color: AMBER },
      { name: 'Scale marks', solid: ticks, color: '#20140a' },
      { name: 'Needle', solid: block([x + 11, -29, z - 14], [x + 12.2, -28.2, z + 13]), color: CORAL },
    ],
  };
}

const LEVEL_Z = 79;
const levelX = (k: number): number => 25.1 + k * 8.2;

function levels(): Piece {
  return {
    name: 'Level display',
    pieces: Array.from({ length: 10 }, (_, k): Piece => {
      const color = k < 6 ? '#3ddc84' : k < 9 ? '#ffc03d' : '#ff4b3a';
      const lens = rod(2.4, 3.4, [levelX(k), -30.4, LEVEL_Z], [0, -1, 0]).fillet(1.2, (e) =>
        e.inPlane('XZ', 33.8),
      ) as Solid;
      return {
        name: `Level lamp ${k + 1}`,
        pieces: [
          { name: `Lens ${k + 1}`, solid: lens, color, alpha: 0.5 },
          { name: `Emitter ${k + 1}`, solid: disc(levelX(k), LEVEL_Z, 1.7, -29, 0.8), color },
        ],
      };
    }),
  };
}

function knob(name: string, x: number): Piece {
  const z = 46;
  const grip = knurled(0, 0, 18.5, 44, 0.75, 0, 15);
  const skirt = disc(0, 0, 20.6, 0.6, 3.4).fillet(0.8, (e) => e.inPlane('XZ', 2.8)) as Solid;
  const cap = disc(0, 0, 15.6, -14.6, 1.8).fillet(0.5, (e) => e.inPlane('XZ', 16.4)) as Solid;
  return {
    name,
    at: [x, -32, z],
    pieces: [
      { name: `${name} grip`, solid: grip.cut(disc(0, 0, 16, -14, 2)) as Solid, color: GRAPHITE },
      { name: `${name} skirt`, solid: skirt, color: GRAPHITE },
      { name: `${name} cap`, solid: cap, color: STEEL },
      { name: `${name} marker`, solid: block([-0.8, -16.9, 6], [0.8, -16.2, 14.4]), color: CORAL },
    ],
  };
}

function antenna(): Piece {
  const [px, py, pz] = ANTENNA_PIVOT;
  const radii = [3.1, 2.4, 1.8, 1.25];
  const sections = radii.map((radius, k): Piece => ({
    name: `Antenna section ${k + 1}`,
    solid: rod(radius, SECTION_LENGTH - k * 1.5, [-6 - k * 3.4, 0, 0], [-1, 0, 0]),
    color: STEEL,
  }));
  const end = -6 - 3 * 3.4 - (SECTION_LENGTH - 4.5);
  return {
    name: 'Antenna',
    pieces: [
      {
        name: 'Antenna foot',
        solid: rod(10, 7, [px, py, 149], [0, 0, 1]).fillet(1.5, (e) => e.inPlane('XY', 156)) as Solid,
        color: GRAPHITE,
      },
      {
        name: 'Antenna fork',
        solid: block([px - 5, py - 7.5, 155], [px + 5, py - 4.4, 164])
          .fuse(block([px - 5, py + 4.4, 155], [px + 5, py + 7.5, 164]))
          .fuse(block([px - 5, py - 7.5, 155], [px + 5, py + 7.5, 156.2])) as Solid,
        color: STEEL,
      },
      {
        name: 'Antenna rest',
        solid: block([-62, py - 4.5, 149], [-54, py + 4.5, 157]).cut(rod(3.3, 12, [-52, py, pz], [-1, 0, 0])) as Solid,
        color: GRAPHITE,
      },
      {
        name: 'Antenna rod',
        at: [px, py, pz],
        pieces: [
          { name: 'Hinge pin', solid: rod(2, 17, [0, -8.5, 0], [0, 1, 0]), color: STEEL },
          { name: 'Hinge block', solid: block([-7, -4.2, -3.4], [3.4, 4.2, 3.4]), color: STEEL },
          ...sections,
          { name: 'Antenna tip', solid: ball(2.6, [end, 0, 0]), color: GRAPHITE },
        ],
      },
    ],
  };
}

/** The same group of pieces with some made otherwise, left out (null) or added to. */
function changed(piece: Piece, change: (piece: Piece) => Piece | null): Piece | null {
  const made = change(piece);
  if (!made || 'solid' in made) return made;
  return { ...made, pieces: made.pieces.flatMap((each) => changed(each, change) ?? []) };
}

/**
 * The radio as the engineers sent it again: a coarser, flatter tuning knob, a socket with its ring on the back, no latch on the
 * battery door, and the back cover under another name.
 */
export function secondRadio(): Piece {
  const grip = knurled(0, 0, 17, 28, 1.2, 0, 13).cut(disc(0, 0, 16, -12, 2)) as Solid;
  const socket: Piece[] = [
    { name: 'Socket', solid: rod(3.4, 6, [-70, BACK - 4, 60], [0, 1, 0]).cut(rod(1.8, 8, [-70, BACK - 3, 60], [0, 1, 0])) as Solid, color: GRAPHITE },
    { name: 'Socket ring', solid: disc(-70, 60, 5, BACK + 0.6, 1.4).cut(disc(-70, 60, 3.5, BACK + 1, 3)) as Solid, color: STEEL },
  ]; // prettier-ignore
  return changed(radio(), (piece) => {
    switch (piece.name) {
      case 'Door latch':
        return null;
      case 'Back cover':
        return { ...piece, name: 'Rear cover' };
      case 'Tuning knob grip':
        return { name: piece.name, solid: grip, color: GRAPHITE };
      case 'Housing':
        return 'pieces' in piece ? { ...piece, pieces: [...piece.pieces, ...socket] } : piece;
      default:
        return piece;
    }
  })!;
}

/** The table radio Ferrow R2, a made-up product. */
export const radio = (): Piece => ({
  name: 'Ferrow R2',
  pieces: [housing(), speaker(), dial(), levels(), knob('Volume knob', 40), knob('Tuning knob', 88), antenna()],
});
