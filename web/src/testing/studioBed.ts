import { provideZonelessChangeDetection, type EnvironmentProviders, type Provider } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import { Store } from '@ngrx/store';
import {
  newCamera,
  newDocument,
  newFinish,
  newLight,
  newNode,
  newShot,
  type ProjectDocument,
} from '@zippy/core/document';
import { defaultRenderSettings } from '@zippy/core/trace';
import { Api } from '../app/api/api';
import type { OpenProject, Take } from '@zippy/core/wire';
import { Studio } from '../app/store/studio';
import { ProjectActions } from '../app/store/project/project.actions';
import { provideStudioStore } from '../app/store/provide-store';

/** A small project: a box with a knob, a lid, two lights, one camera, two shots. */
export function sampleDocument(): ProjectDocument {
  const document = structuredClone(newDocument('Sample'));
  const mesh = (index: number) => ({ asset: 'a'.repeat(64), index });
  document.nodes = {
    box: newNode({ id: 'box', name: 'Box' }),
    shell: newNode({ id: 'shell', name: 'Shell', parent: 'box', kind: 'part', mesh: mesh(0), order: 1 }),
    knob: newNode({ id: 'knob', name: 'Knob', parent: 'box', kind: 'part', mesh: mesh(1), order: 2, finish: 'gold' }),
    lid: newNode({ id: 'lid', name: 'Lid', kind: 'part', mesh: mesh(2), order: 3 }),
  };
  document.finishes = { gold: newFinish({ id: 'gold', name: 'Gold' }) };
  document.lights = {
    key: newLight('panel', { id: 'key', name: 'Key', order: 0 }),
    lamp: newLight('bulb', { id: 'lamp', name: 'Lamp', order: 1 }),
  };
  document.cameras = { eye: newCamera({ id: 'eye', name: 'Eye' }) };
  document.shots = {
    one: newShot({ id: 'one', name: 'One', order: 0, length: 48, camera: 'eye' }),
    two: newShot({ id: 'two', name: 'Two', order: 1, length: 24, camera: 'eye' }),
  };
  return document;
}

export const sampleProject = (over: Partial<OpenProject> = {}): OpenProject => ({
  id: 'sample',
  revision: 1,
  document: sampleDocument(),
  ...over,
});

/** A finished take of the first shot. */
export const sampleTake = (over: Partial<Take> = {}): Take => ({
  id: 'take',
  number: 1,
  shot: 'one',
  shotName: 'One',
  state: 'done',
  first: 1,
  last: 4,
  settings: defaultRenderSettings(),
  order: 1,
  scene: '',
  done: [1, 2, 3, 4],
  named: 4,
  distinct: 4,
  failure: '',
  createdAt: 0,
  ...over,
});

/** The store with the sample project open, and whatever stands for the server and for other services. */
export function openStudio(
  api: Partial<Record<keyof Api, unknown>> = {},
  providers: (Provider | EnvironmentProviders)[] = [],
): Studio {
  TestBed.resetTestingModule();
  TestBed.configureTestingModule({
    providers: [provideZonelessChangeDetection(), provideStudioStore(), { provide: Api, useValue: api }, ...providers],
  });
  TestBed.inject(Store).dispatch(ProjectActions.opened({ project: sampleProject() }));
  return TestBed.inject(Studio);
}
