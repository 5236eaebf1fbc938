import * as THREE from 'three';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { SketchPrograms } from './sketch-programs';

let compiled: { objects: THREE.Object3D; to: THREE.WebGLRenderTarget | null; done: () => void }[];
let asked: string[];
const [surface, print, veil] = [1, 2, 3].map(() => new THREE.MeshBasicMaterial());

function programs(): SketchPrograms {
  let target: THREE.WebGLRenderTarget | null = null;
  const program = { getUniforms: () => asked.push('uniforms'), getAttributes: () => asked.push('attributes') };
  const renderer = {
    info: { programs: [program, program] },
    setRenderTarget: (to: THREE.WebGLRenderTarget | null) => (target = to),
    compileAsync: (objects: THREE.Object3D) =>
      new Promise<void>((done) => compiled.push({ objects, to: target, done })),
  };
  const made = new SketchPrograms(renderer as never, { light: [surface!], memory: [print!], canvas: [veil!] });
  expect(target).toBeNull();
  return made;
}

beforeEach(() => {
  [compiled, asked] = [[], []];
  vi.useFakeTimers();
});
afterEach(() => vi.useRealTimers());

describe('the shader programs of the sketch', () => {
  it('are made for what each is drawn to: linear light, pictures in memory, the canvas', () => {
    programs();
    const drawn = compiled.map(({ objects, to }) => [
      to?.texture.type ?? null,
      objects.children.map((child) => (child as THREE.Mesh<THREE.BufferGeometry, THREE.Material>).material.type),
    ]);
    expect(drawn).toEqual([
      [THREE.HalfFloatType, ['MeshBasicMaterial']],
      [THREE.UnsignedByteType, ['MeshBasicMaterial']],
      [null, ['MeshBasicMaterial']],
      [null, ['LineBasicMaterial', 'LineDashedMaterial']],
    ]);
    expect(compiled.slice(0, 3).map(({ objects }) => (objects.children[0] as THREE.Mesh).material)).toEqual([
      surface,
      print,
      veil,
    ]);
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
