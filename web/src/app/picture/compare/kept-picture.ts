import { inject, Injectable, signal } from '@angular/core';
import { Studio } from '../../store/studio';
import { PictureSeen } from '../scopes/picture-seen';

/** A picture that was kept to hold others against; until the page is left. */
export interface Kept {
  url: string;
  /** What it is of. */
  name: string;
}

@Injectable({ providedIn: 'root' })
export class KeptPicture {
  private readonly seen = inject(PictureSeen);
  private readonly studio = inject(Studio);
  readonly kept = signal<Kept | null>(null);

  /** Keeps what is seen, in place of what was kept before. */
  async keep(): Promise<void> {
    const blob = await this.seen.snapshot();
    if (!blob) return;
    const before = this.kept();
    if (before) URL.revokeObjectURL(before.url);
    this.kept.set({ url: URL.createObjectURL(blob), name: `Kept: frame ${Math.round(this.studio.frame())}` });
  }
}
