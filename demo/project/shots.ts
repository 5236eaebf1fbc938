import {
  newCamera,
  newLight,
  newShot,
  type Key,
  type Move,
  type ProjectDocument,
  type Value,
} from '@zippy/core/document';
import { newMove } from '@zippy/core/motion';

const RADIANS = Math.PI / 180;

const key = (frame: number, value: Value, pace: Key['pace'] = 'ease'): Key => ({ frame, value, pace });

type Over<K extends Move['kind']> = Partial<Extract<Move, { kind: K }>>;

function move<K extends Move['kind']>(
  kind: K,
  id: string,
  target: string,
  start: number,
  length: number,
  over: Over<K> = {},
): Record<string, Move> {
  return { [id]: { ...newMove(kind, target, start, length), id, ...over } as Move };
}

/** Lights, cameras and the four shots of the demo film. `find` gives the id of a node by its name. */
export function shootRadio(document: ProjectDocument, find: (name: string) => string): void {
  const light = (id: string, name: string, over: Parameters<typeof newLight>[1], kind: 'panel' | 'bulb' = 'panel') => {
    document.lights[id] = newLight(kind, { id, name, order: Object.keys(document.lights).length, ...over });
  };
  light('key', 'Key panel', {
    position: [-520, 520, 430],
    target: [0, 60, 0],
    power: 2300,
    width: 340,
    height: 340,
    kelvin: 5200,
  });
  light('rim', 'Rim strip', {
    position: [430, 320, -320],
    target: [0, 90, 0],
    power: 2200,
    width: 90,
    height: 520,
    kelvin: 6400,
  });
  light('top', 'Top panel', {
    position: [0, 720, -60],
    target: [0, 80, 0],
    power: 700,
    width: 520,
    height: 300,
    kelvin: 5600,
  });
  light('sweep', 'Sweeping strip', {
    position: [-330, 130, 240],
    target: [-52, 80, 30],
    power: 200,
    width: 36,
    height: 420,
    kelvin: 5600,
    on: false,
  });

  const camera = (id: string, name: string, over: Parameters<typeof newCamera>[0]) => {
    document.cameras[id] = newCamera({ id, name, order: Object.keys(document.cameras).length, ...over });
  };
  camera('front', 'Turn camera', {
    position: [60, 150, 760],
    target: [0, 74, 0],
    focalLength: 70,
    fStop: 11,
    focusDistance: 750,
  });
  camera('close', 'Grille close-up', {
    position: [-196, 96, 196],
    target: [-62, 82, 34],
    focalLength: 60,
    fStop: 4,
    focusDistance: 212,
  });
  camera('dial', 'Dial close-up', {
    position: [126, 132, 282],
    target: [58, 90, 30],
    focalLength: 62,
    fStop: 4,
    focusDistance: 262,
  });
  camera('hero', 'Hero view', {
    position: [-360, 84, 940],
    target: [22, 192, 0],
    focalLength: 48,
    fStop: 8,
    focusDistance: 1000,
  });

  const rod = find('Antenna rod');
  const turn = newShot({
    id: 'turn',
    name: 'Turn',
    order: 0,
    length: 96,
    camera: 'front',
    moves: move('turntable', 'spin', `nodes/${find('Ferrow R2')}`, 1, 96, { turns: 1 }),
  });
  const grille = newShot({
    id: 'grille',
    name: 'Grille',
    order: 1,
    length: 72,
    camera: 'close',
    changes: {
      'lights/sweep/on': true,
      'lights/key/power': 40,
      'lights/top/power': 30,
      'lights/rim/power': 400,
      'set/surroundings/brightness': 0.05,
      'finishes/scale/emissionPower': 1.2,
    },
    tracks: {
      'lights/sweep/position': [key(1, [-420, 170, 190]), key(72, [230, 150, 300])],
      'cameras/close/focusDistance': [key(1, 178), key(72, 236)],
    },
    moves: move('travel', 'drift', 'cameras/close', 1, 72, { from: [0, 0, 0], to: [34, 6, 6], pace: 'linear' }),
  });
  const dial = newShot({
    id: 'dial',
    name: 'Dial warms up',
    order: 2,
    length: 72,
    camera: 'dial',
    changes: {
      'lights/key/power': 110,
      'lights/top/power': 60,
      'lights/rim/power': 320,
      'set/surroundings/brightness': 0.05,
    },
    moves: {
      ...move('ramp', 'warm', 'finishes/scale/emissionPower', 8, 36, { from: 0, to: 3.2, pace: 'ease-in' }),
      ...move('travel', 'push', 'cameras/dial', 1, 72, { from: [0, 0, 0], to: [-14, -4, -22], pace: 'ease' }),
    },
  });
  for (let lamp = 1; lamp <= 10; lamp++) {
    const count = [5, 5, 4, 5, 4, 4, 3, 3, 2, 2][lamp - 1]!;
    Object.assign(
      dial.moves,
      move('blink', `lamp${lamp}`, `nodes/${find(`Emitter ${lamp}`)}/glow`, 18 + lamp, 72 - 18 - lamp, {
        name: `Lamp ${lamp}`,
        count,
        duty: 0.78 - lamp * 0.05,
        softness: 0.5,
        low: 0.03,
        high: 1,
      }),
    );
  }
  const hero = newShot({
    id: 'antenna',
    name: 'Antenna rises',
    order: 3,
    length: 84,
    camera: 'hero',
    changes: {
      'finishes/scale/emissionPower': 2.4,
      'lights/key/power': 2000,
      'lights/top/power': 420,
      'lights/rim/power': 1500,
      'set/surroundings/brightness': 0.18,
    },
    tracks: {
      [`nodes/${rod}/turn`]: [key(6, [0, 0, 0]), key(40, [0, 0, -112 * RADIANS], 'ease')],
    },
    moves: move('orbit', 'arc', 'cameras/hero', 1, 84, { angle: 14 * RADIANS, pace: 'ease' }),
  });
  for (const [name, slide] of [
    ['Antenna section 2', 1],
    ['Antenna section 3', 2],
    ['Antenna section 4', 3],
    ['Antenna tip', 3],
  ] as const) {
    hero.tracks[`nodes/${find(name)}/position`] = [key(38, [0, 0, 0], 'ease-out'), key(72, [-30 * slide, 0, 0])];
  }
  document.shots = Object.fromEntries([turn, grille, dial, hero].map((shot) => [shot.id, shot]));
}
