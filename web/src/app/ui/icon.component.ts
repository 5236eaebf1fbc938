import { ChangeDetectionStrategy, Component, effect, ElementRef, inject, input } from '@angular/core';
import aperture from 'lucide-static/icons/aperture.svg';
import box from 'lucide-static/icons/box.svg';
import camera from 'lucide-static/icons/video.svg';
import chevron from 'lucide-static/icons/chevron-right.svg';
import close from 'lucide-static/icons/x.svg';
import copy from 'lucide-static/icons/copy.svg';
import earlier from 'lucide-static/icons/arrow-up.svg';
import later from 'lucide-static/icons/arrow-down.svg';
import eye from 'lucide-static/icons/eye.svg';
import eyeOff from 'lucide-static/icons/eye-off.svg';
import film from 'lucide-static/icons/clapperboard.svg';
import finish from 'lucide-static/icons/spray-can.svg';
import frame from 'lucide-static/icons/scan.svg';
import grid from 'lucide-static/icons/grid-3x3.svg';
import inset from 'lucide-static/icons/picture-in-picture-2.svg';
import keep from 'lucide-static/icons/map-pin-plus.svg';
import lamp from 'lucide-static/icons/lamp-desk.svg';
import locked from 'lucide-static/icons/link-2.svg';
import unlocked from 'lucide-static/icons/unlink-2.svg';
import motion from 'lucide-static/icons/route.svg';
import move from 'lucide-static/icons/move.svg';
import paste from 'lucide-static/icons/clipboard-paste.svg';
import pause from 'lucide-static/icons/pause.svg';
import play from 'lucide-static/icons/play.svg';
import plus from 'lucide-static/icons/plus.svg';
import redo from 'lucide-static/icons/redo-2.svg';
import search from 'lucide-static/icons/search.svg';
import set from 'lucide-static/icons/wallpaper.svg';
import size from 'lucide-static/icons/scaling.svg';
import solo from 'lucide-static/icons/target.svg';
import star from 'lucide-static/icons/star.svg';
import stop from 'lucide-static/icons/square.svg';
import theme from 'lucide-static/icons/sun-moon.svg';
import trash from 'lucide-static/icons/trash-2.svg';
import turn from 'lucide-static/icons/rotate-3d.svg';
import undo from 'lucide-static/icons/undo-2.svg';
import compare from 'lucide-static/icons/columns-2.svg';
import region from 'lucide-static/icons/square-dashed.svg';
import fit from 'lucide-static/icons/move-horizontal.svg';
import zoomIn from 'lucide-static/icons/zoom-in.svg';
import zoomOut from 'lucide-static/icons/zoom-out.svg';
import scopes from 'lucide-static/icons/chart-no-axes-column.svg';
import wave from 'lucide-static/icons/activity.svg';

const ICONS = {
  aperture, box, camera, chevron, close, compare, copy, earlier, eye, eyeOff, film, finish, fit, frame, grid, inset, keep, lamp, later, locked, motion, move, paste, pause, play, plus, redo, region, scopes, search, set, size, solo, star, stop, theme, trash, turn, undo, unlocked, wave, zoomIn, zoomOut,
} as const; // prettier-ignore

export type IconName = keyof typeof ICONS;

/** One of the icons shipped with the page; decorative, so the control around it carries the name. */
@Component({
  selector: 'zr-icon',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: '',
  host: { 'aria-hidden': 'true' },
  styles: `
    :host {
      display: inline-flex;
      width: 16px;
      height: 16px;
    }
    :host ::ng-deep svg {
      width: 100%;
      height: 100%;
      stroke-width: 1.7;
      /* Nothing is drawn beyond their edges; cutting there makes a layer of each, which hundreds of rows pay for. */
      overflow: visible;
    }
  `,
})
export class IconComponent {
  readonly name = input.required<IconName>();

  constructor() {
    const host = inject<ElementRef<HTMLElement>>(ElementRef).nativeElement;
    effect(() => host.replaceChildren(drawingOf(this.name())));
  }
}

/** Icons that have been read: lists show hundreds of them at once, and copies are made much faster. */
const read = new Map<IconName, DocumentFragment>();

function drawingOf(name: IconName): Node {
  let drawing = read.get(name);
  if (!drawing) {
    const template = document.createElement('template');
    // Markup of a package that is built in, never of users.
    template.innerHTML = ICONS[name];
    drawing = template.content;
    read.set(name, drawing);
  }
  return drawing.cloneNode(true);
}
