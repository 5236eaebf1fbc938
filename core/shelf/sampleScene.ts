import { defaultLook, newCamera, newDocument, newFinish, newLight, type Finish, type Look } from '../document';
import { IDENTITY, sweepMesh, type TriangleMesh } from '../geometry';
import { SEEN_BY_ALL, type FrameState } from '../motion';
import { sampleBody } from './sampleBody';

/** Meshes of the sample scene by their numbers: what wears the finish, and what it stands on. */
export const sampleMeshes = (): readonly TriangleMesh[] => [sampleBody(), sweepMesh(800, 140)];

/** How finishes are shown: on a bright ground, or on a dark one with light from behind. */
export type SampleGround = 'bright' | 'dark';

/** Of pictures of the sample scene. */
export const SAMPLE_ASPECT = 1.2;

export const sampleLook = (): Look => ({ ...defaultLook(), exposure: 0.35, denoise: 1 });

/** The sample body in a finish, in a small studio of two panels. Its meshes are numbers of the asset `sample`. */
export function sampleScene(finish: Partial<Finish>, ground: SampleGround = 'bright'): FrameState {
  const dark = ground === 'dark';
  const floor = newFinish({
    id: 'floor',
    name: 'Floor',
    baseColor: dark ? [0.02, 0.02, 0.022] : [0.42, 0.42, 0.43],
    specularRoughness: 0.55,
  });
  const part = (node: string, index: number, worn: string): FrameState['parts'][number] => ({
    node,
    instance: node,
    name: node,
    mesh: { asset: 'sample', index },
    transform: IDENTITY,
    finish: worn,
    glow: 1,
    seen: SEEN_BY_ALL,
  });
  const target: [number, number, number] = [2, 20, 0];
  const key = { position: [-130, 120, 90] as [number, number, number], target, width: 80, height: 80 };
  const back = { position: [90, 90, -110] as [number, number, number], target, width: 60, height: 90, kelvin: 5600 };
  const { set } = newDocument('Sample');
  return {
    parts: [part('body', 0, 'own'), part('floor', 1, 'floor')],
    finishes: { own: newFinish({ ...finish, id: 'own' }), floor },
    lights: [
      newLight('panel', { ...key, power: dark ? 12 : 44, visibleToCamera: false }),
      newLight('panel', { ...back, power: dark ? 60 : 36, visibleToCamera: false }),
    ],
    camera: newCamera({
      position: [-100, 92, 190],
      target: [-0.5, 21, 0],
      focalLength: 104,
      fStop: 0,
      shutterAngle: 0,
    }),
    set: {
      ...set,
      floor: { ...set.floor, kind: 'none' },
      surroundings: {
        ...set.surroundings,
        kind: 'gradient',
        gradient: { top: [1, 1, 1.02], horizon: [0.32, 0.32, 0.33], bottom: [0.1, 0.1, 0.1] },
        brightness: dark ? 0.1 : 0.55,
      },
    },
  };
}
