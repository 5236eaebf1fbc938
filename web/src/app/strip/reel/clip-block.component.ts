import { ChangeDetectionStrategy, Component, computed, inject, input, output } from '@angular/core';
import type { ScaleLinear } from 'd3';
import type { LaidClip } from '@zippy/core/reel';
import { Api } from '../../api/api';
import { filmedUrl } from '../../api/urls';
import { Studio } from '../../store/studio';

/** Pixels across a small picture has, and of the film's strip. */
const PICTURE = 84;
const MOST_PICTURES = 24;

/** A clip on the film's strip: small pictures of what it shows, its name, and ends that are dragged. */
@Component({
  selector: 'zr-clip-block',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div class="pictures">
      @for (url of pictures(); track $index) {
        <img [src]="url" alt="" loading="lazy" draggable="false" />
      }
    </div>
    @if (laid().change > 0) {
      <div class="change" [class.colored]="colored()" [style.width.px]="changeWidth()" [title]="changeSays()"></div>
    }
    <span class="name">{{ name() }}</span>
    @if (marks(); as text) {
      <span class="marks mono">{{ text }}</span>
    }
    <div class="end first" (pointerdown)="grab.emit({ event: $event, end: 'start' })"></div>
    <div class="end last" (pointerdown)="grab.emit({ event: $event, end: 'end' })"></div>
  `,
  styles: `
    :host {
      position: absolute;
      top: 3px;
      bottom: 3px;
      overflow: hidden;
      border-radius: 6px;
      background: linear-gradient(100deg, #3b3c3e, #565759);
      cursor: grab;
      outline: 1px solid var(--panel);
    }
    :host(.picked) {
      outline: 2px solid var(--select);
      z-index: 1;
    }
    :host(.held) {
      opacity: 0.75;
      cursor: grabbing;
      z-index: 2;
    }
    :host(.faulty) .pictures {
      opacity: 0.35;
    }
    .pictures {
      display: flex;
      width: 100%;
      height: 100%;
    }
    img {
      flex: 1;
      min-width: 0;
      height: 100%;
      object-fit: cover;
    }
    .name,
    .marks {
      position: absolute;
      left: 8px;
      top: 3px;
      max-width: calc(100% - 12px);
      overflow: hidden;
      color: #fff;
      font: 500 11px var(--font);
      text-overflow: ellipsis;
      text-shadow:
        0 0 3px #000,
        0 0 2px #000;
      white-space: nowrap;
      pointer-events: none;
    }
    .marks {
      top: auto;
      bottom: 3px;
      font-size: 10px;
    }
    .change {
      position: absolute;
      inset: 0 auto 0 0;
      background: linear-gradient(to bottom right, #000a 50%, transparent 50.5%);
      border-right: 1px dashed #fff8;
      pointer-events: none;
    }
    .change.colored {
      background: linear-gradient(to right, #000c, transparent);
      border-right: 0;
    }
    .end {
      position: absolute;
      top: 0;
      bottom: 0;
      width: 8px;
      cursor: ew-resize;
    }
    .end:hover {
      background: color-mix(in srgb, var(--select) 70%, transparent);
    }
    .first {
      left: 0;
    }
    .last {
      right: 0;
    }
  `,
})
export class ClipBlockComponent {
  private readonly api = inject(Api);
  private readonly studio = inject(Studio);
  readonly laid = input.required<LaidClip>();
  readonly place = input.required<number>();
  readonly width = input.required<number>();
  readonly x = input.required<ScaleLinear<number, number>>();
  readonly grab = output<{ event: PointerEvent; end: 'start' | 'end' }>();

  readonly name = computed(() => `${this.place()} ${this.laid().source.name}`);
  readonly colored = computed(() => this.laid().clip.change === 'dip');
  readonly changeWidth = computed(() => {
    const { change, start } = this.laid();
    const length = this.colored() ? change / 2 : change;
    return this.x()(start + length) - this.x()(start);
  });
  readonly changeSays = computed(() => `${this.laid().change} frames`);
  /** How it runs, where that is not just once. */
  readonly marks = computed(() => {
    const { clip } = this.laid();
    return [
      clip.ramp !== 'none' ? `× ${clip.speed} → ${clip.speedEnd}` : clip.speed !== 1 ? `× ${clip.speed}` : '',
      clip.play === 'backwards' ? '←' : clip.play === 'toAndFro' ? '↔' : '',
      clip.repeat === 'length' ? 'again and again' : clip.loop > 1 ? `${clip.loop} times` : '',
    ]
      .filter((each) => each !== '')
      .join(' · ');
  });

  readonly pictures = computed(() => {
    const { source, timing, frames, clip } = this.laid();
    const { of } = source;
    if (!of) return [];
    const count = Math.max(1, Math.min(MOST_PICTURES, frames, Math.round(this.width() / PICTURE)));
    return Array.from({ length: count }, (_, k) => {
      const { frame } = timing.at(Math.min(frames - 1, Math.round(((k + 0.5) / count) * frames)))[0]!;
      if ('asset' in of) return filmedUrl(of.asset.footage!.frames[frame - 1]!, clip.look, 120);
      if (!of.take.done.includes(frame)) return '';
      return this.api.frameUrl(of.take.id, frame, clip.look ?? this.studio.lookOf(of.take.id), 120);
    }).filter((url) => url !== '');
  });
}
