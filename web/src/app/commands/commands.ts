import { FocusMonitor, type FocusOrigin } from '@angular/cdk/a11y';
import { ApplicationRef, DestroyRef, inject, Injectable, signal } from '@angular/core';
import { newId, shotsInOrder } from '@zippy/core/document';
import { rangeOf } from '@zippy/core/motion';
import { DESK_ENTRIES, DESKS } from '../desks/registry';
import { Playback } from '../store/playback';
import { Studio } from '../store/studio';
import { Parts } from '../store/edits/parts';
import { Shots } from '../store/edits/shots';
import { ReelEdits } from '../store/edits/reel-edits';
import { ReelFilm } from '../store/reel/reel-film';
import { Things } from '../store/edits/things';
import { Clipboard } from '../store/edits/clipboard';
import { Session } from '../store/session';
import { matchKeyBindingPress, parseKeybinding } from 'tinykeys';
import { takesKey } from './own-keys';

export interface Command {
  name: string;
  /** As pressed: `Ctrl+Z`, `Space`, `1`. */
  keys?: string;
  /** Everyday words for it, for the palette. */
  words?: string;
  run: () => void;
}

/** Every action with its shortcut; the palette lists them and the keyboard runs them. */
@Injectable({ providedIn: 'root' })
export class Commands {
  private readonly studio = inject(Studio);
  private readonly things = inject(Things);
  private readonly parts = inject(Parts);
  private readonly shots = inject(Shots);
  private readonly session = inject(Session);
  private readonly playback = inject(Playback);
  private readonly clipboard = inject(Clipboard);
  private readonly reel = inject(ReelFilm);
  private readonly reelEdits = inject(ReelEdits);
  private readonly application = inject(ApplicationRef);
  /** How what has the focus got it. */
  private focusedBy: FocusOrigin = null;
  readonly paletteOpen = signal(false);
  readonly panelsFolded = signal(false);
  /** What the picture offers while it is there. */
  readonly ofPicture = signal<Command[]>([]);

  constructor() {
    const monitor = inject(FocusMonitor);
    monitor.monitor(document.body, true).subscribe((origin) => {
      if (origin) this.focusedBy = origin;
    });
    inject(DestroyRef).onDestroy(() => monitor.stopMonitoring(document.body));
  }

  /** Draws the palette before it returns: the very next key pressed already belongs to its search line. */
  readonly openPalette = (): void => {
    this.paletteOpen.set(true);
    this.application.tick();
  };

  readonly all = (): Command[] => {
    const { studio, things, parts } = this;
    return [
      { name: 'Do anything…', keys: 'Ctrl+K', run: this.openPalette },
      { name: 'Undo', words: 'back revert', keys: 'Ctrl+Z', run: studio.undo },
      { name: 'Redo', keys: 'Ctrl+Shift+Z', run: studio.redo },
      {
        name: 'Play or pause',
        words: 'stop preview',
        keys: 'Space',
        run: () => studio.play(),
      },
      { name: 'Play backwards', words: 'reverse shuttle faster', keys: 'J', run: () => this.playback.shuttle(-1) },
      { name: 'Stop playing', words: 'pause shuttle', keys: 'K', run: () => studio.play(false) },
      { name: 'Play forwards, faster each time', words: 'shuttle', keys: 'L', run: () => this.playback.shuttle(1) },
      {
        name: 'Play and render from here',
        words: 'in point begin range start',
        keys: '[',
        run: () => (this.reel.shown() ? this.reelEdits.trimTo('start') : this.setRange('in')),
      },
      {
        name: 'Play and render up to here',
        words: 'out point end range',
        keys: ']',
        run: () => (this.reel.shown() ? this.reelEdits.trimTo('end') : this.setRange('out')),
      },
      { name: 'Play and render all of the shot', words: 'in out clear range', run: () => this.setRange(null) },
      { name: 'Mark this frame', words: 'marker note bookmark', keys: "'", run: () => this.markFrame() },
      { name: 'Next frame', keys: '.', run: () => this.playback.step(1) },
      { name: 'Frame before', keys: ',', run: () => this.playback.step(-1) },
      { name: 'First frame', keys: 'Home', run: () => this.playback.toEnd('first') },
      { name: 'Last frame', keys: 'End', run: () => this.playback.toEnd('last') },
      ...DESKS.map((desk, k) => ({
        name: `${DESK_ENTRIES[desk].name} desk`,
        keys: String(k + 1),
        run: () => studio.openDesk(desk),
      })),
      {
        name: 'Next of sketch, traced and take',
        keys: 'T',
        run: () => studio.nextGrade(),
      },
      {
        name: 'Look through the camera',
        keys: 'V',
        run: () => studio.lookThroughCamera(),
      },
      {
        name: 'Only the picture',
        words: 'fullscreen maximise hide panels',
        keys: 'W',
        run: () => this.panelsFolded.update((folded) => !folded),
      },
      {
        name: 'Hide or show selected parts',
        keys: 'H',
        run: () => studio.selectedNodes().forEach((id) => things.toggleShown(id)),
      },
      { name: 'Isolate selected part', keys: 'I', run: () => things.isolate(studio.selectedNodes().at(-1) ?? null) },
      { name: 'Light the next part', keys: 'N', run: () => things.stepParts(1) },
      { name: 'Light the part before', keys: 'B', run: () => things.stepParts(-1) },
      ...(studio.desk() === 'model'
        ? [
            { name: 'Next part', keys: 'ArrowDown', run: () => things.stepParts(1) },
            { name: 'Part before', keys: 'ArrowUp', run: () => things.stepParts(-1) },
          ]
        : []),
      { name: 'Show all parts', keys: 'Shift+H', run: () => things.showAll() },
      { name: 'Group selected parts', keys: 'Ctrl+G', run: () => parts.group() },
      { name: 'Take the group away', keys: 'Ctrl+Shift+G', run: () => parts.ungroup() },
      { name: 'Duplicate selected parts', words: 'copy clone', run: () => parts.duplicate() },
      { name: 'Copy', words: 'clipboard', keys: 'Ctrl+C', run: () => this.clipboard.copy() },
      { name: 'Paste', words: 'clipboard insert', keys: 'Ctrl+V', run: () => this.clipboard.paste() },
      { name: 'Reset selected', words: 'default original', run: () => things.resetSelected() },
      { name: 'Join selected parts to one', words: 'merge combine', run: () => parts.join() },
      { name: 'Split the part into loose shells', run: () => void parts.split('shells') },
      { name: 'Split the part into faces', run: () => void parts.split('faces') },
      { name: 'Select parts of the same shape', run: () => void parts.selectAlike('shape') },
      { name: 'Select parts of the same finish', run: () => void parts.selectAlike('finish') },
      { name: 'Rename selected parts…', keys: 'F2', run: () => void parts.renameAll() },
      { name: 'Delete selected', words: 'remove', keys: 'Delete', run: () => things.deleteSelected() },
      { name: 'Copy keys or moves to the playhead', keys: 'Ctrl+D', run: () => things.copyToPlayhead() },
      {
        name: 'Set keys of what is selected',
        words: 'keyframe place turn size pose insert',
        keys: 'Y',
        run: () => studio.keySelected(),
      },
      {
        name: 'Record changes as keys',
        words: 'autokey keyframe animate',
        keys: 'R',
        run: () => studio.record(),
      },
      {
        name: 'Changes in this shot only',
        keys: 'O',
        run: () => studio.changeThisShotOnly(),
      },
      {
        name: 'Select nothing',
        keys: 'Escape',
        run: () => studio.selectNothing(),
      },
      {
        name: 'Settings of the project',
        words: 'frame rate fps resolution size aspect format units preferences',
        run: () => studio.selectNothing(),
      },
      { name: 'Split the shot at the playhead', words: 'cut divide blade razor', run: () => this.shots.split() },
      ...(this.reel.open()
        ? [
            {
              name: 'Split the clip at the playhead',
              words: 'cut divide blade razor',
              keys: 'X',
              run: () => this.reelEdits.split(),
            },
            { name: 'Add a title', words: 'text words caption lower third', run: () => this.reelEdits.addTitle() },
            { name: 'Put all shots on the reel', words: 'assemble film edit', run: () => this.reelEdits.addAllShots() },
          ]
        : []),
      { name: 'Make the shot loop', words: 'cycle seamless repeat endless', run: () => this.shots.mendLoop() },
      { name: 'Add a shot', words: 'scene cut', run: () => things.addShot() },
      { name: 'Save now', keys: 'Ctrl+S', run: () => void this.session.save() },
      { name: 'Switch dark and light', words: 'theme mode', run: () => toggleTheme() },
      ...shotsInOrder(studio.document()).map((shot) => ({
        name: `Go to shot "${shot.name}"`,
        run: () => studio.openShot(shot.id),
      })),
      ...this.ofPicture(),
    ];
  };

  /** Where playing and rendering of the shot begin or end; null takes both away. */
  private setRange(end: 'in' | 'out' | null): void {
    const [id, frame] = [this.studio.shotId(), Math.round(this.studio.frame())];
    if (!id) return;
    this.studio.edit(end === 'in' ? 'Begin here' : end === 'out' ? 'End here' : 'All of the shot', (draft) => {
      const shot = draft.shots[id]!;
      const [first, last] = end ? rangeOf(shot) : [1, shot.length];
      const range: [number, number] =
        end === 'in' ? [frame, Math.max(frame, last)] : end === 'out' ? [Math.min(first, frame), frame] : [first, last];
      shot.range = range[0] === 1 && range[1] === shot.length ? null : range;
    });
  }

  private markFrame(): void {
    const [shot, id, frame] = [this.studio.shotId(), newId(), Math.round(this.studio.frame())];
    if (!shot) return;
    this.studio.edit('Mark frame', (draft) => {
      draft.shots[shot]!.markers[id] = { id, frame, note: `Mark ${frame}` };
    });
  }

  /** Runs what the picture offers under a name. */
  runOfPicture(name: string): void {
    this.ofPicture()
      .find((command) => command.name === name)
      ?.run();
  }

  /** Runs the command of a key press. True where there was one. */
  press(event: KeyboardEvent): boolean {
    const command = this.all().find(({ keys }) => keys !== undefined && isPressed(event, keys));
    if (!command) return false;
    if (takesKey(event.target as HTMLElement, command.keys!, this.focusedBy === 'keyboard')) return false;
    command.run();
    return true;
  }
}

/** Control and the command key are one, as are both keys that delete. */
const isPressed = (event: KeyboardEvent, keys: string): boolean =>
  ['Control', 'Meta'].some((control) => {
    const [press] = parseKeybinding(keys.replace('Ctrl', control).replace('Delete', '(Delete|Backspace)'));
    return matchKeyBindingPress(event, press!);
  });

export function toggleTheme(): void {
  const { dataset } = document.documentElement;
  dataset['theme'] = dataset['theme'] === 'light' ? 'dark' : 'light';
  localStorage.setItem('zippy-theme', dataset['theme']);
}
