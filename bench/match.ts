// Cameras solved from footage that the tracer itself made, whose cameras are known: a rectangle on the ground is marked on one frame, and
// followed through the others with what else is seen. `ZIPPY_FRAMES=folder` keeps the frames.
import { writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { encode } from 'fast-png';
import { madeMap, newDocument, newFinish, newLight, type Finish, type SetPiece } from '@zippy/core/document';
import { composeTransform, newSetPiece, quaternionAbout, type Vector } from '@zippy/core/geometry';
import { evaluate, SEEN_BY_ALL, type FrameState } from '@zippy/core/motion';
import { defaultRenderSettings } from '@zippy/core/trace';
import {
  fromRectangle,
  pinholeOf,
  sightOf,
  snapToCorner,
  solveMotion,
  trackClip,
  type Grey,
  type Sight,
} from '@zippy/core/solve';
import { newCamera, type Camera } from '@zippy/core/document';
import { figure } from './figure';
import { LocalTracer } from './localTracer';

const FRAMES = 100;
const [WIDTH, HEIGHT] = [480, 270];
/** The sheet on the ground whose corners are marked, in mm. */
const SHEET = { width: 594, depth: 420 };

const cameraOn = (frame: number): Camera =>
  newCamera({
    position: [-700 + 13 * frame, 720 + 40 * Math.sin(frame / 9), 1500 - 3 * frame],
    target: [30 * Math.sin(frame / 6), 60, -60],
    roll: 0.03 * Math.sin(frame / 8),
    focalLength: 32,
    fStop: 0,
    shutterAngle: 0,
  });

const grain = (id: string, color: [number, number, number], scale: number): Finish => {
  const finish = newFinish({ id, name: id, baseColor: color, specularWeight: 0.3, specularRoughness: 0.5 });
  const map = madeMap('baseColor', 'noise');
  map.source = { ...map.source, pattern: 'cells', scale, octaves: 2 } as typeof map.source;
  return { ...finish, maps: { grain: map } };
};

const box = (width: number, height: number, depth: number): SetPiece =>
  ({ ...newSetPiece('box', 100), width, height, depth, bevel: 0 }) as SetPiece;

/** A made-up yard: grainy ground, a sheet that lies on it, crates and posts. */
function yard(): FrameState {
  const finishes = Object.fromEntries(
    [
      grain('ground', [0.35, 0.34, 0.32], 120),
      newFinish({ id: 'sheet', name: 'sheet', baseColor: [0.85, 0.82, 0.7], specularWeight: 0 }),
      grain('crate', [0.5, 0.3, 0.16], 70),
      grain('wall', [0.55, 0.56, 0.6], 160),
    ].map((each) => [each.id, each]),
  );
  const pieces: [string, SetPiece, Vector, number][] = [
    ['ground', box(6000, 20, 6000), [0, -20.5, 0], 0],
    ['sheet', box(SHEET.width, 1, SHEET.depth), [0, -1, 0], 0],
    ['crate', box(260, 240, 220), [-620, 0, -380], 0.4],
    ['crate', box(200, 380, 200), [560, 0, -420], -0.3],
    ['crate', box(160, 120, 180), [480, 0, 180], 0.8],
    ['wall', box(4000, 900, 60), [0, 0, -1300], 0.08],
  ];
  const base = evaluate(newDocument('yard'), null, 0);
  return {
    ...base,
    finishes,
    lights: [
      newLight('panel', { position: [-1600, 2600, 1800], target: [0, 0, 0], width: 900, height: 900, power: 9000 }),
    ],
    parts: pieces.map(([finish, piece, at, turn], k) => ({
      node: `n${k}`,
      instance: `n${k}`,
      name: `${finish} ${k}`,
      mesh: { piece },
      transform: composeTransform(at, quaternionAbout([0, 1, 0], turn), [1, 1, 1]),
      finish,
      glow: 1,
      seen: SEEN_BY_ALL,
    })),
    set: { ...base.set, floor: { ...base.set.floor, kind: 'none' } },
  };
}

export default async function (): Promise<void> {
  const tracer = await LocalTracer.open([]);
  const scene = yard();
  const settings = { ...defaultRenderSettings(), width: WIDTH, height: HEIGHT, samples: 6, depth: 2 };
  const frames: Grey[] = [];
  for (let frame = 0; frame < FRAMES; frame++) {
    const loaded = await tracer.load({ ...scene, camera: cameraOn(frame) }, { ...settings, seed: frame });
    tracer.pass(loaded, settings.samples);
    const film = tracer.film(loaded);
    const shown = new Uint8Array(WIDTH * HEIGHT * 3);
    const values = new Float32Array(WIDTH * HEIGHT);
    for (let k = 0; k < values.length; k++) {
      const rgb = [0, 1, 2].map((c) => Math.min(1, (film[k * loaded.floats + c]! * 1.6) ** (1 / 2.2)));
      rgb.forEach((v, c) => (shown[k * 3 + c] = Math.round(v * 255)));
      values[k] = 0.2126 * rgb[0]! + 0.7152 * rgb[1]! + 0.0722 * rgb[2]!;
    }
    frames.push({ width: WIDTH, height: HEIGHT, values });
    const kept = process.env['ZIPPY_FRAMES'];
    if (kept) writeFileSync(join(kept, `yard.${String(frame + 1).padStart(4, '0')}.png`), encode({ width: WIDTH, height: HEIGHT, channels: 3, data: shown })); // prettier-ignore
  }
  const real = (frame: number) => pinholeOf(cameraOn(frame));
  const [w, d] = [SHEET.width / 2, SHEET.depth / 2];
  const corners: Vector[] = [[-w, 0, d], [w, 0, d], [w, 0, -d], [-w, 0, -d]]; // prettier-ignore
  const START = 50;
  // Marked by hand: half a pixel off.
  const off = [0.4, -0.3, 0.2, 0.5, -0.4, 0.1, -0.2, 0.3];
  const marks = corners.map((at, k): Sight => {
    const [x, y] = sightOf(real(START), at)!;
    return [x + (off[2 * k]! * 2) / WIDTH, y + (off[2 * k + 1]! * 2) / WIDTH];
  });
  const still = fromRectangle({ corners: marks as never, width: SHEET.width, depth: SHEET.depth, focal: null });
  const spotOf = ([x, y]: Sight) => ({ x: WIDTH / 2 + (x * WIDTH) / 2 - 0.5, y: HEIGHT / 2 - (y * WIDTH) / 2 - 0.5 });
  const snapped = marks.map((mark) => snapToCorner(frames[START]!, spotOf(mark)));
  const begin = performance.now();
  const spots = await trackClip(
    async (frame) => frames[frame]!,
    FRAMES,
    START,
    snapped,
    () => undefined,
  );
  const tracks = spots.map((track, k) => ({
    place: corners[k] ?? null,
    sights: track.map(
      (at): Sight | null => at && [(2 * (at.x + 0.5)) / WIDTH - 1, (HEIGHT - 2 * (at.y + 0.5)) / WIDTH],
    ),
  }));
  const solved = solveMotion(tracks, { frame: START, camera: still.camera });
  const took = (performance.now() - begin) / FRAMES;
  const found = solved.cameras.flatMap((camera, frame) => (camera ? [{ camera, real: real(frame) }] : []));
  const degrees = (v: number) => (Math.acos(Math.min(1, v)) * 180) / Math.PI;
  const most = (of: (each: (typeof found)[number]) => number) => Math.max(...found.map(of));
  figure('match.stillFocalError', Math.abs(still.camera.focal / real(START).focal - 1));
  figure('match.framesSolved', found.length, { least: FRAMES });
  figure(
    'match.focalError',
    most(({ camera, real: known }) => Math.abs(camera.focal / known.focal - 1)),
    { most: 0.01 },
  );
  figure('match.groundDegrees', most(({ camera, real: known }) => degrees(Math.abs([0, 1, 2].reduce((sum, k) => sum + upOf(camera)[k]! * upOf(known)[k]!, 0)))), { most: 0.3 }); // prettier-ignore
  figure('match.missPixels', (solved.miss * WIDTH) / 2, { most: 0.5 });
  figure('match.millisecondsAFrame', took);
}

/** The way up of the world as a camera sees it. */
const upOf = ({ right, up, forward }: ReturnType<typeof pinholeOf>): Vector => [right[1], up[1], forward[1]];
