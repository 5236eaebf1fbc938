import { LAYERS, type RenderWay } from '../document';

/** A way of rendering that every project can be set to. What it leaves out stays as it was: layers and seed. */
interface RenderPreset {
  id: string;
  name: string;
  way: Partial<RenderWay>;
}

export const RENDER_PRESETS: readonly RenderPreset[] = [
  {
    id: 'draft',
    name: 'Draft',
    way: { share: 'half', samples: 32, noiseTarget: 0, secondsPerFrame: 0, depth: 10, speckLimit: 12 },
  },
  {
    id: 'good',
    name: 'Good',
    way: { share: 'full', samples: 64, noiseTarget: 0, secondsPerFrame: 0, depth: 10, speckLimit: 12 },
  },
  {
    id: 'best',
    name: 'Best',
    way: { share: 'full', samples: 1024, noiseTarget: 0.01, secondsPerFrame: 0, depth: 24, speckLimit: 40 },
  },
];

/** Whether settings say all that a preset says. */
export function sameWay(way: RenderWay, preset: Partial<RenderWay>): boolean {
  return (Object.keys(way) as (keyof RenderWay)[]).every((name) => {
    if (!(name in preset)) return true;
    if (name !== 'layers') return way[name] === preset[name];
    // In whichever order they were chosen.
    return LAYERS.every((layer) => way.layers.includes(layer) === preset.layers?.includes(layer));
  });
}
