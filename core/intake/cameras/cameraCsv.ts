import { UserProblem } from '../../document';
import type { CameraSample } from './cameraSamples';

/** Columns of a camera's file, with other names under which they are found. Lengths in millimetres. */
const COLUMNS = {
  frame: ['frame', 'f', 'time'],
  x: ['x', 'tx', 'px', 'position x'],
  y: ['y', 'ty', 'py', 'position y'],
  z: ['z', 'tz', 'pz', 'position z'],
  qx: ['qx', 'rotation x'],
  qy: ['qy', 'rotation y'],
  qz: ['qz', 'rotation z'],
  qw: ['qw', 'rotation w'],
  focal: ['focal_mm', 'focal', 'focal length', 'focallength'],
  sensor: ['sensor_mm', 'sensor', 'sensor width', 'filmback'],
  focus: ['focus_mm', 'focus', 'focus distance'],
  stop: ['f_stop', 'fstop', 'f-stop', 'aperture'],
} as const;
type Column = keyof typeof COLUMNS;
const NEEDED: Column[] = ['frame', 'x', 'y', 'z', 'qx', 'qy', 'qz', 'qw'];
const MOST_ROWS = 100_000;
const STANDARD = { focal: 50, sensor: 36, focus: 1000, stop: 0 };

/** A camera as text: one line a frame with its place, its turn as a quaternion, and its lens. */
export function writeCameraCsv(samples: readonly CameraSample[]): string {
  const lines = samples.map(({ frame, position, turn, focalLength, sensorWidth, focusDistance, fStop }) =>
    [frame, ...position, ...turn, focalLength, sensorWidth, focusDistance, fStop].map(tidy).join(','),
  );
  return `${Object.values(COLUMNS).map(([name]) => name).join(',')}\n${lines.join('\n')}\n`; // prettier-ignore
}

const tidy = (value: number): string => String(Number(value.toPrecision(10)));

/**
 * Reads what `writeCameraCsv` wrote, or a file with the same columns in any order, parted by commas, semicolons or tabs.
 * @throws UserProblem `camera-file` where columns are missing or a line holds no numbers
 */
export function readCameraCsv(text: string): CameraSample[] {
  const lines = text.replace(/^\uFEFF/, '').split(/\r?\n/).filter((line) => line.trim() !== '' && !line.startsWith('#')); // prettier-ignore
  const [head, ...rows] = lines;
  const parted = [',', ';', '\t'].find((mark) => head?.includes(mark)) ?? ',';
  const names = (head ?? '').split(parted).map((name) => name.trim().replace(/^"|"$/g, '').toLowerCase());
  const at = new Map<Column, number>();
  for (const [column, known] of Object.entries(COLUMNS) as [Column, readonly string[]][]) {
    const found = names.findIndex((name) => known.includes(name));
    if (found >= 0) at.set(column, found);
  }
  const missing = NEEDED.filter((column) => !at.has(column));
  if (missing.length > 0)
    throw new UserProblem(
      'camera-file',
      `This file has no ${missing.length === 1 ? 'column' : 'columns'} ${missing.join(', ')}. A camera needs frame, x, y, z and its turn as qx, qy, qz, qw in its first line.`,
    );
  if (rows.length === 0)
    throw new UserProblem(
      'camera-file',
      'This file names the columns of a camera but holds no frame. Choose another file.',
    );
  if (rows.length > MOST_ROWS)
    throw new UserProblem(
      'camera-file',
      `This file holds ${rows.length} frames; ${MOST_ROWS} can be taken. Cut it into shots first.`,
    );
  const samples = rows.map((row, k) => {
    const cells = row.split(parted);
    const number = (column: Column, otherwise = 0): number => {
      const place = at.get(column);
      if (place === undefined) return otherwise;
      const value = Number((cells[place] ?? '').trim().replace(/^"|"$/g, '') || NaN);
      if (Number.isFinite(value)) return value;
      throw new UserProblem(
        'camera-file',
        `Line ${k + 2} holds no number for ${column}: "${(cells[place] ?? '').slice(0, 40)}". Nothing was taken in.`,
      );
    };
    const position: [number, number, number] = [within(number('x')), within(number('y')), within(number('z'))];
    const turn = [number('qx'), number('qy'), number('qz'), number('qw')] as const;
    const size = Math.hypot(...turn);
    if (size < 1e-6)
      throw new UserProblem(
        'camera-file',
        `Line ${k + 2} has no turn: its quaternion is nothing. Nothing was taken in.`,
      );
    return {
      frame: number('frame'),
      position,
      turn: turn.map((v) => v / size) as [number, number, number, number],
      focalLength: clamp(number('focal', STANDARD.focal), 4, 2000),
      sensorWidth: clamp(number('sensor', STANDARD.sensor), 4, 150),
      focusDistance: clamp(number('focus', STANDARD.focus), 1, 1e7),
      fStop: clamp(number('stop', STANDARD.stop), 0, 128),
    };
  });
  // Later lines of a frame replace earlier ones.
  return [...new Map(samples.map((sample) => [sample.frame, sample])).values()].sort((a, b) => a.frame - b.frame);
}

const clamp = (value: number, low: number, high: number): number => Math.min(high, Math.max(low, value));
const within = (value: number): number => clamp(value, -1e7, 1e7);
