import type { Look } from '../document';

/** A look that every project can be given. What it leaves out goes back to what it is in a new project. */
export interface ReadyLook {
  id: string;
  name: string;
  says: string;
  look: Partial<Look>;
}

export const READY_LOOKS: readonly ReadyLook[] = [
  { id: 'plain', name: 'Plain', says: 'As a new project has it', look: {} },
  {
    id: 'catalogue',
    name: 'Catalogue',
    says: 'Colours of the product as they are, nothing laid over them',
    look: { tone: 'trueColor', bloomAmount: 0, sharpen: 0.25 },
  },
  {
    id: 'showroom',
    name: 'Showroom',
    says: 'Clear, with a shine on bright edges',
    look: { tone: 'strong', contrast: 1.06, saturation: 1.06, bloomAmount: 0.08, vignette: 0.15 },
  },
  {
    id: 'evening',
    name: 'Evening',
    says: 'Warm lamps, soft highlights, dark corners',
    look: {
      tone: 'film',
      exposure: 0.4,
      balanceKelvin: 7800,
      bloomAmount: 0.12,
      bloomRadius: 0.07,
      vignette: 0.35,
      saturation: 1.08,
    },
  },
  {
    id: 'steel',
    name: 'Cold steel',
    says: 'Cool and hard, little colour',
    look: { tone: 'print', balanceKelvin: 5200, saturation: 0.72, contrast: 1.08, vignette: 0.2, sharpen: 0.35 },
  },
  {
    id: 'reel',
    name: 'Old reel',
    says: 'Grain, faded blacks, light that spreads',
    look: {
      tone: 'film',
      exposure: 0.4,
      grain: 0.35,
      vignette: 0.3,
      fringing: 0.15,
      bloomAmount: 0.1,
      saturation: 0.85,
      curves: {
        all: [
          [0, 0.05],
          [0.5, 0.52],
          [1, 0.97],
        ],
        red: [
          [0, 0],
          [1, 1],
        ],
        green: [
          [0, 0],
          [1, 1],
        ],
        blue: [
          [0, 0.03],
          [1, 0.95],
        ],
      },
    },
  },
  {
    id: 'silver',
    name: 'Silver',
    says: 'Black and white, with weight in the middle',
    look: { tone: 'strong', saturation: 0, contrast: 1.12, grain: 0.12, vignette: 0.25 },
  },
  {
    id: 'glow',
    name: 'Night glow',
    says: 'For lamps and displays in the dark: bright things hold together and shine out',
    look: { tone: 'wide', exposure: 0.5, bloomAmount: 0.2, bloomRadius: 0.06, contrast: 1.1, saturation: 1.1 },
  },
];
