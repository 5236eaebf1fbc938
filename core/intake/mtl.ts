import { MTLLoader, type MaterialInfo } from 'three/examples/jsm/loaders/MTLLoader.js';
import type { MapSlot } from '../document';
import { decodeSrgb } from '../optics';
import { colorFinish, type ModelFinish } from './model';

/** Statements that name a picture, those of the PBR extension included, and what it drives. */
const PICTURES: Record<string, MapSlot> = {
  map_kd: 'baseColor',
  map_ks: 'specularColor',
  map_ke: 'emissionColor',
  map_d: 'geometryOpacity',
  map_pr: 'specularRoughness',
  map_pm: 'baseMetalness',
  norm: 'normal',
};

type Statements = Record<string, string | readonly unknown[] | undefined>;

/**
 * Finishes by name from the text of an MTL file.
 * @param pictureOf number of a picture by the path that the file names
 */
export function readMtl(text: string, pictureOf: (path: string) => number | null): Map<string, ModelFinish> {
  // Only the statements are taken: to make materials, the loader would want a page to load pictures in.
  const { materialsInfo } = new MTLLoader().parse(text, '') as unknown as {
    materialsInfo: Record<string, MaterialInfo>;
  };
  return new Map(
    Object.entries(materialsInfo).map(([name, info]) => {
      const said = info as unknown as Statements;
      const number = (key: string): number | undefined => {
        const value = Number(said[key]);
        return said[key] !== undefined && Number.isFinite(value) ? value : undefined;
      };
      const color = (key: string) => (said[key] as readonly unknown[] | undefined)?.map((v) => decodeSrgb(Number(v)));
      const transparency = number('tr');
      const alpha = number('d') ?? (transparency === undefined ? 1 : 1 - transparency);
      const kd = color('kd');
      const finish = colorFinish(name || 'Finish', kd && kd.every(Number.isFinite) ? kd : [0.5, 0.5, 0.5], alpha);
      const [roughness, metalness, index] = [number('pr'), number('pm'), number('ni')];
      if (roughness !== undefined) finish.values.specularRoughness = Math.min(1, Math.max(0, roughness));
      if (metalness !== undefined) finish.values.baseMetalness = Math.min(1, Math.max(0, metalness));
      if (index !== undefined && index >= 1) finish.values.specularIor = Math.min(4, index);
      for (const [statement, slot] of Object.entries(PICTURES)) {
        const path = said[statement];
        const picture = typeof path === 'string' ? pictureOf(path) : null;
        if (picture === null) continue;
        finish.maps.push({ slot, picture, over: {} });
        // A picture gives the colour by itself: many files leave the colour beside it black.
        if (slot === 'baseColor') finish.values.baseColor = [1, 1, 1];
        if (slot === 'specularRoughness') finish.values.specularRoughness = 1;
        if (slot === 'baseMetalness') finish.values.baseMetalness = 1;
      }
      return [name, finish] as const;
    }),
  );
}
