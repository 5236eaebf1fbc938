import { FocusMonitor } from '@angular/cdk/a11y';
import { Component, inject } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { openStudio } from '../../testing/studioBed';
import type { Studio } from '../store/studio';
import { Commands } from './commands';
import { Everything } from './everything';
import { PaletteComponent } from './palette.component';

@Component({
  selector: 'zr-host',
  imports: [PaletteComponent],
  template: '@if (commands.paletteOpen()) { <zr-palette /> }',
})
class HostComponent {
  readonly commands = inject(Commands);
}

let studio: Studio;
let commands: Commands;
const press = (key: string, over: KeyboardEventInit = {}, on: HTMLElement = document.body) => {
  const event = new KeyboardEvent('keydown', { key, code: key === ' ' ? 'Space' : '', ...over });
  Object.defineProperty(event, 'target', { value: on });
  return commands.press(event);
};

beforeEach(() => {
  vi.stubGlobal('EventSource', class {});
  studio = openStudio();
  commands = TestBed.inject(Commands);
});

describe('commands', () => {
  it('have names and shortcuts of their own', () => {
    const all = commands.all();
    const keys = all.flatMap((command) => command.keys ?? []);
    expect(new Set(keys).size).toBe(keys.length);
    expect(new Set(all.map((command) => command.name)).size).toBe(all.length);
  });

  it('run by their keys', () => {
    press(' ');
    expect(studio.playing()).toBe(true);
    press('End');
    expect(studio.frame()).toBe(48);
    press(',');
    expect(studio.frame()).toBe(47);
    press('6');
    expect(studio.desk()).toBe('motion');
    press('k', { ctrlKey: true });
    expect(commands.paletteOpen()).toBe(true);
  });

  it('undo and redo with Ctrl or Cmd', () => {
    studio.setProperty('Power', 'lights/key/power', 5);
    expect(press('z', { ctrlKey: true })).toBe(true);
    expect(studio.document().lights['key']!.power).toBe(900);
    press('Z', { metaKey: true, shiftKey: true });
    expect(studio.document().lights['key']!.power).toBe(5);
  });

  it('leave typing alone, save for the palette and saving', () => {
    const field = document.createElement('input');
    expect(press('h', {}, field)).toBe(false);
    expect(press('Delete', {}, field)).toBe(false);
    expect(press('k', { ctrlKey: true }, field)).toBe(true);
  });

  it('leave Space to a button that was reached by the keyboard, and play after one that was clicked', () => {
    const button = document.body.appendChild(document.createElement('button'));
    const other = document.body.appendChild(document.createElement('button'));
    const monitor = TestBed.inject(FocusMonitor);
    monitor.focusVia(button, 'keyboard');
    expect(press(' ', {}, button)).toBe(false);
    expect(studio.playing()).toBe(false);
    monitor.focusVia(other, 'mouse');
    expect(press(' ', {}, other)).toBe(true);
    expect(studio.playing()).toBe(true);
    for (const each of [button, other]) each.remove();
  });

  it('work after a slider, a switch or a choice was used, which keep what works them', () => {
    const slider = Object.assign(document.createElement('input'), { type: 'range' });
    expect(press('Home', {}, slider)).toBe(false);
    expect(press(' ', {}, slider)).toBe(true);
    const choice = document.createElement('select');
    expect(press('ArrowDown', {}, choice)).toBe(false);
    expect(press('6', {}, choice)).toBe(true);
    expect(studio.desk()).toBe('motion');
  });

  it('leave Tab to walk through the page, and fold all but the picture by another key', () => {
    expect(press('Tab')).toBe(false);
    expect(commands.panelsFolded()).toBe(false);
    expect(press('w')).toBe(true);
    expect(commands.panelsFolded()).toBe(true);
  });

  it('offer every shot by name', () => {
    commands
      .all()
      .find((command) => command.name === 'Go to shot "Two"')!
      .run();
    expect(studio.shotId()).toBe('two');
  });

  it('give the search line the keyboard before the next key can be pressed', () => {
    const host = TestBed.createComponent(HostComponent);
    host.autoDetectChanges();
    document.body.append(host.nativeElement as HTMLElement);
    press('k', { ctrlKey: true });
    expect(document.activeElement?.getAttribute('aria-label')).toBe('Search commands');
    host.destroy();
  });
});

describe('everything by words', () => {
  const names = (text: string) =>
    TestBed.inject(Everything)
      .find(text)
      .map(({ name }) => name);
  const run = (text: string) => TestBed.inject(Everything).find(text)[0]!.run();

  it('is found by what it is called, by everyday words, and a letter off', () => {
    expect(names('undo')[0]).toBe('Undo');
    expect(names('key light')).toContain('Add a light: Panel');
    expect(names('mp4')[0]).toBe('Make a film file');
    expect(names('fullscreen')[0]).toBe('Only the picture');
    expect(names('duplicte')).toContain('Duplicate selected parts');
    expect(names('no such thing at all')).toEqual([]);
  });

  it('are the things of the project, by their names', () => {
    run('knob');
    expect(studio.selection()).toEqual([{ kind: 'node', id: 'knob' }]);
    expect(studio.desk()).toBe('model');
    run('light lamp');
    expect(studio.selection()).toEqual([{ kind: 'light', id: 'lamp' }]);
    run('shot "two');
    expect(studio.shotId()).toBe('two');
  });

  it('are what can be added, and worn by what is selected', () => {
    const before = Object.keys(studio.document().lights).length;
    run('add spot');
    expect(Object.keys(studio.document().lights)).toHaveLength(before + 1);
    studio.selectAll([]);
    expect(names('spin')).toContain('Add a move: Turntable');
    expect(names('hover')).not.toContain('Add a move: Float');
    studio.select('node', 'knob');
    studio.select('node', 'lid', true);
    run('spin');
    expect(Object.values(studio.shot()!.moves).map(({ target }) => target).sort()).toEqual(['nodes/knob', 'nodes/lid']); // prettier-ignore
    studio.undo();
    expect(studio.shot()!.moves).toEqual({});
    studio.select('node', 'lid');
    run('wear copper');
    const worn = studio.document().nodes['lid']!.finish!;
    expect(studio.document().finishes[worn]!.name).toBe('Copper');
  });
});
