import { focusDistanceTo, followedPoint, removeNodes } from './index';
import { checkDocument, newCamera, newDocument, newNode, newShot, type ProjectDocument } from '../document';
import { newMove, evaluate, exposeFrame } from '../motion';
import { describe, expect, it } from 'vitest';
import { composeTransform, quaternionAbout } from '../geometry';
import { defaultRenderSettings, frameIdentity } from '../trace';

/** A camera at z = 500 that looks along -z, sharp on a point of a part 20 mm before its origin, which glides 100 mm away. */
function scene(): ProjectDocument {
  const document = newDocument('Focus');
  document.nodes = { part: newNode({ id: 'part', kind: 'part', mesh: { asset: 'a'.repeat(64), index: 0 } }) };
  const eye = newCamera({ id: 'eye', position: [0, 0, 500], target: [0, 0, 0], fStop: 2, focusOn: { node: 'part', point: [0, 0, 20] } }); // prettier-ignore
  document.cameras = { eye };
  const glide = newMove('travel', 'nodes/part', 1, 10) as Extract<ReturnType<typeof newMove>, { kind: 'travel' }>;
  document.shots = {
    shot: newShot({ id: 'shot', camera: 'eye', moves: { g: { ...glide, id: 'g', to: [0, 0, -100], pace: 'linear' } } }),
  };
  return document;
}

describe('a focus that follows', () => {
  it('is sharp at the point wherever the part and the camera go', () => {
    const document = scene();
    const at = (frame: number) => evaluate(document, document.shots['shot']!, frame).camera!.focusDistance;
    expect([at(1), at(11)]).toEqual([480, 580]);
    document.cameras['eye']!.position = [0, 0, 900];
    expect(at(11)).toBe(980);
    // Beside the axis, what counts is the distance along it.
    document.nodes['part']!.position = [300, 0, 0];
    expect(at(11)).toBe(980);
  });

  it('moves while the shutter is open', () => {
    const document = scene();
    const { shutter } = exposeFrame(document, document.shots['shot']!, 5);
    const distances = [shutter![0]!.from, shutter!.at(-1)!.to].map((state) => state.camera!.focusDistance);
    expect(distances[1]! - distances[0]!).toBeCloseTo(100 / 9 / 2, 9);
  });

  it('makes the same frame as the distance itself', () => {
    const [followed, typed] = [scene(), scene()];
    Object.assign(typed.cameras['eye']!, { focusOn: null, focusDistance: 480 });
    const name = (document: ProjectDocument) => frameIdentity(evaluate(document, null, 1), defaultRenderSettings(), {});
    expect(name(followed)).toBe(name(typed));
  });

  it('stays where it was at rest when what it follows is deleted', () => {
    const document = scene();
    document.shots['shot']!.moves = {};
    removeNodes(document, ['part']);
    expect(document.cameras['eye']).toMatchObject({ focusOn: null, focusDistance: 480 });
    expect(() => checkDocument(document)).not.toThrow();
  });

  it('keeps its own distance where the node is not there, and is never nearer than a millimetre', () => {
    const document = scene();
    document.cameras['eye']!.focusOn!.node = 'gone';
    expect(evaluate(document, null, 1).camera!.focusDistance).toBe(600);
    expect(focusDistanceTo({ position: [0, 0, 0], target: [0, 0, -1] }, [0, 0, 50])).toBe(1);
  });

  it('is put on a point of the world in the space of the node that carries it', () => {
    const world = composeTransform([10, 0, 0], quaternionAbout([0, 0, 1], Math.PI / 2), [2, 2, 2]);
    expect(followedPoint('n', world, [10, 4, 6])).toEqual({
      node: 'n',
      point: [2, 0, 3].map((v) => expect.closeTo(v, 9)),
    });
    expect(followedPoint('n', composeTransform([0, 0, 0], [0, 0, 0, 1], [0, 1, 1]), [1, 1, 1])).toBeNull();
  });
});
