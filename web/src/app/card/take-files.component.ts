import { ChangeDetectionStrategy, Component, computed, inject, input, signal } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatTooltipModule } from '@angular/material/tooltip';
import {
  fileName,
  patternFault,
  STILL_FORMATS,
  STILL_FORMAT_NAMES,
  type Display,
  type StillFormatName,
} from '@zippy/core/develop';
import { heldFrame } from '@zippy/core/document';
import { Api } from '../api/api';
import { leavingQuery, stillsUrl, stillUrl, type Leaving } from '../api/urls';
import { Notices } from '../store/notices';
import { ShownLayer } from '../store/shown-layer';
import { Studio } from '../store/studio';
import { ChoiceComponent } from '../ui/choice.component';
import { FoldComponent } from '../ui/fold.component';
import { many } from '../ui/many';
import { saveAs } from '../ui/save-as';
import { TextFieldComponent } from '../ui/text-field.component';

const DISPLAY_NAMES: Record<Display, string> = { bt709: 'Of every display (sRGB)', p3: 'Display P3' };
const KEPT = 'zippy-still-format';
const GROUNDS = [
  { value: '', label: 'Left open' },
  { value: '#ffffff', label: 'White' },
  { value: '#808080', label: 'Grey' },
  { value: '#000000', label: 'Black' },
];

/** Frames of a take as files: one, or all of them packed. */
@Component({
  selector: 'zr-take-files',
  imports: [ChoiceComponent, FoldComponent, MatButtonModule, MatTooltipModule, TextFieldComponent],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <zr-fold title="Frames as files">
      <div class="pair">
        <span class="quiet">Form</span>
        <zr-choice label="Form of the files" [options]="forms" [value]="form()" (chosen)="choose($event)" />
      </div>
      <p class="quiet">{{ format().says }}</p>
      @if (format().plan.by === 'picture') {
        <div class="pair">
          <span class="quiet">Open ground</span>
          <zr-choice
            label="What is open behind the product"
            [options]="grounds()"
            [value]="ground()"
            (chosen)="picked.set($event)"
          />
        </div>
        <div class="pair">
          <span class="quiet">Colours</span>
          <zr-choice
            label="Colours of the display"
            [options]="displays"
            [value]="display()"
            (chosen)="display.set($any($event))"
          />
        </div>
        @if (instead(); as name) {
          <p class="quiet">What is shown is saved: {{ name }}</p>
        }
      }
      <div class="pair">
        <span class="quiet">Called</span>
        <zr-text label="Names of files" [value]="pattern()" (changed)="name($event)" />
      </div>
      @if (fault(); as words) {
        <p class="warn">{{ words }}</p>
      }
      <p class="mono called">{{ called() }}</p>
      <div class="row">
        <button matButton="tonal" [disabled]="!there()" (click)="saveOne()">Save frame {{ frame() }}</button>
        @if (done() > 1) {
          <button matButton="tonal" (click)="saveAll()">Save all {{ done() }} frames</button>
        }
        @if (delivers() && done() > 0) {
          <button
            matButton
            matTooltip="Into the folder that the server was given; nothing there is replaced"
            [disabled]="writing()"
            (click)="deliver()"
          >
            {{ writing() ? 'Writing…' : "Into the server's folder" }}
          </button>
        }
      </div>
    </zr-fold>
  `,
  styles: `
    .pair {
      display: grid;
      grid-template-columns: 84px 1fr;
      gap: 6px;
      align-items: center;
      min-height: 34px;
    }
    p {
      margin: 2px 0 6px;
    }
    .called {
      overflow-wrap: anywhere;
      font-size: 11px;
    }
    .row {
      display: flex;
      flex-wrap: wrap;
      gap: 6px;
    }
  `,
})
export class TakeFilesComponent {
  private readonly api = inject(Api);
  private readonly notices = inject(Notices);
  private readonly studio = inject(Studio);
  private readonly layers = inject(ShownLayer);
  readonly take = input.required<string>();
  readonly forms = STILL_FORMAT_NAMES.map((value) => ({ value, label: STILL_FORMATS[value].title }));
  readonly form = signal<StillFormatName>(
    STILL_FORMAT_NAMES.find((name) => name === localStorage.getItem(KEPT)) ?? 'png',
  );
  readonly format = computed(() => STILL_FORMATS[this.form()]);
  readonly displays = Object.entries(DISPLAY_NAMES).map(([value, label]) => ({ value, label }));
  readonly display = signal<Display>('bt709');
  /** What was chosen to fill what is open, kept for formats that can leave it so. */
  readonly picked = signal('');
  readonly grounds = computed(() => GROUNDS.filter(({ value }) => value !== '' || this.format().alpha));
  readonly ground = computed(() =>
    this.grounds().some(({ value }) => value === this.picked()) ? this.picked() : '#ffffff',
  );
  private readonly shown = computed(() => this.studio.takes().find(({ id }) => id === this.take()) ?? null);
  readonly frame = computed(() => {
    const take = this.shown();
    if (!take) return 1;
    const at = Math.min(take.last, Math.max(take.first, this.studio.restFrame()));
    return heldFrame(take, at);
  });
  readonly done = computed(() => this.shown()?.done.length ?? 0);
  readonly there = computed(() => this.shown()?.done.includes(this.frame()) ?? false);
  /** A layer that is looked at leaves instead of the picture. */
  readonly instead = computed(() => {
    const { layer, matte } = this.layers.instead();
    return matte
      ? `the matte of ${matte.names.join(', ')}`
      : layer
        ? `the layer "${layer.replace('light:', '')}"`
        : null;
  });
  readonly pattern = computed(() => this.studio.document().settings.fileNames);
  readonly fault = computed(() => patternFault(this.pattern()));
  readonly called = computed(() => {
    const take = this.shown();
    if (!take) return '';
    const { width, height } = take.settings;
    const { name } = this.studio.document();
    const own = fileName(this.pattern(), { project: name, shot: take.shotName, take: take.number, frame: this.frame(), width, height }); // prettier-ignore
    return `${own}.${this.format().extension}`;
  });

  choose(form: string): void {
    this.form.set(form as StillFormatName);
    localStorage.setItem(KEPT, form);
  }

  name(pattern: string): void {
    this.studio.edit('Names of files', (draft) => void (draft.settings.fileNames = pattern));
  }

  /** The server has a folder to write into. */
  readonly delivers = signal(false);
  readonly writing = signal(false);

  constructor() {
    // Without an answer it is not offered.
    this.api.state().then(
      ({ delivers }) => this.delivers.set(delivers),
      () => undefined,
    );
  }

  async deliver(): Promise<void> {
    this.writing.set(true);
    try {
      const { folder, files, first } = await this.api.deliverFrames(this.take(), leavingQuery(this.leaving()));
      this.notices.say(`${many(files, 'file')} written into ${folder}, the first as ${first}.`);
    } catch (error) {
      this.notices.tell(error);
    } finally {
      this.writing.set(false);
    }
  }

  saveOne = (): void => saveAs(stillUrl(this.take(), this.frame(), this.leaving()));
  saveAll = (): void => saveAs(stillsUrl(this.take(), this.leaving()));

  private leaving(): Leaving {
    const pictures = this.format().plan.by === 'picture';
    return {
      format: this.form(),
      look: this.studio.lookOf(this.take()),
      display: pictures ? this.display() : 'bt709',
      ground: pictures ? this.ground() || null : null,
      instead: pictures ? this.layers.instead() : {},
    };
  }
}
