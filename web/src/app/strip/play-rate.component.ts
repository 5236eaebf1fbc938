import { ChangeDetectionStrategy, Component, inject } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatTooltipModule } from '@angular/material/tooltip';
import { Playback } from '../store/playback';

/** What is played and how: the shot or the whole film, how fast, and how many pictures a second are really shown. */
@Component({
  selector: 'zr-play-rate',
  imports: [MatButtonModule, MatTooltipModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (playback.rate() !== 1) {
      <span class="quiet mono">× {{ playback.rate() }}</span>
    }
    @if (playback.shown() !== null) {
      <span class="quiet mono" title="Pictures shown a second">{{ playback.shown() }} shown</span>
    }
    <button
      matButton="tonal"
      [attr.aria-pressed]="playback.wholeFilm()"
      matTooltip="Playing goes on with the next shot"
      (click)="playback.wholeFilm.set(!playback.wholeFilm())"
    >
      Whole film
    </button>
  `,
  styles: `
    :host {
      display: flex;
      align-items: center;
      gap: 8px;
    }
    button {
      height: 28px;
    }
  `,
})
export class PlayRateComponent {
  readonly playback = inject(Playback);
}
