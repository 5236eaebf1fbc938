import { newLight, type Finish } from '../../document';
import { composeTransform } from '../../geometry';
import { quad, sphere, type TestScene } from './renderState';

/** Left half a luminous card without any noise, right half a ball under a small lamp. */
export const cardAndBall: TestScene = {
  parts: [
    {
      mesh: quad(40),
      finish: { baseColor: [0, 0, 0], specularWeight: 0, emissionUnit: 'nit', emissionPower: 400 } as Partial<Finish>,
      transform: composeTransform([-20, 0, 0], [0, 0, 0, 1], [1, 1, 1]),
    },
    {
      mesh: sphere(14),
      finish: { baseColor: [0.6, 0.6, 0.6], baseMetalness: 1, specularRoughness: 0.5 },
      transform: composeTransform([20, 0, 0], [0, 0, 0, 1], [1, 1, 1]),
    },
  ],
  lights: [newLight('panel', { position: [40, 60, 60], width: 60, height: 60, power: 6 })],
  camera: { focalLength: 45 },
};
