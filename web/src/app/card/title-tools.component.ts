import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import { TitleOutlines } from '../store/reel/title-outlines';
import { Studio } from '../store/studio';
import { BringToReel } from '../tasks/reel/bring-to-reel';
import { FileButtonComponent } from '../ui/file-button.component';

/** An own font for a title, and signs that none has. */
@Component({
  selector: 'zr-title-tools',
  imports: [FileButtonComponent],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (missing(); as signs) {
      <p class="warn">No font here has {{ signs }}. Bring a font file that does, or write it otherwise.</p>
    }
    @if (worded()) {
      <zr-file-button
        label="Font for this title"
        accept=".ttf,.otf,.woff,.woff2,.ttc"
        (files)="bring.font($event[0]!, title())"
      >
        Own font…
      </zr-file-button>
    }
  `,
  styles: `
    :host {
      display: block;
      margin-bottom: 6px;
    }
    p {
      margin: 0 0 6px;
    }
  `,
})
export class TitleToolsComponent {
  private readonly studio = inject(Studio);
  private readonly outlines = inject(TitleOutlines);
  readonly bring = inject(BringToReel);
  readonly title = input.required<string>();
  private readonly entity = computed(() => this.studio.document().reel.titles[this.title()]);
  readonly worded = computed(() => this.entity()?.picture === null);
  readonly missing = computed(() => {
    this.outlines.come();
    const title = this.entity();
    const signs = title && title.picture === null ? (this.outlines.of(title)?.missing ?? []) : [];
    return signs.length > 0 ? signs.map((sign) => `"${sign}"`).join(', ') : null;
  });
}
