import { describe, expect, it } from 'vitest';
import { LAYERS, newDocument, type RenderWay } from '../document';
import { RENDER_PRESETS, renderSettingsSchema, sameWay, settingsOfShot } from './index';

function film() {
  const document = structuredClone(newDocument('Settings'));
  return { document, shot: Object.values(document.shots)[0]! };
}

describe('how a shot is rendered', () => {
  it('is said by the project, and by the shot where it says so itself', () => {
    const { document, shot } = film();
    document.picture = { width: 1001, height: 500 };
    expect(settingsOfShot(document, shot)).toMatchObject({ width: 501, height: 250, samples: 32 });
    expect(settingsOfShot(document, null)).toEqual(settingsOfShot(document, shot));
    shot.render = { ...document.render, share: 'full', samples: 9 };
    expect(settingsOfShot(document, shot)).toMatchObject({ width: 1001, height: 500, samples: 9 });
    shot.picture = { width: 300, height: 600 };
    expect(settingsOfShot(document, shot)).toMatchObject({ width: 300, height: 600, samples: 9 });
    expect(settingsOfShot(document, null)).toMatchObject({ width: 501, height: 250, samples: 32 });
  });

  it('is what the tracer takes, even of the smallest and the largest picture', () => {
    const { document, shot } = film();
    for (const side of [16, 17, 8191, 8192]) {
      for (const share of ['full', 'half', 'quarter'] as const) {
        document.picture = { width: side, height: side };
        document.render.share = share;
        const settings = settingsOfShot(document, shot);
        expect(renderSettingsSchema.parse(settings)).toEqual(settings);
      }
    }
  });
});

describe('presets', () => {
  const way: RenderWay = { ...newDocument('').render };

  it('are told from one another, and a new project is a draft', () => {
    expect(RENDER_PRESETS.filter((preset) => sameWay(way, preset.way)).map(({ id }) => id)).toEqual(['draft']);
    for (const { id, way: preset } of RENDER_PRESETS) {
      const set = { ...way, ...preset };
      expect(RENDER_PRESETS.filter((other) => sameWay(set, other.way)).map((each) => each.id)).toEqual([id]);
    }
  });

  it('do not go by the order in which layers were chosen', () => {
    const layers = [...LAYERS].reverse();
    expect(sameWay({ ...way, layers }, { ...way, layers: [...LAYERS] })).toBe(true);
    expect(sameWay({ ...way, layers }, { ...way, layers: ['lights'] })).toBe(false);
  });
});
