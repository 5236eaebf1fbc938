import * as THREE from 'three';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { FocusVeil } from './focus-veil';
import { SketchMaterials } from './sketch-materials';
import { SketchPrograms } from './sketch-programs';
import { sketchLights } from './sketch-set';

const scenes = { sketch: new THREE.Scene(), stills: new THREE.Scene() };
let compiled: { objects: THREE.Object3D; lit: THREE.Scene | undefined; onCanvas: boolean; done: () => void }[];
let asked: string[];

function programs(): SketchPrograms {
  let target: THREE.WebGLRenderTarget | null = null;
  const program = { getUniforms: () => asked.push('uniforms'), getAttributes: () => asked.push('attributes') };
  const renderer = {
    info: { programs: [program, program] },
    setRenderTarget: (to: THREE.WebGLRenderTarget | null) => (target = to),
    compileAsync: (objects: THREE.Object3D, _: THREE.Camera, lit?: THREE.Scene) =>
      new Promise<void>((done) => compiled.push({ objects, lit, onCanvas: target === null, done })),
  };
  const made = new SketchPrograms(renderer as never, new SketchMaterials(vi.fn()), new FocusVeil().material, scenes);
  expect(target).toBeNull();
  return made;
}

beforeEach(() => {
  scenes.sketch.add(...sketchLights());
  [compiled, asked] = [[], []];
  vi.useFakeTimers();
});
afterEach(() => vi.useRealTimers());

describe('the shader programs of the sketch', () => {
  it('are made for the canvas and for stills, which go to memory, in the light of each', () => {
    programs();
    expect(compiled.map(({ objects, lit, onCanvas }) => [lit ?? objects, onCanvas])).toEqual([
      [scenes.sketch, true],
      [scenes.sketch, true],
      [scenes.stills, false],
      [scenes.stills, false],
    ]);
  });

  it('are those of solid and clear parts with and without a picture, of both sides of the floor, of what veils them, and of lines', () => {
    programs();
    const { children } = compiled[1]!.objects;
    const kinds = children.map((child) => {
      const { material, geometry } = child as THREE.Mesh<THREE.BufferGeometry, THREE.MeshPhongMaterial>;
      // What parts have decides upon the program, too.
      expect(geometry.hasAttribute('position')).toBe(true);
      expect(geometry.hasAttribute('normal')).toBe(child instanceof THREE.Mesh);
      return [material.type, material.transparent, !!material.map, material.side].join(' ');
    });
    expect(new Set(kinds)).toEqual(
      new Set([
        `MeshPhongMaterial false false ${THREE.DoubleSide}`,
        `MeshPhongMaterial false true ${THREE.DoubleSide}`,
        `MeshPhongMaterial true false ${THREE.DoubleSide}`,
        `MeshPhongMaterial true true ${THREE.DoubleSide}`,
        `MeshLambertMaterial false false ${THREE.DoubleSide}`,
        `MeshLambertMaterial false false ${THREE.FrontSide}`,
        `ShaderMaterial true false ${THREE.DoubleSide}`,
        `LineBasicMaterial false false ${THREE.FrontSide}`,
        `LineDashedMaterial true false ${THREE.FrontSide}`,
      ]),
    );
  });

  it('are ready once all are made and have been asked for what the first drawing would ask', async () => {
    const made = programs();
    for (const { done } of compiled.slice(1)) done();
    await vi.advanceTimersByTimeAsync(100);
    expect([made.ready, asked]).toEqual([false, []]);
    compiled[0]!.done();
    await made.whenReady;
    expect([made.ready, asked]).toEqual([true, ['uniforms', 'attributes', 'uniforms', 'attributes']]);
  });

  it('are not waited for without an end', async () => {
    const made = programs();
    await vi.advanceTimersByTimeAsync(3999);
    expect(made.ready).toBe(false);
    await vi.advanceTimersByTimeAsync(1);
    expect(made.ready).toBe(true);
  });
});
