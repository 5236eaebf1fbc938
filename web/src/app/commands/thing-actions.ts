import { inject, Injectable } from '@angular/core';
import { Ask } from '../ui/ask/ask';
import { CameraFiles } from '../tasks/camera-files/camera-files';
import { ReelEdits } from '../store/edits/reel-edits';
import { Clipboard } from '../store/edits/clipboard';
import { FinishFiles } from '../store/edits/finish-files';
import { FinishSwap } from '../store/edits/finish-swap';
import { Moves } from '../store/edits/moves';
import { OwnShelf } from '../store/edits/own-shelf';
import { Parts } from '../store/edits/parts';
import { Studio } from '../store/studio';
import type { SelectionKind } from '../store/view/view.state';
import { Shots } from '../store/edits/shots';
import { TakeWork } from '../store/edits/take-work';
import { Things } from '../store/edits/things';

/** What can be done with a thing; null draws a line between. */
export type ThingAction = { name: string; keys?: string; run: () => void } | null;

const COLLECTIONS = { node: 'nodes', finish: 'finishes', light: 'lights', camera: 'cameras', shot: 'shots' } as const;

/** The actions of what is selected, as its context menu lists them. */
@Injectable({ providedIn: 'root' })
export class ThingActions {
  private readonly studio = inject(Studio);
  private readonly things = inject(Things);
  private readonly ownShelf = inject(OwnShelf);
  private readonly finishFiles = inject(FinishFiles);
  private readonly finishSwap = inject(FinishSwap);
  private readonly parts = inject(Parts);
  private readonly moves = inject(Moves);
  private readonly cameraFiles = inject(CameraFiles);
  private readonly shots = inject(Shots);
  private readonly clipboard = inject(Clipboard);
  private readonly reelEdits = inject(ReelEdits);
  private readonly takeWork = inject(TakeWork);
  private readonly ask = inject(Ask);

  ofSelection(): ThingAction[] {
    const [keys, selection] = [this.studio.keys(), this.studio.selection()];
    if (keys.length > 0) return [...this.usual('keys')];
    const primary = this.studio.primary();
    if (!primary) return this.clipboard.filled() ? [this.paste()] : [];
    if (primary.kind === 'take') return this.ofTake(primary.id);
    if (primary.kind === 'clip' || primary.kind === 'title' || primary.kind === 'sound')
      return [
        ...(primary.kind === 'clip'
          ? [{ name: 'Split at the playhead', keys: 'X', run: () => this.reelEdits.split() }]
          : []),
        { name: 'Duplicate', run: () => this.reelEdits.duplicate() },
        null,
        this.delete(),
      ];
    const own = selection.every(({ kind }) => kind === primary.kind) ? this.own(primary.kind, primary.id) : [];
    return [...own, ...(own.length > 0 ? [null] : []), ...this.usual(primary.kind)];
  }

  /** What goes with one kind of thing only. */
  private own(kind: SelectionKind, id: string): ThingAction[] {
    const { studio, things, parts } = this;
    const document = studio.document();
    switch (kind) {
      case 'node':
        return [
          {
            name: studio.present().nodes[id]?.visible === false ? 'Show' : 'Hide',
            keys: 'H',
            run: () => studio.selectedNodes().forEach((each) => things.toggleShown(each)),
          },
          {
            name: studio.isolated() === id ? 'Show all again' : 'Show alone',
            keys: 'I',
            run: () => things.isolate(id),
          },
          { name: 'Give it a finish of its own', run: () => things.wearOwn(studio.selectedNodes()) },
          { name: 'Select all of its finish', run: () => void parts.selectAlike('finish') },
          { name: 'Group', keys: 'Ctrl+G', run: () => parts.group() },
          ...(parts.canUngroup()
            ? [{ name: 'Take the group away', keys: 'Ctrl+Shift+G', run: () => parts.ungroup() }]
            : []),
        ];
      case 'light': {
        const on = studio.present().lights[id]?.on ?? true;
        return [
          { name: on ? 'Switch off' : 'Switch on', run: () => things.setAll('Switch light', 'on', !on) },
          {
            name: document.lights[id]?.solo ? 'With the others again' : 'Alone',
            run: () => things.setAll('Solo', 'solo', !document.lights[id]?.solo),
          },
        ];
      }
      case 'camera':
        return [
          { name: 'Use in this shot', run: () => things.useCamera(id) },
          { name: 'Save its way as a table (CSV)', run: () => void this.cameraFiles.save(id, 'csv') },
          { name: 'Save its way as glTF', run: () => void this.cameraFiles.save(id, 'glb') },
          { name: 'Save poses as JSON (transforms)', run: () => void this.cameraFiles.save(id, 'poses') },
          { name: 'Save poses for COLMAP', run: () => void this.cameraFiles.save(id, 'colmap') },
        ];
      case 'finish': {
        const worn = Object.values(document.nodes).flatMap((node) => (node.finish === id ? [node.id] : []));
        const wearers = () => studio.selectAll(worn.map((each) => ({ kind: 'node', id: each })));
        return [
          { name: 'Keep it on my shelf', run: () => void this.ownShelf.keep(id) },
          { name: 'Put another in its place…', run: () => this.swap(id) },
          { name: 'Save as MaterialX', run: () => void this.finishFiles.save(id, 'materialx') },
          { name: 'Save as glTF', run: () => void this.finishFiles.save(id, 'gltf') },
          ...(worn.length > 0 ? [{ name: 'Select the parts that wear it', run: wearers }] : []),
        ];
      }
      case 'move': {
        const ids = studio.selection().map((each) => each.id);
        const muted = studio.shot()?.moves[id]?.muted ?? false;
        return [
          { name: muted ? 'Let it act' : 'Mute', run: () => this.moves.mute(ids) },
          { name: 'Unfold into keys', run: () => this.moves.unfold(ids) },
        ];
      }
      case 'shot':
        return [
          { name: 'Go to it', run: () => studio.openShot(id) },
          ...(id === studio.shotId()
            ? [{ name: `Split at frame ${Math.round(studio.restFrame())}`, run: () => this.shots.split() }]
            : []),
          {
            name: document.shots[id]?.included === false ? 'Take into the film' : 'Leave out of the film',
            run: () => this.shots.include(studio.selection().map((each) => each.id)),
          },
        ];
      default:
        return [];
    }
  }

  /** The next finish that is chosen takes the place of this one. */
  private swap(id: string): void {
    this.studio.openDesk('finish');
    this.finishSwap.waiting.set(id);
  }

  private usual(kind: SelectionKind | 'keys'): ThingAction[] {
    const { studio } = this;
    const several = studio.selection().length > 1;
    const resets: Partial<Record<SelectionKind | 'keys', string>> = {
      node: 'Reset place, turn and size', light: 'Reset', camera: 'Reset', finish: 'Reset', move: 'Reset', shot: 'Take its own values away',
    }; // prettier-ignore
    return [
      ...(kind === 'keys' || (several && kind !== 'node')
        ? []
        : [{ name: 'Rename…', ...(kind === 'node' ? { keys: 'F2' } : {}), run: () => void this.rename(kind) }]),
      ...(kind === 'keys' ? [] : [{ name: 'Duplicate', run: () => this.duplicate(kind) }]),
      { name: 'Copy', keys: 'Ctrl+C', run: () => this.clipboard.copy() },
      ...(this.clipboard.filled() ? [this.paste()] : []),
      ...(resets[kind] ? [{ name: resets[kind], run: () => this.things.resetSelected() }] : []),
      null,
      this.delete(),
    ];
  }

  private paste = (): ThingAction => ({ name: 'Paste', keys: 'Ctrl+V', run: () => this.clipboard.paste() });
  private delete = (): ThingAction => ({ name: 'Delete', keys: 'Delete', run: () => this.things.deleteSelected() });

  private ofTake(id: string): ThingAction[] {
    const take = this.studio.takes().find((each) => each.id === id);
    if (!take) return [];
    const { takeWork } = this;
    const runs = take.state === 'rendering' || take.state === 'waiting';
    return [
      { name: 'Show', run: () => takeWork.show(take) },
      ...(take.done.length > 0 ? [{ name: 'Put on the reel', run: () => takeWork.putOnReel(take) }] : []),
      ...(runs ? [{ name: 'Pause', run: () => void takeWork.stop(take) }] : []),
      ...(!runs && take.state !== 'done' ? [{ name: 'Go on', run: () => void takeWork.continue(take) }] : []),
      null,
      { name: 'Delete', run: () => void takeWork.remove(take) },
    ];
  }

  /** Parts are duplicated with what shots do to them. */
  private duplicate(kind: SelectionKind): void {
    if (kind === 'node') this.parts.duplicate();
    else this.clipboard.duplicate();
  }

  async rename(kind: SelectionKind): Promise<void> {
    const { id } = this.studio.primary()!;
    if (kind === 'node') return this.parts.renameAll();
    const document = this.studio.document();
    if (kind === 'move') {
      const shot = this.studio.shotId();
      const present = shot && document.shots[shot]?.moves[id]?.name;
      const name = present && (await this.ask.name('Name of the move', 'Rename', present));
      if (name) this.studio.edit('Rename', (draft) => void (draft.shots[shot]!.moves[id]!.name = name));
      return;
    }
    const collection = COLLECTIONS[kind as keyof typeof COLLECTIONS];
    const name = await this.ask.name('New name', 'Rename', document[collection][id]?.name ?? '');
    if (name) this.things.rename(collection, id, name);
  }
}
