import { Document } from '@gltf-transform/core';
import { gltf } from '../glb';
import { MILLIMETRES } from '../gltfExtensions';
import type { CameraSample } from './cameraSamples';

/**
 * A camera as a GLB in metres: its place and turn as linear motion over the seconds of the shot, the lens of the first frame. The format
 * knows no lens that moves, so focal length, sharpness and f-stop of every frame stand in the camera's extras.
 * @param rate frames a second
 * @param aspect width of the picture by its height
 */
export async function writeCameraGlb(
  samples: readonly CameraSample[],
  name: string,
  rate: number,
  aspect: number,
): Promise<Uint8Array<ArrayBuffer>> {
  const document = new Document();
  const buffer = document.createBuffer();
  const first = samples[0]!;
  const camera = document
    .createCamera(name)
    .setType('perspective')
    .setAspectRatio(aspect)
    .setYFov(2 * Math.atan(first.sensorWidth / 2 / first.focalLength / aspect))
    .setZNear(0.001)
    .setExtras({
      sensorWidth: first.sensorWidth,
      focalLength: samples.map(({ focalLength }) => focalLength),
      focusDistance: samples.map(({ focusDistance }) => focusDistance),
      fStop: samples.map(({ fStop }) => fStop),
    });
  const metres = (position: readonly number[]) => position.map((v) => v * METRE) as [number, number, number];
  const node = document
    .createNode(name)
    .setCamera(camera)
    .setTranslation(metres(first.position))
    .setRotation([...first.turn]);
  document.createScene(name).addChild(node);
  const accessor = (type: 'SCALAR' | 'VEC3' | 'VEC4', numbers: number[]) =>
    document.createAccessor().setType(type).setArray(new Float32Array(numbers)).setBuffer(buffer);
  const times = accessor('SCALAR', samples.map(({ frame }) => (frame - first.frame) / rate)); // prettier-ignore
  const animation = document.createAnimation(name);
  const move = (
    path: 'translation' | 'rotation',
    type: 'VEC3' | 'VEC4',
    of: (sample: CameraSample) => readonly number[],
  ) => {
    const sampler = document.createAnimationSampler().setInput(times).setOutput(accessor(type, samples.flatMap((sample) => [...of(sample)]))).setInterpolation('LINEAR'); // prettier-ignore
    animation
      .addSampler(sampler)
      .addChannel(document.createAnimationChannel().setTargetNode(node).setTargetPath(path).setSampler(sampler));
  };
  move('translation', 'VEC3', ({ position }) => metres(position));
  move('rotation', 'VEC4', ({ turn }) => turn);
  return new Uint8Array(await gltf().writeBinary(document));
}

/** Metres in a millimetre. */
const METRE = 1 / MILLIMETRES;
