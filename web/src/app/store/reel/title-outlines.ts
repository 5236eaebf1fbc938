import { inject, Injectable, signal } from '@angular/core';
import { outlineKey, type TitleOutline } from '@zippy/core/reel';
import type { Asset } from '@zippy/core/document';
import { Api } from '../../api/api';
import { Studio } from '../studio';

/** Outlines that are kept: of what was typed lately. */
const MOST = 300;

/** Words of titles as outlines, asked for once. */
@Injectable({ providedIn: 'root' })
export class TitleOutlines {
  private readonly api = inject(Api);
  private readonly studio = inject(Studio);
  private readonly known = new Map<string, TitleOutline | null>();
  /** Counts up with every outline that comes. */
  readonly come = signal(0);

  /** Null where it is not there yet: it is asked for, and `come` tells. */
  of(title: { words: string; font: string }): TitleOutline | null {
    const asset = this.studio.document().assets[title.font];
    const key = `${asset?.hash ?? ''}\n${outlineKey(title)}`;
    const found = this.known.get(key);
    if (found !== undefined) return found;
    this.known.set(key, null);
    if (this.known.size > MOST) this.known.delete(this.known.keys().next().value!);
    void this.ask(title, key, asset?.kind === 'font' ? asset : null);
    return null;
  }

  private async ask({ words, font }: { words: string; font: string }, key: string, own: Asset | null): Promise<void> {
    try {
      const outline = await this.api.outlineTitle(words, own ? { hash: own.hash, name: own.name } : font);
      this.known.set(key, outline);
    } catch {
      // It may be asked for again: the server may be back then.
      this.known.delete(key);
      return;
    }
    this.come.update((count) => count + 1);
  }
}
