import { inject, Injectable, signal } from '@angular/core';
import { bundleSchema, liftThings, putThings, type Thing } from '@zippy/core/scene';
import { many } from '../../ui/many';
import { Notices } from '../notices';
import { Studio } from '../studio';
import type { Selected } from '../view/view.state';

const KEPT = 'zippy-clipboard';
const LIFTED = new Set(['node', 'finish', 'light', 'camera', 'shot', 'move']);
const isThing = (selected: Selected): selected is Thing & Selected => LIFTED.has(selected.kind);

/** What was copied, kept in this browser: it is put into any project in any of its windows. */
@Injectable({ providedIn: 'root' })
export class Clipboard {
  private readonly studio = inject(Studio);
  private readonly notices = inject(Notices);
  /** Something has been copied, here or in another window. */
  readonly filled = signal(localStorage.getItem(KEPT) !== null);

  constructor() {
    window.addEventListener('storage', ({ key }) => {
      if (key === KEPT) this.filled.set(true);
    });
  }

  /** Copies picked keys, or else all that is selected. */
  copy(): void {
    const [selection, shot, keys] = [this.studio.selection(), this.studio.shotId(), this.studio.keys()];
    const things = keys.length > 0 ? [] : selection.filter(isThing);
    if (things.length + keys.length === 0) return this.notices.tell('Select what shall be copied first.');
    try {
      localStorage.setItem(KEPT, JSON.stringify(liftThings(this.studio.document(), shot, things, keys)));
    } catch {
      return this.notices.tell('This is too much for the clipboard of the browser. Copy fewer parts at once.');
    }
    this.filled.set(true);
    this.notices.say(`Copied ${keys.length > 0 ? many(keys.length, 'key') : many(things.length, 'thing')}.`);
  }

  /** Puts what was copied into the present project and shot, and selects it. */
  paste(): void {
    const kept = localStorage.getItem(KEPT);
    const bundle = kept === null ? null : bundleSchema.safeParse(read(kept));
    if (!bundle) return this.notices.tell('Nothing was copied yet.');
    if (!bundle.success)
      return this.notices.tell('What was copied is of another version of Zippy Reel. Copy it again in this one.');
    const [shot, frame, selection] = [this.studio.shotId(), this.studio.frame(), this.studio.selection()];
    const onto = selection.filter(isThing);
    let made: Thing[] = [];
    const place = { shot, frame: Math.round(frame), onto };
    this.studio.edit('Paste', (draft) => void (made = putThings(draft, bundle.data, place)));
    const { tracks, moves } = bundle.data;
    if (made.length > 0) this.studio.selectAll(made);
    else if (Object.keys({ ...tracks, ...moves }).length > 0) {
      const lead = Object.keys(tracks).length > 0;
      if (!lead) this.notices.tell('What these moves were on is not in this project. Select what they shall act on.');
    }
  }

  /** Makes a second one of all that is selected. */
  duplicate(): void {
    const [selection, shot, frame] = [this.studio.selection(), this.studio.shotId(), this.studio.frame()];
    const things = selection.filter(isThing);
    if (things.length === 0) return;
    let made: Thing[] = [];
    const bundle = liftThings(this.studio.document(), shot, things);
    this.studio.edit('Duplicate', (draft) => void (made = putThings(draft, bundle, { shot, frame })));
    this.studio.selectAll(made);
  }
}

/** JSON, or nothing where something else wrote there. */
function read(text: string): unknown {
  try {
    return JSON.parse(text);
  } catch {
    return undefined;
  }
}
