import {
  newCamera,
  newLight,
  newMove,
  newShot,
  type Key,
  type Move,
  type ProjectDocument,
  type Value,
} from '@zippy/core/document';

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
    position: [-480, 560, 520],
    target: [0, 70, 0],
    lumens: 2300,
    width: 460,
    height: 460,
    kelvin: 5200,
  });
  light('rim', 'Rim strip', {
    position: [430, 320, -320],
    target: [0, 90, 0],
    lumens: 1500,
    width: 90,
    height: 520,
    kelvin: 6400,
  });
  light('top', 'Top panel', {
    position: [0, 720, -60],
    target: [0, 80, 0],
    lumens: 900,
    width: 520,
    height: 300,
    kelvin: 5600,
  });
  light('sweep', 'Sweeping strip', {
    position: [-330, 130, 240],
    target: [-52, 80, 30],
    lumens: 520,
    width: 50,
    height: 420,
    kelvin: 5600,
    on: false,
  });

  const camera = (id: string, name: string, over: Parameters<typeof newCamera>[0]) => {
    document.cameras[id] = newCamera({ id, name, order: Object.keys(document.cameras).length, ...over });
  };
  camera('front', 'Turn camera', {
    position: [60, 190, 860],
    target: [0, 82, 0],
    focalLength: 70,
    fStop: 11,
    focusDistance: 850,
  });
  camera('close', 'Grille close-up', {
    position: [-196, 96, 196],
    target: [-62, 82, 34],
    focalLength: 60,
    fStop: 2.8,
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
    position: [-380, 215, 1190],
    target: [18, 205, 0],
    focalLength: 56,
    fStop: 8,
    focusDistance: 1230,
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
      'lights/key/lumens': 90,
      'lights/top/lumens': 60,
      'lights/rim/lumens': 300,
      'set/surroundings/brightness': 0.22,
    },
    tracks: {
      'lights/sweep/position': [key(1, [-420, 170, 190]), key(72, [230, 150, 300])],
      'cameras/close/focusDistance': [key(1, 178), key(72, 236)],
    },
    moves: move('glide', 'drift', 'cameras/close', 1, 72, { from: [0, 0, 0], to: [34, 6, 6], pace: 'linear' }),
  });
  const dial = newShot({
    id: 'dial',
    name: 'Dial warms up',
    order: 2,
    length: 96,
    camera: 'dial',
    changes: {
      'lights/key/lumens': 150,
      'lights/top/lumens': 90,
      'lights/rim/lumens': 180,
      'set/surroundings/brightness': 0.16,
    },
    moves: {
      ...move('fade', 'warm', 'finishes/scale/emissionLumens', 10, 44, { from: 0, to: 7, pace: 'ease-in' }),
      ...move('glide', 'push', 'cameras/dial', 1, 96, { from: [0, 0, 0], to: [-14, -4, -22], pace: 'ease' }),
    },
  });
  for (let lamp = 1; lamp <= 10; lamp++) {
    const count = [6, 6, 5, 6, 5, 4, 4, 3, 3, 2][lamp - 1]!;
    Object.assign(
      dial.moves,
      move('blink', `lamp${lamp}`, `nodes/${find(`Emitter ${lamp}`)}/glow`, 26 + lamp, 96 - 26 - lamp, {
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
    length: 96,
    camera: 'hero',
    changes: { 'finishes/scale/emissionLumens': 4 },
    tracks: {
      [`nodes/${rod}/turn`]: [key(8, [0, 0, 0]), key(46, [0, 0, -112 * RADIANS], 'ease')],
    },
    moves: move('orbit', 'arc', 'cameras/hero', 1, 96, { angle: 14 * RADIANS, pace: 'ease' }),
  });
  for (const [name, slide] of [
    ['Antenna section 2', 1],
    ['Antenna section 3', 2],
    ['Antenna section 4', 3],
    ['Antenna tip', 3],
  ] as const) {
    hero.tracks[`nodes/${find(name)}/position`] = [key(44, [0, 0, 0], 'ease-out'), key(84, [-30 * slide, 0, 0])];
  }
  document.shots = Object.fromEntries([turn, grille, dial, hero].map((shot) => [shot.id, shot]));
}
