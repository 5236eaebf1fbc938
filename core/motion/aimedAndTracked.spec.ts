import { describe, expect, it } from 'vitest';
import { newDocument, newLight, newNode, newShot, newTrack, writeProperty, type Light, type Value } from '../document';
import { lightGroups } from '../trace/lights';
import { carried, gripPlace, removeNodes } from '../scene';
import { evaluate, evaluateProperties, motionPath } from './index';

const newKey = (frame: number, value: Value) => ({ frame, value, pace: 'linear' as const });
const grip = { collection: 'lights', id: 'lamp' } as const;
const close = (v: readonly number[]) => v.map((each) => expect.closeTo(each, 6));

function studio(over: Partial<Light>) {
  const document = structuredClone(newDocument('Tracks'));
  document.lights = { lamp: newLight('panel', { id: 'lamp', name: 'Lamp', target: [0, 100, 0], ...over }) };
  const shot = newShot({ id: 's', length: 48 });
  document.shots = { s: shot };
  return { document, shot };
}

const places = ({ document, shot }: ReturnType<typeof studio>, frame: number) =>
  evaluate(document, shot, frame).lights.map(({ position }) => position);

describe('a lamp on a track', () => {
  it('runs round what it is aimed at, so many turns a second, from the front to the right', () => {
    const made = studio({ track: newTrack({ radius: 200, height: 50, speed: 0.5 }) });
    expect(places(made, 1)[0]).toEqual(close([0, 150, 200]));
    expect(places(made, 13)[0]).toEqual(close([200, 150, 0]));
    expect(places(made, 25)[0]).toEqual(close([0, 150, -200]));
    // Between frames as well, as while the shutter is open.
    expect(places(made, 7)[0]).toEqual(close([200 * Math.SQRT1_2, 150, 200 * Math.SQRT1_2]));
  });

  it('or in each shot, which then closes without showing a frame twice', () => {
    const made = studio({ track: newTrack({ radius: 10, height: 0, speed: -2, pace: 'shot' }) });
    const first = places(made, 1)[0]!;
    expect(places(made, 49)[0]).toEqual(close(first));
    expect(places(made, 7)[0]).toEqual(close([-10, 100, 0]));
    expect(places(made, 48)[0]).not.toEqual(close(first));
  });

  it('goes to and fro on an arc or a straight rail, to just their ends', () => {
    const arc = studio({
      track: newTrack({ kind: 'arc', radius: 100, height: 0, reach: Math.PI, speed: 1, pace: 'shot' }),
    });
    expect(places(arc, 1)[0]).toEqual(close([0, 100, 100]));
    expect(places(arc, 13)[0]).toEqual(close([100, 100, 0]));
    expect(places(arc, 37)[0]).toEqual(close([-100, 100, 0]));
    const rail = studio({ track: newTrack({ kind: 'rail', radius: 80, height: 20, length: 60, speed: 1, pace: 'shot', eased: false }) }); // prettier-ignore
    expect(places(rail, 13)[0]).toEqual(close([30, 120, 80]));
    expect(places(rail, 19)[0]).toEqual(close([15, 120, 80]));
    expect(places(rail, 37)[0]).toEqual(close([-30, 120, 80]));
  });

  it('leans over as a whole, and its numbers take keys', () => {
    const made = studio({ track: newTrack({ radius: 100, height: 0, tilt: Math.PI / 2, speed: 0 }) });
    expect(places(made, 1)[0]).toEqual(close([0, 0, 0]));
    made.shot.tracks['lights/lamp/track/radius'] = [newKey(1, 100), newKey(11, 200)];
    expect(places(made, 6)[0]).toEqual(close([0, -50, 0]));
  });

  it('is one of several that are spread evenly, in one light layer, each of full power', () => {
    const made = studio({ power: 500, track: newTrack({ radius: 100, height: 0, count: 4, speed: 0 }) });
    const { lights, sources } = evaluate(made.document, made.shot, 1);
    expect(lights.map(({ position: [x, , z] }) => [Math.round(x) + 0, Math.round(z) + 0])).toEqual([[0, 100], [100, 0], [0, -100], [-100, 0]]); // prettier-ignore
    expect(lights.map(({ power }) => power)).toEqual([500, 500, 500, 500]);
    const groups = lightGroups(sources!.lamps, []);
    expect(groups.names).toEqual(['Surroundings', 'Lamp']);
    expect(lights.map((light) => groups.of(light))).toEqual([1, 1, 1, 1]);
  });

  it('goes along with what it stays aimed at, and its way is drawn with that', () => {
    const made = studio({
      aimOn: { node: 'cart', point: [0, 0, 0] },
      track: newTrack({ radius: 10, height: 0, speed: 0 }),
    });
    made.document.nodes['cart'] = newNode({ id: 'cart', position: [0, 5, 0] });
    made.shot.tracks['nodes/cart/position'] = [newKey(1, [0, 5, 0]), newKey(11, [100, 5, 0])];
    expect(evaluate(made.document, made.shot, 6).lights[0]).toMatchObject({ target: close([50, 5, 0]), position: close([50, 5, 10]) }); // prettier-ignore
    expect(motionPath(made.document, made.shot, grip)!.places[5]).toEqual(close([50, 5, 10]));
    removeNodes(made.document, ['cart']);
    expect(made.document.lights['lamp']).toMatchObject({ aimOn: null, target: [0, 5, 0] });
  });

  it.each(['ring', 'arc', 'rail'] as const)(
    'carried by hand its %s becomes wider and higher, and it is where the hand is',
    (kind) => {
      const { document, shot } = studio({ track: newTrack({ kind, radius: 100, height: 30, tilt: 0.4, from: 0.7 }) });
      const state = evaluateProperties(document, shot, 10);
      const before = gripPlace(state, grip)!;
      const by = kind === 'rail' ? ([0, 12, 0] as const) : ([5, 12, -20] as const);
      for (const [path, value] of Object.entries(carried(state, grip, [...by])))
        writeProperty(document, path, value as Value);
      const after = gripPlace(evaluateProperties(document, shot, 10), grip)!;
      const moved = after.map((v, k) => v - before[k]!);
      if (kind === 'rail') expect(moved[1]).toBeGreaterThan(8);
      else expect(moved).toEqual(close(by));
    },
  );
});

describe('a lamp that hangs on something', () => {
  it('keeps a light layer of its own', () => {
    const { document, shot } = studio({ parent: 'cart' });
    document.nodes['cart'] = newNode({ id: 'cart' });
    document.lights['other'] = newLight('bulb', { id: 'other', name: 'Other', order: 1 });
    expect(evaluate(document, shot, 1).sources!.lamps.map(({ name }) => name)).toEqual(['Lamp', 'Other']);
  });
});

describe('a camera that stays aimed at a part', () => {
  it('looks at it wherever both go, and goes on looking there when it is gone', () => {
    const { document, shot } = studio({});
    document.nodes['cart'] = newNode({ id: 'cart', position: [0, 5, 0] });
    const [id] = Object.keys(document.cameras) as [string];
    document.cameras[id]!.aimOn = { node: 'cart', point: [0, 1, 0] };
    shot.camera = id;
    shot.tracks['nodes/cart/position'] = [newKey(1, [0, 5, 0]), newKey(11, [100, 5, 0])];
    shot.tracks[`cameras/${id}/position`] = [newKey(1, [0, 0, 500]), newKey(11, [0, 200, 500])];
    expect(evaluate(document, shot, 6).camera).toMatchObject({ target: close([50, 6, 0]), position: close([0, 100, 500]) }); // prettier-ignore
    removeNodes(document, ['cart']);
    expect(document.cameras[id]).toMatchObject({ aimOn: null, target: [0, 6, 0] });
  });
});
