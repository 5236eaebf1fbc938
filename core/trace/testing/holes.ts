import type { Finish } from '../../document';
import { newLight } from '../../document';
import { composeTransform } from '../../geometry';
import { quad, type TestScene } from './renderState';

/** A wall under a large lamp behind a plate with holes: three samples of a hundred are bright, so most pixels begin dark. */
export const holes: TestScene = {
  parts: [
    { mesh: quad(400), finish: { baseColor: [0.8, 0.8, 0.8], specularWeight: 0 } },
    ...Array.from({ length: 9 }, (_, k) => ({
      mesh: quad(600),
      finish: { baseColor: [0, 0, 0], specularWeight: 0 } as Partial<Finish>,
      transform: composeTransform([(k - 4) * 42, 0, 80], [0, 0, 0, 1], [0.065, 1, 1]),
    })),
  ],
  lights: [newLight('panel', { position: [0, 0, 160], target: [0, 0, 0], width: 320, height: 320, power: 300 })],
  camera: { position: [0, 0, 70], focalLength: 60 },
};
