import { CAMERA } from './camera';
import { LAYERS, PICTURE, RENDER, SETTINGS, SHOT } from './film';
import { SOURCE } from '../../optics/maps';
import { BLENDS, FINISH, MAP, PROJECTIONS } from './finish';
import { LABEL } from './label';
import { LIGHT, TRACK } from './light';
import { LOOK } from './look';
import { COPIES, NODE } from './node';
import type { Property, Table } from './property';
import { CLIP, REEL, SOUND, TITLE } from './reel';
import { AIR, BEHIND, FLOOR, GRADIENT, SKY, SURROUNDINGS } from './set';

export { defaultsOf, nearest, shapeOf, type MappedIn, type Property, type Table, type ValueKind } from './property';
export {
  AIR,
  BEHIND,
  BLENDS,
  CAMERA,
  CLIP,
  COPIES,
  FINISH,
  FLOOR,
  GRADIENT,
  LABEL,
  LAYERS,
  LIGHT,
  LOOK,
  MAP,
  NODE,
  PICTURE,
  PROJECTIONS,
  REEL,
  RENDER,
  SETTINGS,
  SHOT,
  SKY,
  SOUND,
  SOURCE,
  SURROUNDINGS,
  TITLE,
  TRACK,
};

/** Where the entities of a table lie: `*` stands for an id or the name of a slot. */
const PLACES: readonly (readonly [string, Table])[] = [
  ['nodes/*/copies', COPIES],
  ['nodes/*/labels/*', LABEL],
  ['nodes/*', NODE],
  ['finishes/*/maps/*/source', SOURCE],
  ['finishes/*/maps/*', MAP],
  ['finishes/*', FINISH],
  ['lights/*/track', TRACK],
  ['lights/*', LIGHT],
  ['cameras/*', CAMERA],
  ['set/floor', FLOOR],
  ['set/surroundings/gradient', GRADIENT],
  ['set/surroundings/sky', SKY],
  ['set/surroundings', SURROUNDINGS],
  ['set/air', AIR],
  ['set/behind', BEHIND],
  ['look', LOOK],
  ['takeLooks/*', LOOK],
  ['shots/*/look', LOOK],
  ['looks/*', LOOK],
  ['settings', SETTINGS],
  ['picture', PICTURE],
  ['render', RENDER],
  ['presets/*', RENDER],
  ['shots/*/picture', PICTURE],
  ['shots/*/render', RENDER],
  ['shots/*', SHOT],
  ['reel/clips/*/look', LOOK],
  ['reel/picture', PICTURE],
  ['reel/clips/*', CLIP],
  ['reel/titles/*', TITLE],
  ['reel/sounds/*', SOUND],
  ['reel', REEL],
];
const places = PLACES.map(([place, table]) => ({ steps: place.split('/'), table }));

/** What is told of the property at a path such as `lights/ID/power`; undefined where no table holds it. */
export function propertyAt(path: string): Property | undefined {
  const steps = path.split('/');
  const name = steps.pop()!;
  const found = places.find(
    ({ steps: place }) => place.length === steps.length && place.every((step, k) => step === '*' || step === steps[k]),
  );
  return found && Object.hasOwn(found.table, name) ? found.table[name] : undefined;
}
