import { Directive, effect, ElementRef, inject, input, output, Renderer2 } from '@angular/core';

/** Pixels that a panel may have. */
const LEAST = 140;
const MOST = 640;

/** A handle on one edge of a panel that resizes it by dragging or by arrow keys. */
@Directive({ selector: '[zrSplitter]' })
export class SplitterDirective {
  readonly edge = input.required<'left' | 'right' | 'top'>({ alias: 'zrSplitter' });
  readonly size = input.required<number>({ alias: 'zrSize' });
  readonly sizeChange = output<number>({ alias: 'zrSizeChange' });

  constructor() {
    const host = inject<ElementRef<HTMLElement>>(ElementRef).nativeElement;
    const renderer = inject(Renderer2);
    const handle = renderer.createElement('div') as HTMLElement;
    handle.tabIndex = 0;
    handle.setAttribute('role', 'separator');
    handle.setAttribute('aria-label', 'Resize panel');
    handle.setAttribute('aria-valuemin', String(LEAST));
    handle.setAttribute('aria-valuemax', String(MOST));
    effect(() => handle.setAttribute('aria-valuenow', String(this.size())));
    queueMicrotask(() => {
      const upright = this.edge() !== 'top';
      handle.style.cssText = `position:absolute;z-index:3;${upright ? `top:0;bottom:0;width:8px;cursor:col-resize;${this.edge()}:-7px` : 'left:0;right:0;height:8px;cursor:row-resize;top:-7px'}`;
      host.append(handle);
    });
    renderer.listen(handle, 'pointerdown', (event: PointerEvent) => {
      const start = { at: this.place(event), size: this.size() };
      handle.setPointerCapture(event.pointerId);
      const moved = (move: PointerEvent) => this.resize(start.size + (this.place(move) - start.at) * this.sign());
      handle.addEventListener('pointermove', moved);
      handle.addEventListener('pointerup', () => handle.removeEventListener('pointermove', moved), { once: true });
    });
    renderer.listen(handle, 'keydown', (event: KeyboardEvent) => {
      const by = { ArrowLeft: -16, ArrowUp: -16, ArrowRight: 16, ArrowDown: 16 }[event.key];
      if (by === undefined) return;
      event.preventDefault();
      event.stopPropagation();
      this.resize(this.size() + by * this.sign());
    });
  }

  private place = (event: PointerEvent): number => (this.edge() === 'top' ? event.clientY : event.clientX);
  private sign = (): number => (this.edge() === 'right' ? 1 : -1);
  private resize = (size: number): void => this.sizeChange.emit(Math.min(MOST, Math.max(LEAST, Math.round(size))));
}
