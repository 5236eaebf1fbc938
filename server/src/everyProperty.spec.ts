import { once } from 'node:events';
import { mkdtempSync, rmSync } from 'node:fs';
import type { Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, expect, it } from 'vitest';
import {
  newClip,
  newSound,
  newTitle,
  MAP_SLOTS,
  nearest,
  newAsset,
  newCopies,
  newFinish,
  newLight,
  madeMap,
  newMap,
  newPictureMap,
  newNode,
  propertyAt,
  type MoveKind,
  type ProjectDocument,
  type Property,
  type Table,
  type Value,
} from '@zippy/core/document';
import { newSetPiece, SET_PIECES } from '@zippy/core/geometry';
import { MOVE, MOVE_KINDS, newMove } from '@zippy/core/motion';
import { LAMP_KINDS, MADE_SOURCES } from '@zippy/core/optics';
import { createApp } from './http/app';
import { openServices, type Services } from './services';

// Every property that the document knows, at the ends of its range, beyond them and between: what the page brings a value to, the
// server takes and gives back.

let folder: string;
let services: Services;
let server: Server;
let address: string;

beforeAll(async () => {
  folder = mkdtempSync(join(tmpdir(), 'zippy-properties-'));
  services = await openServices(folder, new URL('../../demo/made', import.meta.url).pathname);
  server = createApp(services, null).listen(0, '127.0.0.1');
  await once(server, 'listening');
  address = `http://127.0.0.1:${(server.address() as AddressInfo).port}`;
});
afterAll(async () => {
  server.close();
  server.closeAllConnections();
  await services.close();
  rmSync(folder, { recursive: true, force: true });
});

interface Opened {
  id: string;
  revision: number;
  document: ProjectDocument;
}

const post = (path: string, body: unknown) =>
  fetch(address + path, {
    method: 'POST',
    body: JSON.stringify(body),
    headers: { 'Content-Type': 'application/json' },
  });

/** Something of every kind that has properties. */
function fill(draft: ProjectDocument): void {
  draft.nodes['n'] = newNode({ id: 'n', copies: newCopies() });
  for (const kind of Object.keys(SET_PIECES) as (keyof typeof SET_PIECES)[])
    draft.nodes[kind] = newNode({ id: kind, kind: 'part', mesh: { piece: newSetPiece(kind, 100) } });
  draft.assets['p'] = newAsset({ id: 'p', name: 'Picture', kind: 'picture', hash: 'a'.repeat(64) });
  const footage = { frames: ['b', 'c'].map((digit) => digit.repeat(64)), rate: 24, size: null, brightness: [0.1, 0.2] };
  draft.assets['v'] = newAsset({ id: 'v', name: 'Clip', kind: 'footage', hash: 'b'.repeat(64), footage });
  const maps = {
    ...Object.fromEntries(MAP_SLOTS.map((slot) => [slot, newMap(slot, 'p')])),
    ...Object.fromEntries(MADE_SOURCES.map((kind) => [kind, madeMap('coatWeight', kind)])),
    footage: newPictureMap('coatWeight', draft.assets['v']!),
  };
  draft.finishes['f'] = newFinish({ id: 'f', maps });
  for (const kind of Object.keys(LAMP_KINDS) as (keyof typeof LAMP_KINDS)[])
    draft.lights[kind] = newLight(kind, { id: kind });
  const shot = Object.values(draft.shots)[0]!;
  Object.assign(shot, { picture: { ...draft.picture }, render: structuredClone(draft.render) });
  for (const kind of Object.keys(MOVE_KINDS) as MoveKind[]) {
    const target = MOVE_KINDS[kind].drives === 'value' ? 'nodes/n/glow' : 'nodes/n';
    shot.moves[kind] = { ...newMove(kind, target, 1, 10, { present: 1 }), id: kind };
  }
  draft.presets['r'] = { id: 'r', name: 'Own', order: 0, ...structuredClone(draft.render) };
  draft.reel.clips['c'] = newClip({ kind: 'take', take: 't' }, { id: 'c', to: 9 });
  draft.reel.titles['title'] = newTitle({ id: 'title' });
  draft.reel.sounds['sound'] = newSound({ id: 'sound', name: 'Sound', asset: 'a' });
  draft.takeLooks['t'] = structuredClone(draft.look);
}

/** Every property of a document, with its path: those of the tables, and of moves and set pieces by their kinds. */
function properties(document: ProjectDocument): [string[], Property][] {
  const found: [string[], Property][] = [];
  const visit = (at: object, path: string[]) => {
    for (const [name, value] of Object.entries(at)) {
      const own = [...path, name];
      const property = propertyAt(own.join('/')) ?? ofKind(document, own);
      if (property) found.push([own, property]);
      else if (typeof value === 'object' && value !== null && !Array.isArray(value)) visit(value as object, own);
    }
  };
  visit(document, []);
  return found;
}

function ofKind(document: ProjectDocument, path: readonly string[]): Property | undefined {
  const table = (of: Table, name: string) => (Object.hasOwn(of, name) ? of[name] : undefined);
  if (path[0] === 'shots' && path[2] === 'moves' && path.length === 5) {
    const { kind } = document.shots[path[1]!]!.moves[path[3]!]!;
    return table({ ...MOVE, ...MOVE_KINDS[kind].properties }, path[4]!);
  }
  const mesh = path[0] === 'nodes' && path[3] === 'piece' ? document.nodes[path[1]!]!.mesh : null;
  return mesh && 'piece' in mesh ? table(SET_PIECES[mesh.piece.kind].properties, path[4] ?? '') : undefined;
}

/** What is asked of a property, one value a round. */
const ROUNDS: ((property: Property) => number)[] = [
  ({ min }) => min,
  ({ max }) => max,
  ({ max }) => max * 2 + 1,
  ({ min }) => min - 1000,
  ({ min, max }) => (min + max) / 2 + 0.3,
  () => 2.3,
  () => -0.7,
  () => 1e-7,
];

function asked(property: Property, round: number): Value {
  const standard = property.default as Value;
  const options = (property.schema as { options?: string[] }).options;
  if (typeof standard === 'string') return options?.[round % options.length] ?? `text ${round}`;
  if (typeof standard === 'boolean') return round % 2 === 0;
  const number = ROUNDS[round]!(property);
  return nearest(property, typeof standard === 'number' ? number : [number, number, number]);
}

it('takes whatever the page brings a value to, for every property, and gives it back', async () => {
  const { id, document } = (await (await post('/api/projects', { name: 'All' })).json()) as Opened;
  const filled = structuredClone(document);
  fill(filled);
  const whole = Object.entries(filled).map(([name, value]) => ({ op: 'replace', path: [name], value }));
  const began = (await (await post(`/api/projects/${id}/edits`, { revision: 1, patches: whole, window: 'w' })).json()) as { revision: number; detail?: string }; // prettier-ignore
  expect(began.detail).toBeUndefined();
  let { revision } = began;
  const all = properties(filled);
  // A table that is forgotten here would be missed.
  expect(all.length).toBeGreaterThan(500);
  for (const round of ROUNDS.keys()) {
    const patches = all.map(([path, property]) => ({ op: 'replace', path, value: asked(property, round) }));
    const answer = await post(`/api/projects/${id}/edits`, { revision, patches, window: 'w' });
    const body = (await answer.json()) as { revision: number; detail?: string };
    expect(body.detail).toBeUndefined();
    ({ revision } = body);
    const kept = ((await (await fetch(`${address}/api/projects/${id}`)).json()) as Opened).document;
    for (const { path, value } of patches) {
      const at = path.reduce<unknown>((of, step) => (of as Record<string, unknown>)[step], kept);
      expect(at, path.join('/')).toEqual(value);
    }
  }
});
