import { inject, Injectable } from '@angular/core';
import {
  copyOf,
  inOrder,
  lastOrder,
  newClip,
  newId,
  newSound,
  newTitle,
  shotsInOrder,
  type Asset,
  type Clip,
  type ClipSource,
  type ProjectDocument,
  type Reel,
  type Title,
} from '@zippy/core/document';
import { slipClip, splitClip, trimClip, type LaidClip, type ReadTimeline } from '@zippy/core/reel';
import { Notices } from '../notices';
import { ReelFilm } from '../reel/reel-film';
import { Studio } from '../studio';

/** Frames that a title stands, and seconds of a plain clip. */
const TITLE_SECONDS = 3;
const PLAIN_SECONDS = 2;
const LANES = { clip: 'clips', title: 'titles', sound: 'sounds' } as const;
type OnReel = keyof typeof LANES;

/** What is done to the film that is put together. */
@Injectable({ providedIn: 'root' })
export class ReelEdits {
  private readonly studio = inject(Studio);
  private readonly reel = inject(ReelFilm);
  private readonly notices = inject(Notices);

  /** Puts a clip behind all others, or before the one at a place. */
  add(label: string, source: ClipSource, over: Partial<Clip> = {}): string {
    const clip = newClip(source, over);
    this.studio.edit(label, ({ reel }) => {
      reel.clips[clip.id] = { ...clip, order: lastOrder(reel.clips) };
    });
    this.studio.select('clip', clip.id);
    return clip.id;
  }

  addTake = (take: string, from: number, to: number): string =>
    this.add('Put on the reel', { kind: 'take', take }, { from, to });

  /** A shot, which shows its newest take. */
  addShot(id: string): void {
    const { length } = this.studio.document().shots[id]!;
    this.add('Put the shot on the reel', { kind: 'shot', shot: id }, { to: length });
  }

  /** All shots that are part of the film, in their order. */
  addAllShots(): void {
    this.studio.edit('Put all shots on the reel', (draft) => {
      let order = lastOrder(draft.reel.clips);
      for (const { id, length, included } of shotsInOrder(draft)) {
        if (!included) continue;
        const clip = newClip({ kind: 'shot', shot: id }, { to: length, order: order++ });
        draft.reel.clips[clip.id] = clip;
      }
    });
  }

  addFootage(asset: Asset): void {
    const clip = newClip({ kind: 'footage', asset: asset.id }, { to: asset.footage!.frames.length });
    this.studio.edit('Put the clip on the reel', (draft) => {
      draft.assets[asset.id] = asset;
      draft.reel.clips[clip.id] = { ...clip, order: lastOrder(draft.reel.clips) };
    });
    this.studio.select('clip', clip.id);
  }

  addPlain(): void {
    this.add('Add a plain clip', { kind: 'plain' }, { to: Math.round(PLAIN_SECONDS * this.studio.frameRate()) });
  }

  /** Words, or a picture, over the film from the playhead on. */
  addTitle(over: Partial<Title> = {}, asset?: Asset): void {
    const length = Math.round(TITLE_SECONDS * this.studio.frameRate());
    const title = newTitle({ start: this.reel.frame(), length, ...over });
    this.studio.edit('Add a title', (draft) => {
      if (asset) draft.assets[asset.id] = asset;
      draft.reel.titles[title.id] = { ...title, order: lastOrder(draft.reel.titles) };
    });
    this.studio.select('title', title.id);
  }

  addSound(asset: Asset): void {
    const sound = newSound({ asset: asset.id, name: asset.name });
    this.studio.edit('Put a sound under the film', (draft) => {
      draft.assets[asset.id] = asset;
      draft.reel.sounds[sound.id] = { ...sound, order: lastOrder(draft.reel.sounds) };
    });
    this.studio.select('sound', sound.id);
  }

  /** Puts a clip before the one at a place among the others. */
  move(id: string, place: number, gesture?: string): void {
    this.studio.edit(
      'Reorder',
      ({ reel }) => {
        const others = inOrder(reel.clips).filter((clip) => clip.id !== id);
        others.splice(Math.min(others.length, Math.max(0, place)), 0, reel.clips[id]!);
        others.forEach((clip, k) => (reel.clips[clip.id]!.order = k));
      },
      gesture,
    );
  }

  moveBy(id: string, by: number): void {
    const at = inOrder(this.studio.document().reel.clips).findIndex((clip) => clip.id === id);
    this.move(id, at + by);
  }

  /** @param laid the clip as it was when its end was taken */
  trim(laid: LaidClip, end: 'start' | 'end', by: number, gesture?: string): void {
    const change = trimClip(laid, end, by, this.studio.frameRate());
    this.studio.edit('Trim', ({ reel }) => void Object.assign(reel.clips[laid.clip.id] ?? {}, change), gesture);
  }

  slip(laid: LaidClip, by: number, gesture?: string): void {
    const change = slipClip(laid, by);
    this.studio.edit('Slip', ({ reel }) => void Object.assign(reel.clips[laid.clip.id] ?? {}, change), gesture);
  }

  /** Cuts the clip at the playhead in two. */
  split(): void {
    const frame = this.reel.frame();
    const laid = this.reel.at(frame);
    const parts = laid ? splitClip(laid, frame - laid.start) : 'The reel is empty. Put something on it first.';
    if (typeof parts === 'string') return this.notices.say(parts);
    const { clip } = laid!;
    const [first, second] = parts;
    const id = newId();
    this.studio.edit('Split clip', ({ reel }) => {
      const order = inOrder(reel.clips);
      reel.clips[id] = { ...copyOf(reel.clips[clip.id]!), ...second, id };
      Object.assign(reel.clips[clip.id]!, first);
      order.splice(order.findIndex((each) => each.id === clip.id) + 1, 0, reel.clips[id]);
      order.forEach((each, k) => (reel.clips[each.id]!.order = k));
    });
    this.studio.select('clip', id);
  }

  /** Begins or ends the clip at the playhead there. */
  trimTo(end: 'start' | 'end'): void {
    const frame = this.reel.frame();
    const laid = this.reel.at(frame);
    if (!laid) return;
    this.trim(laid, end, end === 'start' ? frame - laid.start : frame - (laid.start + laid.frames - 1));
    if (end === 'start') this.reel.goTo(laid.start);
  }

  /** A second one of all that is picked: clips behind their own, titles and sounds above and below. */
  duplicate(): void {
    const made: { kind: OnReel; id: string }[] = [];
    const selection = this.studio.selection();
    this.studio.edit('Duplicate', ({ reel }) => {
      for (const { kind, id } of selection) {
        if (!(kind in LANES)) continue;
        const all = reel[LANES[kind as OnReel]] as Record<string, { id: string; order: number }>;
        const copy = { ...copyOf(all[id]!), id: newId() };
        all[copy.id] = { ...copy, order: all[id]!.order + 0.5 };
        inOrder(all).forEach((each, k) => (all[each.id]!.order = k));
        if (kind === 'title') copyKeys(reel, id, copy.id);
        made.push({ kind: kind as OnReel, id: copy.id });
      }
    });
    if (made.length > 0) this.studio.selectAll(made);
  }

  /** What an edit list brings takes the place of all clips, and of titles where it has some. */
  takeOver({ clips, titles }: ReadTimeline): void {
    this.studio.edit('Take over an edit list', ({ reel }) => {
      reel.clips = Object.fromEntries(clips.map((clip) => [clip.id, clip]));
      if (titles.length > 0) reel.titles = Object.fromEntries(titles.map((title) => [title.id, title]));
    });
  }
}

/** Takes what is on the reel away, with its keys. */
export function removeFromReel(draft: ProjectDocument, kind: OnReel, id: string): void {
  delete (draft.reel[LANES[kind]] as Record<string, unknown>)[id];
  if (kind !== 'title') return;
  for (const path of Object.keys(draft.reel.tracks))
    if (path.startsWith(`reel/titles/${id}/`)) delete draft.reel.tracks[path];
}

function copyKeys(reel: Reel, from: string, to: string): void {
  for (const [path, keys] of Object.entries(reel.tracks))
    if (path.startsWith(`reel/titles/${from}/`)) reel.tracks[path.replace(from, to)] = copyOf(keys);
}
