import { Component, inject } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { openStudio } from '../../testing/studioBed';
import type { Studio } from '../state/studio';
import { Commands } from './commands';
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
  const event = new KeyboardEvent('keydown', { key, ...over });
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
    expect(studio.state().playing).toBe(true);
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
    const button = document.createElement('button');
    const reached = vi.spyOn(button, 'matches').mockReturnValue(true);
    expect(press(' ', {}, button)).toBe(false);
    expect(studio.state().playing).toBe(false);
    reached.mockReturnValue(false);
    expect(press(' ', {}, button)).toBe(true);
    expect(studio.state().playing).toBe(true);
  });

  it('work after a slider, a switch or a choice was used, which keep what works them', () => {
    const slider = Object.assign(document.createElement('input'), { type: 'range' });
    expect(press('Home', {}, slider)).toBe(false);
    expect(press(' ', {}, slider)).toBe(true);
    const choice = document.createElement('select');
    vi.spyOn(choice, 'matches').mockReturnValue(false);
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
