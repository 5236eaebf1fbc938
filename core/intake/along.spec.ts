import { evaluateProperties } from '../motion';
import { placedAimed, worldTransforms } from '../scene';
import { Document } from '@gltf-transform/core';
import { KHRLightsPunctual } from '@gltf-transform/extensions';
import { beforeAll, describe, expect, it } from 'vitest';
import { newDocument, newShot, type ProjectDocument } from '../document';
import { pieceMesh, transformPoint } from '../geometry';
import { gltf, writePrimitive } from './glb';
import {
  alongTracks,
  mendModel,
  modelTree,
  normalizeModel,
  placeAlong,
  placeModel,
  readGlb,
  summarize,
  type Model,
  type ModelTree,
} from './index';

const close = (v: readonly number[]) => v.map((each) => expect.closeTo(each, 3));
let model: Model;

/** A box with a lid that opens by 90 degrees in two seconds, a spot over it and a camera on an arm; metres, Y up. */
async function moving(): Promise<Uint8Array<ArrayBuffer>> {
  const document = new Document();
  const buffer = document.createBuffer();
  const numbers = (values: number[], type: 'SCALAR' | 'VEC3' | 'VEC4') =>
    document.createAccessor().setType(type).setArray(new Float32Array(values)).setBuffer(buffer);
  const mesh = (name: string) =>
    document
      .createMesh(name)
      .addPrimitive(writePrimitive(document, buffer, pieceMesh({ kind: 'box', width: 0.1, height: 0.02, depth: 0.1, bevel: 0 }))); // prettier-ignore
  const lid = document.createNode('Lid').setMesh(mesh('Lid')).setTranslation([0, 0.05, 0]);
  const box = document.createNode('Box').setMesh(mesh('Box'));
  const lens = document.createCamera('Lens').setType('perspective').setYFov(0.5).setAspectRatio(2);
  const arm = document.createNode('Arm').setTranslation([0, 0, 1]).setRotation([0, Math.SQRT1_2, 0, Math.SQRT1_2]);
  arm.addChild(document.createNode('Eye').setCamera(lens).setTranslation([0, 0.2, 0]));
  const light = document.createExtension(KHRLightsPunctual).createLight('Top').setType('spot').setIntensity(50).setOuterConeAngle(0.6).setInnerConeAngle(0.3); // prettier-ignore
  const top = document.createNode('Top').setTranslation([0, 1, 0]).setRotation([-Math.SQRT1_2, 0, 0, Math.SQRT1_2]).setExtension('KHR_lights_punctual', light); // prettier-ignore
  const turn = document
    .createAnimationSampler()
    .setInput(numbers([0, 1, 2], 'SCALAR'))
    .setOutput(numbers([0, 0, 0, 1, Math.sin(Math.PI / 8), 0, 0, Math.cos(Math.PI / 8), Math.SQRT1_2, 0, 0, Math.SQRT1_2], 'VEC4')); // prettier-ignore
  const channel = document.createAnimationChannel().setTargetNode(lid).setTargetPath('rotation').setSampler(turn);
  document.createAnimation('Open').addSampler(turn).addChannel(channel);
  const scene = document.createScene();
  for (const node of [box, lid, arm, top]) scene.addChild(node);
  return (await gltf().writeBinary(document)) as Uint8Array<ArrayBuffer>;
}

function place(tree: ModelTree): { document: ProjectDocument; named: (name: string) => string } {
  const document = newDocument('Along');
  const placed = placeModel(tree, 'a'.repeat(64), 'Box', 0, [], { centered: false, onFloor: false });
  for (const node of placed.nodes) document.nodes[node.id] = node;
  const { cameras, lights } = placeAlong(tree.along!, placed.ids);
  document.cameras = Object.fromEntries(cameras.map((each) => [each.id, each]));
  document.lights = Object.fromEntries(lights.map((each) => [each.id, each]));
  const shot = newShot({ id: 's', tracks: alongTracks(tree.along!.motion, placed.ids, 24) });
  document.shots = { s: shot };
  return { document, named: (name) => Object.values(document.nodes).find((node) => node.name === name)!.id };
}

beforeAll(async () => {
  model = await readGlb(await moving(), 'box.glb');
});

describe('what comes along with a model', () => {
  it('is counted for the check', () => {
    expect(summarize(model).along).toEqual({ cameras: 1, lights: 1, moving: 1, seconds: 2 });
  });

  it('stands where the file has it, in millimetres, carried by its node', () => {
    const { document } = place(modelTree(normalizeModel(model, { unit: 'm', scale: 1, up: 'y', front: 0 })));
    const { cameras, lights } = placedAimed(evaluateProperties(document, null, 1));
    const [camera, light] = [Object.values(cameras)[0]!, Object.values(lights)[0]!];
    expect(camera.position).toEqual(close([0, 200, 1000]));
    // The arm is turned by 90 degrees about Y: what looked along -Z looks along -X.
    expect(camera.target).toEqual(close([-1000, 200, 1000]));
    expect((2 * Math.atan(camera.sensorWidth / 2 / camera.focalLength / 2) * 180) / Math.PI).toBeCloseTo((0.5 * 180) / Math.PI, 3); // prettier-ignore
    expect(light).toMatchObject({ kind: 'spot', power: 50, unit: 'candela', coneAngle: expect.closeTo(1.2, 5), penumbra: expect.closeTo(0.5, 5) }); // prettier-ignore
    expect(light.position).toEqual(close([0, 1000, 0]));
    expect(light.target).toEqual(close([0, 0, 0]));
    expect(document.nodes[camera.parent!]!.name).toBe('Eye');
  });

  it('turns with the model where another axis is taken for up', () => {
    const { document } = place(modelTree(normalizeModel(model, { unit: 'm', scale: 1, up: 'z', front: 0 })));
    const { lights } = placedAimed(evaluateProperties(document, null, 1));
    expect(Object.values(lights)[0]!.position).toEqual(close([0, 0, -1000]));
    expect(Object.values(lights)[0]!.target).toEqual(close([0, 0, 0]));
  });

  it('moves as in the file, by keys at the frame rate of the film', () => {
    const { document, named } = place(modelTree(normalizeModel(model, { unit: 'm', scale: 1, up: 'y', front: 0 })));
    const tracks = document.shots['s']!.tracks;
    expect(Object.keys(tracks)).toEqual([`nodes/${named('Lid')}/turn`]);
    expect(Object.values(tracks)[0]!.map(({ frame }) => frame)).toEqual([1, 25, 49]);
    const at = (frame: number) => transformPoint(worldTransforms(evaluateProperties(document, document.shots['s']!, frame)).get(named('Lid'))!, [0, 0, 50]); // prettier-ignore
    expect(at(1)).toEqual(close([0, 50, 50]));
    expect(at(25)).toEqual(close([0, 50 - 50 * Math.SQRT1_2, 50 * Math.SQRT1_2]));
    expect(at(13)).toEqual(close([0, 50 - 50 * Math.sin(Math.PI / 8), 50 * Math.cos(Math.PI / 8)]));
    expect(at(49)).toEqual(close([0, 0, 0]));
  });

  it('stays where it was when parts are merged, without the motion of what is one now', () => {
    const { model: merged } = mendModel(model, { merge: 'all', crease: 0.5, leave: {} });
    expect(merged.along!.motion).toEqual([]);
    expect(merged.along!.cameras[0]).toMatchObject({ node: -1, position: close([0, 0.2, 1]) });
    expect(normalizeModel(merged, { unit: 'm', scale: 1, up: 'y', front: 0 }).along!.lights[0]!.position).toEqual(close([0, 1000, 0])); // prettier-ignore
  });
});
