import { copyOf, plainLayerName, type Look, type ProjectDocument, type Value, type Vector3 } from '../document';
import { behaviourOf } from '../motion/moves';
import { lightColor, luminance, type Rgb } from './photometry';

type Balance = Look['lights'][string];

const AS_IT_IS: Balance = { power: 1, tint: [1, 1, 1] };
const part = (is: number, was: number): number => (was > 0 ? is / was : 1);

/**
 * Gives lamps, luminous finishes and surroundings the power and colour that their light layers were balanced to, with their keys and
 * moves, so that the next take is as bright as the last one was developed.
 * @param look is told what has been written, so that nothing is written twice
 * @returns names of the layers that belong to nothing in the document
 */
export function writeBack(draft: ProjectDocument, look: Pick<Look, 'lights' | 'lightsWritten'>): string[] {
  const names = new Set([...Object.keys(look.lights), ...Object.keys(look.lightsWritten)]);
  const missing = [...names].filter((layer) => {
    const [is, was] = [look.lights[layer] ?? AS_IT_IS, look.lightsWritten[layer] ?? AS_IT_IS];
    const tint = is.tint.map((v, k) => part(v, was.tint[k]!)) as Vector3;
    return !writeLayer(draft, layer, { power: part(is.power, was.power), tint });
  });
  look.lightsWritten = copyOf(look.lights);
  return missing;
}

/** Changes what shines in a light layer. @returns whether there is anything that does */
function writeLayer(draft: ProjectDocument, layer: string, balance: Balance): boolean {
  const named = (name: string) => plainLayerName(name) === layer;
  const lamps = Object.values(draft.lights).filter(({ name, group }) => named(group || name));
  const finishes = Object.values(draft.finishes).filter(({ name, emissionPower }) => emissionPower > 0 && named(name));
  const around = layer === 'Surroundings';
  for (const { id, kelvin, tint } of lamps)
    change(draft, `lights/${id}/power`, `lights/${id}/tint`, balance, lightColor(kelvin, tint));
  for (const { id, emissionKelvin, emissionColor } of finishes) {
    const shone = lightColor(emissionKelvin, emissionColor);
    change(draft, `finishes/${id}/emissionPower`, `finishes/${id}/emissionColor`, balance, shone);
  }
  if (around) change(draft, 'set/surroundings/brightness', 'set/surroundings/tint', balance, [1, 1, 1]);
  return lamps.length + finishes.length > 0 || around;
}

/**
 * Multiplies a power and a colour wherever the document says them.
 * @param shone colour of the light before, of luminance one: a tint keeps a lamp's power, so that the power takes what it gains
 */
function change(
  draft: ProjectDocument,
  power: string,
  color: string,
  { power: gain, tint }: Balance,
  shone: Rgb,
): void {
  const brighter = Math.max(1e-6, luminance([shone[0] * tint[0], shone[1] * tint[1], shone[2] * tint[2]]));
  eachValue(draft, power, (value) => (typeof value === 'number' ? tidy(value * gain * brighter) : value));
  eachValue(draft, color, (value) =>
    Array.isArray(value) ? (value.map((v, k) => tidy((v * tint[k]!) / brighter)) as Vector3) : value,
  );
}

/** Rounded to twelve digits: 200 is not shown as 199.99999999999997. */
const tidy = (value: number): number => Number(value.toPrecision(12));

function eachValue(draft: ProjectDocument, path: string, of: (value: Value) => Value): void {
  const steps = path.split('/');
  let at = draft as unknown as Record<string, unknown>;
  for (const step of steps.slice(0, -1)) at = at[step] as Record<string, unknown>;
  at[steps.at(-1)!] = of(at[steps.at(-1)!] as Value);
  for (const shot of Object.values(draft.shots)) {
    if (path in shot.changes) shot.changes[path] = of(shot.changes[path]!);
    for (const key of shot.tracks[path] ?? []) key.value = of(key.value);
    for (const move of Object.values(shot.moves)) {
      const behaviour = behaviourOf(move);
      if (move.target === path && behaviour.drives === 'value') behaviour.mapValues?.(move, (values) => values.map(of));
    }
  }
}
