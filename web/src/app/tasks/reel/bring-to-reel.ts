import { inject, Injectable, signal } from '@angular/core';
import { LIMITS, newAsset, newId, type Asset } from '@zippy/core/document';
import { filmFormat, readOtio, writeOtio } from '@zippy/core/reel';
import type { Film } from '@zippy/core/wire';
import { Api } from '../../api/api';
import { blobUrl, filmUrl } from '../../api/urls';
import { ReelEdits } from '../../store/edits/reel-edits';
import { Notices } from '../../store/notices';
import { ReelFilm } from '../../store/reel/reel-film';
import { Studio } from '../../store/studio';
import { Ask } from '../../ui/ask/ask';
import { saveFile } from '../../ui/save-as';
import { Importer } from '../import/importer';

/** Seconds that a picture stands which does not move. */
const STILL_SECONDS = 3;

/** Brings files onto the reel, over it and under it, and edit lists in and out. */
@Injectable({ providedIn: 'root' })
export class BringToReel {
  private readonly api = inject(Api);
  private readonly ask = inject(Ask);
  private readonly edits = inject(ReelEdits);
  private readonly importer = inject(Importer);
  private readonly notices = inject(Notices);
  private readonly reel = inject(ReelFilm);
  private readonly studio = inject(Studio);
  /** What is being sent and read; null while nothing is. */
  readonly busy = signal<string | null>(null);

  /** Films, rows of pictures and pictures become clips behind all others. */
  async clips(files: readonly File[]): Promise<void> {
    for (const id of await this.importer.bringPictures(files, true)) {
      const asset = this.studio.document().assets[id];
      if (asset?.footage) this.edits.addFootage(asset);
      else if (asset) await this.addStill(asset);
    }
  }

  /** A film that was made here becomes a clip. */
  async film({ id, name, format }: Film): Promise<void> {
    await this.work(`"${name}"`, async () => {
      const response = await fetch(filmUrl(id));
      if (!response.ok) throw new Error(`The film "${name}" did not come (${response.status}). Try again.`);
      const { extension, mediaType } = filmFormat(format);
      await this.clips([new File([await response.blob()], `${name}.${extension}`, { type: mediaType })]);
    });
  }

  /** A picture, a drawing too, over the film. */
  async overlay(file: File): Promise<void> {
    const id = await this.importer.bringPicture(file);
    const asset = id === null ? undefined : this.studio.document().assets[id];
    if (asset)
      this.edits.addTitle({
        name: asset.name,
        picture: asset.id,
        size: 0.12,
        x: 0.95,
        y: 0.06,
        align: 'right',
        stand: 'top',
      });
  }

  async sound(file: File): Promise<void> {
    await this.work(`"${file.name}"`, async () => {
      const name = file.name.slice(-LIMITS.nameLength);
      const { hash } = await this.send(file);
      const { sound, notes, ...kept } = await this.api.keepSound(name, hash);
      const title = name.replace(/\.[a-z0-9]+$/i, '');
      this.edits.addSound(newAsset({ name: title, kind: 'sound', ...kept, sourceHash: hash, sourceName: name, sound }));
      if (notes.length > 0) this.notices.say(notes.join(' '));
    });
  }

  /** An own font for a title. */
  async font(file: File, title: string): Promise<void> {
    await this.work(`"${file.name}"`, async () => {
      const name = file.name.slice(-LIMITS.nameLength);
      const { hash } = await this.send(file);
      const known = Object.values(this.studio.document().assets).find((each) => each.kind === 'font' && each.hash === hash); // prettier-ignore
      const asset =
        known ?? newAsset({ kind: 'font', hash, sourceName: name, ...(await this.api.readFont(name, hash)) });
      this.studio.edit('Font of the title', (draft) => {
        draft.assets[asset.id] ??= asset;
        if (draft.reel.titles[title]) draft.reel.titles[title].font = asset.id;
      });
    });
  }

  /** An edit list takes the place of the clips. */
  async editList(file: File): Promise<void> {
    await this.work(`"${file.name}"`, async () => {
      const read = readOtio(await file.text(), file.name, this.studio.document(), this.studio.takes());
      const there = Object.keys(this.studio.document().reel.clips).length;
      const sure =
        there === 0 ||
        (await this.ask.sure('Take over this edit list?', `Its ${read.clips.length} clips take the place of the ${there} on the reel. Undo brings them back.`, 'Take over')); // prettier-ignore
      if (!sure) return;
      this.edits.takeOver(read);
      if (read.notes.length > 0) this.notices.say(read.notes.join(' '));
    });
  }

  saveEditList(): void {
    const document = this.studio.document();
    const text = writeOtio(document.name, this.reel.film(), document);
    saveFile(text, `${document.name || 'film'}.otio`, 'application/json');
  }

  private async addStill(asset: Asset): Promise<void> {
    const rate = this.studio.frameRate();
    const size = await sizeOf(blobUrl(asset.hash));
    const footage = { frames: [asset.hash], rate, size, brightness: [0.5] };
    const still = { ...asset, id: newId(), kind: 'footage' as const, deep: null, footage };
    this.studio.edit(`Bring in ${asset.name}`, (draft) => void (draft.assets[still.id] = still));
    this.edits.add('Put the picture on the reel', { kind: 'footage', asset: still.id }, { to: 1, holdAfter: Math.round(STILL_SECONDS * rate) - 1 }); // prettier-ignore
  }

  private send(file: File): Promise<{ hash: string }> {
    return this.api.upload(file, () => undefined, new AbortController().signal);
  }

  private async work(what: string, work: () => Promise<void>): Promise<void> {
    this.busy.set(what);
    try {
      await work();
    } catch (error) {
      this.notices.tell(error);
    } finally {
      this.busy.set(null);
    }
  }
}

/** Pixels of a picture; null where the browser cannot tell. */
async function sizeOf(address: string): Promise<{ width: number; height: number } | null> {
  try {
    const bitmap = await createImageBitmap(await (await fetch(address)).blob());
    const { width, height } = bitmap;
    bitmap.close();
    return { width, height };
  } catch {
    return null;
  }
}
