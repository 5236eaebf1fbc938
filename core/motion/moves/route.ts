import * as z from 'zod';
import { LIMITS } from '../../document/properties/limits';
import { CAMERA } from '../../document/properties/camera';
import { shapeOf, toggle } from '../../document/properties/property';
import { moveKind, three, told, type Occasion } from './kind';
import { paced } from './paces';
import { movePhase } from './phase';
import { wayThrough, type Way } from './wayThrough';

const { position, target, roll, focalLength, focusDistance } = CAMERA;
const stationSchema = z.object(shapeOf({ position, target, roll, focalLength, focusDistance }));

/** A camera through viewpoints, one after the other, each with its lens and sharpness. */
export const route = moveKind(
  'route',
  {
    /** Round the viewpoints in a curve, or straight from one to the next. */
    smooth: told(toggle(true)),
    /** At one speed all the way; otherwise as long from each viewpoint to the next. */
    even: told(toggle(true)),
    /** Back to the first one at the end. */
    closed: told(toggle(false)),
  },
  {
    stations: {
      schema: z.array(stationSchema).max(LIMITS.stations),
      default: [] as z.infer<typeof stationSchema>[],
    },
  },
  {
    title: 'Route',
    on: ['cameras'],
    cyclic: false,
    pace: 'ease',
    drives: 'place',
    begin: ({ camera }): { stations?: Station[] } => (camera ? { stations: [stationOf(camera)] } : {}),
    loops: ({ closed, mirrored }) => closed || mirrored,
    carry(move, frame, pose) {
      if (!pose.target || !pose.lens || move.stations.length === 0) return;
      const at = wayOf(move)(paced(move.pace, movePhase(move, false, frame).within));
      pose.position = [at[0]!, at[1]!, at[2]!];
      pose.target = [at[3]!, at[4]!, at[5]!];
      Object.assign(pose.lens, { roll: at[6], focalLength: Math.exp(at[7]!), focusDistance: Math.exp(at[8]!) });
    },
    rehang(move, change) {
      for (const station of move.stations) {
        station.position = [...change.point(station.position)];
        station.target = [...change.point(station.target)];
      }
    },
  },
);

type Station = z.infer<typeof stationSchema>;

/** A viewpoint as a camera stands. */
export const stationOf = (camera: NonNullable<Occasion['camera']>): Station => ({
  position: three(camera.position),
  target: three(camera.target),
  roll: camera.roll,
  focalLength: camera.focalLength,
  focusDistance: camera.focusDistance,
});

interface Routed {
  stations: readonly Station[];
  smooth: boolean;
  even: boolean;
  closed: boolean;
}

/** Ways of moves as they are; a changed move is another one. */
const ways = new WeakMap<readonly Station[], { key: string; way: Way }>();

function wayOf({ stations, smooth, even, closed }: Routed): Way {
  const key = `${smooth}${even}${closed}`;
  const known = ways.get(stations);
  if (known?.key === key) return known.way;
  // Focal lengths and distances travel even in share.
  const points = stations.map(({ position: p, target: t, roll: r, focalLength: f, focusDistance: d }) => [
    ...p,
    ...t,
    r,
    Math.log(f),
    Math.log(d),
  ]);
  const way = wayThrough(points, { smooth, even, closed });
  ways.set(stations, { key, way });
  return way;
}
