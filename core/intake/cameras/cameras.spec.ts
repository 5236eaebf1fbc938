import { NodeIO } from '@gltf-transform/core';
import { describe, expect, it } from 'vitest';
import { newCamera, newDocument, newShot, UserProblem, type Move, type Vector3 } from '../../document';
import { evaluateProperties, newMove } from '../../motion';
import { cameraOfSamples, readCameraCsv, sampleCamera, writeCameraCsv, writeCameraGlb } from '../index';

const document = newDocument('Cameras');
document.cameras = {
  eye: newCamera({ id: 'eye', position: [300, 200, 900], target: [10, 60, 0], roll: 0.3, focalLength: 40, fStop: 4 }),
};
const shot = newShot({ id: 's', length: 40, camera: 'eye' });
for (const move of [
  { ...newMove('orbit', 'cameras/eye', 1, 40), angle: 4 },
  { ...newMove('lensPush', 'cameras/eye', 5, 30), from: 40, to: 120 },
] as Move[])
  shot.moves[move.id] = move;
document.shots = { s: shot };
const close = (v: Vector3, digits = 3) => v.map((each) => expect.closeTo(each, digits));

describe('a camera as a table', () => {
  it('goes out and comes back the same on every frame, with its lens and its lean', () => {
    const samples = readCameraCsv(writeCameraCsv(sampleCamera(document, shot, 'eye')));
    expect(samples).toHaveLength(40);
    const { camera, tracks } = cameraOfSamples(samples, 'Back');
    const back = newShot({ id: 's', length: 40, camera: camera.id, tracks });
    const other = { ...document, cameras: { [camera.id]: camera }, shots: { s: back } };
    for (let frame = 1; frame <= 40; frame++) {
      const was = evaluateProperties(document, shot, frame).cameras['eye']!;
      const is = evaluateProperties(other, back, frame).cameras[camera.id]!;
      expect(is.position).toEqual(close(was.position));
      expect(is.roll).toBeCloseTo(was.roll, 5);
      expect(is.focalLength).toBeCloseTo(was.focalLength, 5);
      expect(is.fStop).toBe(4);
      const way = (c: typeof was) => c.target.map((v, k) => v - c.position[k]!) as Vector3;
      const unit = (v: Vector3) => v.map((each) => each / Math.hypot(...v)) as Vector3;
      expect(unit(way(is))).toEqual(close(unit(way(was)), 6));
    }
    // The f-stop does not move: it has no keys.
    expect(Object.keys(tracks).map((path) => path.split('/')[2])).not.toContain('fStop');
  });

  it('is read with columns in any order, other marks between them and other names', () => {
    const text =
      '\uFEFF"Frame";"TX";"TY";"TZ";QW;QX;QY;QZ;Focal Length\n# a remark\n10;1;2;3;2;0;0;0;85\n5;0;0;0;1;0;0;0;35\n5;9;0;0;1;0;0;0;35\n';
    expect(readCameraCsv(text)).toEqual([
      expect.objectContaining({ frame: 5, position: [9, 0, 0], focalLength: 35, sensorWidth: 36 }),
      expect.objectContaining({ frame: 10, position: [1, 2, 3], turn: [0, 0, 0, 1], focalLength: 85 }),
    ]);
  });

  it.each([
    ['nothing at all', '', /no columns frame, x/],
    ['no turn', 'frame,x,y,z\n1,0,0,0', /no columns qx, qy, qz, qw/],
    ['no frames', 'frame,x,y,z,qx,qy,qz,qw\n', /holds no frame/],
    ['words for numbers', 'frame,x,y,z,qx,qy,qz,qw\n1,0,zero,0,0,0,0,1', /Line 2 holds no number for y: "zero"/],
    ['a line that ends early', 'frame,x,y,z,qx,qy,qz,qw\n1,0,0', /Line 2 holds no number for z/],
    ['a turn of nothing', 'frame,x,y,z,qx,qy,qz,qw\n1,0,0,0,0,0,0,0', /Line 2 has no turn/],
  ])('says of %s what is wrong', (_what, text, says) => {
    expect(() => readCameraCsv(text)).toThrow(UserProblem);
    expect(() => readCameraCsv(text)).toThrow(says);
  });

  it('brings numbers that nothing can have within what it can', () => {
    const [sample] = readCameraCsv('frame,x,y,z,qx,qy,qz,qw,focal,focus,f_stop\n1,1e30,0,0,0,0,0,1,0.1,-5,900');
    expect(sample).toMatchObject({ position: [1e7, 0, 0], focalLength: 4, focusDistance: 1, fStop: 128 });
  });
});

describe('a camera as glTF', () => {
  it('is a node that moves in metres, read by a reader of the format', async () => {
    const samples = sampleCamera(document, shot, 'eye');
    const read = await new NodeIO().readBinary(await writeCameraGlb(samples, 'Eye', 24, 16 / 9));
    const [node] = read.getRoot().listNodes();
    expect(node!.getTranslation()).toEqual(close([0.3, 0.2, 0.9], 6));
    expect(node!.getCamera()!.getYFov()).toBeCloseTo(2 * Math.atan((18 / 40) * (9 / 16)), 6);
    const [animation] = read.getRoot().listAnimations();
    const channel = animation!.listChannels().find((each) => each.getTargetPath() === 'translation')!;
    const times = channel.getSampler()!.getInput()!.getArray()!;
    expect([times.length, times[39]]).toEqual([40, expect.closeTo(39 / 24, 5)]);
    const last = evaluateProperties(document, shot, 40).cameras['eye']!.position;
    expect([...channel.getSampler()!.getOutput()!.getArray()!].slice(-3)).toEqual(
      close(last.map((v) => v / 1000) as Vector3, 5),
    );
    expect((node!.getCamera()!.getExtras()['focalLength'] as number[])[39]).toBeCloseTo(120, 5);
  });
});
