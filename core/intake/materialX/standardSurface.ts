import type { Finish } from '../../document';
import type { Element } from './elements';
import type { Graph, Reading } from './graph';

/** Names of `standard_surface` for inputs of `open_pbr_surface` that mean the same. */
const ALIKE: Record<string, string> = {
  base_weight: 'base',
  base_color: 'base_color',
  base_diffuse_roughness: 'diffuse_roughness',
  base_metalness: 'metalness',
  specular_weight: 'specular',
  specular_color: 'specular_color',
  specular_roughness: 'specular_roughness',
  specular_ior: 'specular_IOR',
  transmission_weight: 'transmission',
  transmission_color: 'transmission_color',
  transmission_depth: 'transmission_depth',
  transmission_scatter: 'transmission_scatter',
  transmission_scatter_anisotropy: 'transmission_scatter_anisotropy',
  subsurface_weight: 'subsurface',
  subsurface_color: 'subsurface_color',
  subsurface_radius: 'subsurface_scale',
  subsurface_radius_scale: 'subsurface_radius',
  subsurface_scatter_anisotropy: 'subsurface_anisotropy',
  fuzz_weight: 'sheen',
  fuzz_color: 'sheen_color',
  fuzz_roughness: 'sheen_roughness',
  coat_weight: 'coat',
  coat_color: 'coat_color',
  coat_roughness: 'coat_roughness',
  coat_ior: 'coat_IOR',
  coat_darkening: 'coat_affect_color',
  thin_film_ior: 'thin_film_IOR',
  geometry_opacity: 'opacity',
  geometry_thin_walled: 'thin_walled',
  geometry_normal: 'normal',
  geometry_tangent: 'tangent',
  emission_color: 'emission_color',
  emission_luminance: 'emission',
};

/** What the node takes where the file says nothing and OpenPBR would take something else. */
const STANDARDS: Record<string, readonly number[]> = {
  base_color: [0.8, 0.8, 0.8],
  specular_roughness: [0.2],
  subsurface_color: [1, 1, 1],
  subsurface_radius_scale: [1, 1, 1],
  fuzz_roughness: [0.3],
  coat_roughness: [0.1],
  coat_ior: [1.5],
  coat_darkening: [0],
};

/** What an input of OpenPBR is on a `standard_surface` (version 1.0.1); null where it says nothing. */
export function standardReading(graph: Graph, node: Element, input: string): Reading | null {
  const alike = ALIKE[input];
  if (alike === undefined) return null;
  const found = graph.read(node, alike);
  if (found) return found;
  const standard = STANDARDS[input];
  return standard ? { factor: standard, map: null } : null;
}

/** What that node says in other measures: brushing, thin films, how colours part. */
export function standardValues(graph: Graph, node: Element): Partial<Finish> {
  const number = (name: string) => graph.read(node, name)?.factor[0] ?? 0;
  const values: Partial<Finish> = {};
  const brushed = number('specular_anisotropy');
  if (brushed > 0) {
    // Its widths are r² / a and r² a with a = √(1 − 0.9 anisotropy); those of OpenPBR αt = r² √(2 / (1 + (1 − b)²)) and (1 − b) αt.
    const ratio = Math.sqrt(Math.max(0.01, 1 - 0.9 * brushed));
    const along = (graph.read(node, 'specular_roughness')?.factor[0] ?? 0.2) ** 2 / ratio;
    values.specularRoughnessAnisotropy = 1 - ratio * ratio;
    values.specularRoughness = Math.min(1, Math.sqrt(along / Math.sqrt(2 / (1 + ratio ** 4))));
  }
  values.specularRotation = number('specular_rotation') * 2 * Math.PI;
  const film = number('thin_film_thickness');
  values.thinFilmWeight = film > 0 ? 1 : 0;
  if (film > 0) values.thinFilmThickness = film / 1000;
  const abbe = number('transmission_dispersion');
  if (abbe > 0) Object.assign(values, { transmissionDispersionScale: 1, transmissionDispersionAbbeNumber: abbe });
  return values;
}
