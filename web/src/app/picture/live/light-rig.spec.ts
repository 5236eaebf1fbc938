import * as THREE from 'three';
import { describe, expect, it } from 'vitest';
import { newLight, type Light } from '@zippy/core/document';
import { evaluate, type FrameState } from '@zippy/core/motion';
import { sampleDocument } from '../../../testing/studioBed';
import { LightRig } from './light-rig';

function frame(lights: Light[], set: (set: FrameState['set']) => void = () => undefined): FrameState {
  const document = sampleDocument();
  const state = evaluate(document, document.shots['one']!, 1);
  const own = structuredClone(state.set);
  set(own);
  return { ...state, lights, set: own };
}
const center = new THREE.Vector3();

describe('the light of a set', () => {
  it('has the radiance of its lamps, in which 683 nits are 1', () => {
    const rig = new LightRig();
    rig.show(frame([newLight('panel', { position: [0, 0, 500], unit: 'nit', power: 683, kelvin: 6500 })]), center);
    const { lampCount, lampLight, lampX, lampY } = rig.uniforms;
    expect(lampCount.value).toBe(1);
    const { x, y, z } = lampLight.value[0]!;
    expect(0.2126 * x + 0.7152 * y + 0.0722 * z).toBeCloseTo(1, 3);
    // Its front, x × y, leads to what it is aimed at.
    const [a, b] = [lampX, lampY].map(({ value }) => new THREE.Vector3().copy(value[0]! as unknown as THREE.Vector3));
    expect(a!.cross(b!).normalize().z).toBeCloseTo(-1, 5);
  });

  it('leaves out lamps that are off, and gives shadows to the two brightest at the product', () => {
    const at = (id: string, distance: number, over: Partial<Light> = {}) =>
      newLight('panel', { id, position: [0, distance, 0], ...over });
    const lamps = new LightRig().show(
      frame([at('far', 3000), at('near', 300), at('off', 200, { on: false }), at('middle', 900)]),
      center,
    );
    expect(lamps.map(({ light, map }) => [light.id, map])).toEqual([
      ['near', 0],
      ['middle', 1],
      ['far', -1],
    ]);
  });

  it('turns and tilts surroundings as the tracer does', () => {
    const rig = new LightRig();
    rig.show(
      frame([], ({ surroundings }) => Object.assign(surroundings, { turn: Math.PI / 2, tilt: 0 })),
      center,
    );
    // Turned by a quarter, what the picture has ahead stands at the right.
    const met = new THREE.Vector3(1, 0, 0).applyMatrix3(rig.uniforms.toSurroundings.value);
    expect(met.toArray().map((v) => Math.round(v * 1e6) / 1e6 + 0)).toEqual([0, 0, 1]);
  });

  it('adds the sun of a sky', () => {
    const rig = new LightRig();
    const sky = frame([], ({ surroundings }) => Object.assign(surroundings, { kind: 'sky' }));
    expect(rig.show(sky, center).map(({ light }) => light.kind)).toEqual(['sun']);
  });
});
