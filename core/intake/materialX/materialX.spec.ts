import { describe, expect, it } from 'vitest';
import fc from 'fast-check';
import { newFinish, newMap, type Finish } from '../../document';
import { FINISH_SHELF } from '../../shelf';
import { partRadiance } from '../../optics';
import { importedFinish } from '../place';
import { leftOutOfMaterialX } from './leftOut';
import { readMaterialX, writeMaterialX } from './index';

const bytes = (text: string) => new TextEncoder().encode(text);
const png = { name: 'pictures/grain.png', bytes: new Uint8Array([1, 2, 3]) };
const fileOf = (picture: string) => (picture === 'grain' ? 'pictures/grain.png' : null);
const wrap = (inside: string, attributes = '') =>
  bytes(`<?xml version="1.0"?><materialx version="1.39"${attributes}>${inside}</materialx>`);
const surface = (inputs: string) =>
  `<open_pbr_surface name="s" type="surfaceshader">${inputs}</open_pbr_surface><surfacematerial name="Worn_lid" type="material"><input name="surfaceshader" type="surfaceshader" nodename="s"/></surfacematerial>`;
const read = (text: Uint8Array, companions = [png]) => readMaterialX(text, 'lid.mtlx', companions);

function there(finish: Finish): Finish {
  const { finishes, pictures } = read(bytes(writeMaterialX(finish, fileOf)));
  return importedFinish(
    finishes[0]!,
    0,
    pictures.map(() => 'grain'),
  );
}

/** All that a finish shows, its light as luminance and colour: lumens come back as nits. */
function shown(finish: Finish): unknown {
  const rest = Object.entries(finish).filter(([name]) => name !== 'id' && !name.startsWith('emission'));
  const rounded = (_: string, v: unknown) => (typeof v === 'number' ? Number(v.toPrecision(7)) : v);
  return JSON.parse(JSON.stringify(Object.fromEntries(rest), rounded));
}

describe('a finish goes to MaterialX and comes back', () => {
  const all = FINISH_SHELF.flatMap(({ finishes }) => finishes).map((each) => newFinish({ ...each, maps: {} }));

  it.each(all.map((each) => [each.name, each] as const))('%s', (_, finish) => {
    const back = there(finish);
    expect({ ...(shown(back) as object), name: '' }).toEqual({ ...(shown(finish) as object), name: '' });
    expect(partRadiance(back, 1, 10_000)).toBeCloseTo(partRadiance(finish, 1, 10_000), 4);
  });

  it('with a picture that is tiled, moved, remapped and read by one channel', () => {
    const map = newMap('specularRoughness', 'grain', {
      channel: 'green', repeatU: 3, repeatV: 2.5, offsetU: 0.25, offsetV: 0.125, dark: 0.1, bright: 0.9, low: 0.2, high: 0.6, curve: 2, inverted: true,
    }); // prettier-ignore
    const finish = newFinish({ name: 'Worn', specularRoughness: 0.8, maps: { a: map } });
    const [back] = Object.values(there(finish).maps);
    for (const key of Object.keys(map) as (keyof typeof map)[]) {
      if (typeof map[key] === 'number') expect(back![key], key).toBeCloseTo(map[key], 6);
      else expect(back![key], key).toEqual(map[key]);
    }
    expect(there(finish).specularRoughness).toBe(0.8);
  });

  it('with coloured pictures, normals and a turned grain', () => {
    const maps = { a: newMap('baseColor', 'grain'), b: newMap('normal', 'grain', { strength: 0.4 }) };
    const back = there(newFinish({ name: 'Worn', baseColor: [1, 0.5, 0.25], specularRotation: 0.7, maps }));
    expect(back.baseColor).toEqual([1, 0.5, 0.25]);
    expect(back.specularRotation).toBeCloseTo(0.7, 6);
    const layers = Object.values(back.maps);
    expect(layers.find(({ slot }) => slot === 'baseColor')).toMatchObject({
      coding: 'srgb',
      source: { picture: 'grain' },
    });
    expect(layers.find(({ slot }) => slot === 'normal')).toMatchObject({ coding: 'linear', strength: 0.4 });
  });

  it('says what it cannot hold, and any name becomes one of a node', () => {
    const maps = { a: newMap('baseColor', 'grain', { projection: 'box' }), b: newMap('coatWeight', 'grain') };
    expect(leftOutOfMaterialX(newFinish({ name: 'x', maps }))).toEqual(['baseColor']);
    fc.assert(
      fc.property(fc.string(), (name) => {
        expect(writeMaterialX(newFinish({ name }), fileOf)).toMatch(/<surfacematerial name="[A-Za-z_]\w*"/);
      }),
      { numRuns: 50 },
    );
  });
});

describe('files of others', () => {
  it('gives OpenPBR its own defaults, and lengths in their unit', () => {
    const { finishes } = read(
      wrap(surface('<input name="transmission_depth" type="float" value="2" unit="centimeter"/>')),
    );
    expect(finishes[0]).toMatchObject({ name: 'Worn lid', values: { baseColor: [0.8, 0.8, 0.8], specularRoughness: 0.3, transmissionDepth: 20 } }); // prettier-ignore
  });

  it('reads a standard surface: sheen, brushing, films in nanometres', () => {
    const node = `<standard_surface name="s" type="surfaceshader">
      <input name="base" type="float" value="0.9"/><input name="base_color" type="color3" value="0.5, 0.25, 0.1"/>
      <input name="specular_roughness" type="float" value="0.4"/><input name="specular_anisotropy" type="float" value="0.5"/>
      <input name="sheen" type="float" value="0.3"/><input name="thin_film_thickness" type="float" value="420"/>
      <input name="emission" type="float" value="2"/></standard_surface>`;
    const { values } = read(wrap(node)).finishes[0]!;
    expect(values).toMatchObject({ baseWeight: 0.9, baseColor: [0.5, 0.25, 0.1], fuzzWeight: 0.3, fuzzRoughness: 0.3, thinFilmWeight: 1, thinFilmThickness: 0.42 }); // prettier-ignore
    // The two widths of its highlight: r² / a and r² a.
    const a = Math.sqrt(1 - 0.9 * 0.5);
    const { specularRoughness: r, specularRoughnessAnisotropy: b } = values as Finish;
    const along = r ** 2 * Math.sqrt(2 / (1 + (1 - b) ** 2));
    expect(along).toBeCloseTo(0.16 / a, 6);
    expect((1 - b) * along).toBeCloseTo(0.16 * a, 6);
    expect(values.emissionPower).toBeCloseTo(2 * 683, 0);
  });

  it('follows graphs, interfaces, tints and channels', () => {
    const text = `<nodegraph name="g"><input name="tint" type="color3" value="0.5, 0.25, 1"/>
      <image name="i" type="color3"><input name="file" type="filename" value="..\\\\..\\\\secret/grain.png" colorspace="srgb_texture"/></image>
      <multiply name="m" type="color3"><input name="in1" type="color3" nodename="i"/><input name="in2" type="color3" interfacename="tint"/></multiply>
      <separate3 name="s3" type="multioutput"><input name="in" type="color3" nodename="i"/></separate3>
      <output name="color" type="color3" nodename="m"/><output name="rough" type="float" nodename="s3" output="outg"/></nodegraph>
      ${surface('<input name="base_color" type="color3" nodegraph="g" output="color"/><input name="specular_roughness" type="float" nodegraph="g" output="rough"/>')}`;
    const { finishes, pictures } = read(wrap(text));
    expect(finishes[0]!.values.baseColor).toEqual([0.5, 0.25, 1]);
    expect(finishes[0]!.maps).toEqual(
      [
        { slot: 'baseColor', picture: 0, over: { coding: 'srgb', repeatU: undefined } },
        { slot: 'specularRoughness', picture: 0, over: { coding: 'srgb', channel: 'green' } },
      ].map((each) => ({ ...each, over: JSON.parse(JSON.stringify(each.over)) as object })),
    );
    // Only what came along is ever looked at, by its last name.
    expect(pictures).toEqual([png]);
  });

  it('decodes colours that are coded for a display', () => {
    const input = '<input name="base_color" type="color3" value="0.5, 0.5, 0.5" colorspace="srgb_texture"/>';
    expect((read(wrap(surface(input))).finishes[0]!.values.baseColor as number[])[0]).toBeCloseTo(0.214, 3);
  });

  it('says what is missing or unknown, and keeps the rest', () => {
    const text = `<noise3d name="n" type="float"/><image name="i" type="color3"><input name="file" type="filename" value="gone.png"/></image>
      ${surface('<input name="specular_roughness" type="float" nodename="n"/><input name="base_color" type="color3" nodename="i"/><input name="coat_weight" type="float" value="1"/>')}`;
    const { finishes, notes } = read(wrap(text));
    expect(notes.join(' ')).toMatch(/"gone\.png" did not come along.*"noise3d".*left out/);
    expect(finishes[0]!.values).toMatchObject({ specularRoughness: 0.3, coatWeight: 1 });
    expect(finishes[0]!.maps).toEqual([]);
  });

  it.each([
    ['a circle', wrap(`<multiply name="a" type="float"><input name="in1" type="float" nodename="b"/></multiply><multiply name="b" type="float"><input name="in1" type="float" nodename="a"/></multiply>${surface('<input name="coat_weight" type="float" nodename="a"/>')}`), /circle/],
    ['a graph in a circle', wrap(`<nodegraph name="g"><input name="v" type="float" nodegraph="g"/><output name="o" type="float" interfacename="v"/></nodegraph>${surface('<input name="coat_weight" type="float" nodegraph="g"/>')}`), /circle/],
    ['nothing to wear', wrap('<constant name="c" type="float"/>'), /no surface/],
    ['another document', bytes('<svg/>'), /does not begin like one/],
    ['no text at all', new Uint8Array([0, 255, 3]), /cannot be read/],
    ['a text that ends early', bytes('<materialx version="1.39"><open_pbr_surf'), /cannot be read/],
    ['entities without end', bytes('<!DOCTYPE m [<!ENTITY a "aaaa"><!ENTITY b "&a;&a;&a;">]><materialx><x y="&b;"/></materialx>'), /cannot be read/],
  ])('refuses %s in one sentence', (_, text, why) => {
    expect(() => read(text)).toThrow(why);
  }); // prettier-ignore

  it('ends where each node leads to the one before it twice', () => {
    const nodes = Array.from({ length: 60 }, (_, k) => `<multiply name="n${k}" type="float"><input name="in1" type="float" nodename="n${k - 1}"/><input name="in2" type="float" nodename="n${k - 1}"/></multiply>`); // prettier-ignore
    const first = '<constant name="n-1" type="float"><input name="value" type="float" value="1"/></constant>';
    const text = `${first}${nodes.join('')}${surface('<input name="coat_weight" type="float" nodename="n59"/>')}`;
    expect(() => read(wrap(text))).toThrow(/lead to each other too often/);
  });

  it('survives any text', () => {
    fc.assert(
      fc.property(fc.string(), fc.string(), (inside, value) => {
        try {
          read(wrap(`${inside}${surface(`<input name="base_color" type="color3" value="${value}"/>`)}`));
        } catch (error) {
          expect((error as Error).name).toBe('UserProblem');
        }
      }),
      { numRuns: 200 },
    );
  });
});
