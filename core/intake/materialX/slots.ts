import { FINISH } from '../../document';

type Name = keyof typeof FINISH;

/** How a parameter is written in MaterialX. */
export interface Slot {
  name: Name;
  input: string;
  type: 'float' | 'color3' | 'boolean';
  /** What OpenPBR takes where the file says nothing. */
  standard: number | readonly [number, number, number] | boolean;
  /** In millimetres here; its unit is said in the file. */
  long?: true;
}

/** Where OpenPBR's own default differs from the one that a new finish has here. */
const STANDARDS: Partial<Record<Name, Slot['standard']>> = {
  baseColor: [0.8, 0.8, 0.8],
  specularRoughness: 0.3,
  coatRoughness: 0,
  coatIor: 1.6,
};
/** What is named by other rules, is no input of its own, or is said in other words. */
const APART = new Set<Name>([
  'specularRotation',
  'emissionPower',
  'emissionUnit',
  'emissionKelvin',
  'emissionColor',
  'emissionTwoSided',
  'emissionVisibleToCamera',
]);
const LONG = new Set<Name>(['transmissionDepth', 'subsurfaceRadius']);

const inputOf = (name: Name): string =>
  name === 'thinWalled' ? 'geometry_thin_walled' : name.replace(/[A-Z]/g, (letter) => `_${letter.toLowerCase()}`);

/** Inputs of `open_pbr_surface`, whose names are those of the parameters here in another case. */
export const SLOTS: readonly Slot[] = (Object.keys(FINISH) as Name[])
  .filter((name) => !APART.has(name))
  .map((name) => ({
    name,
    input: inputOf(name),
    type: FINISH[name].kind === 'color' ? 'color3' : FINISH[name].kind === 'switch' ? 'boolean' : 'float',
    standard: (STANDARDS[name] ?? FINISH[name].default) as Slot['standard'],
    ...(LONG.has(name) ? { long: true as const } : {}),
  }));
