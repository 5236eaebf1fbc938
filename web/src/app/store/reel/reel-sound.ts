import { effect, inject, Injectable, untracked } from '@angular/core';
import { gainAt, heardSounds, type HeardSound } from '@zippy/core/reel';
import { blobUrl } from '../../api/urls';
import { Notices } from '../notices';
import { Playback } from '../playback';
import { Studio } from '../studio';
import { ReelFilm } from './reel-film';

/** Steps a second in which a sound comes up and goes down. */
const STEPS = 50;
/** Frames by which picture and sound may be apart before the sound is begun anew. */
const APART = 3;

/** Plays the sounds of the film with its picture. */
@Injectable({ providedIn: 'root' })
export class ReelSound {
  private readonly studio = inject(Studio);
  private readonly reel = inject(ReelFilm);
  private readonly playback = inject(Playback);
  private readonly notices = inject(Notices);
  private readonly buffers = new Map<string, Promise<AudioBuffer>>();
  private context: AudioContext | null = null;
  private playing: AudioBufferSourceNode[] = [];
  /** The film's time at which the sounds were begun, and the context's then; null while nothing is heard. */
  private begun: { film: number; at: number } | null = null;

  constructor() {
    effect(() => {
      // Faster, slower and backwards there is nothing to hear.
      const on = this.studio.playing() && this.reel.shown() && this.playback.rate() === 1;
      untracked(() => (on ? void this.begin() : this.end()));
    });
    effect(() => {
      const frame = this.reel.frame();
      untracked(() => this.keepUp(frame));
    });
  }

  private sounds(): HeardSound[] {
    const { rate, frames } = this.reel.film();
    return heardSounds(this.studio.document(), rate, frames / rate);
  }

  private async begin(): Promise<void> {
    const sounds = this.sounds();
    this.end();
    if (sounds.length === 0) return;
    const context = (this.context ??= new AudioContext());
    await context.resume();
    try {
      const buffers = await Promise.all(sounds.map(({ hash }) => this.buffer(context, hash)));
      if (!untracked(this.studio.playing)) return;
      this.end();
      const film = (untracked(this.reel.frame) - 1) / this.reel.film().rate;
      const at = context.currentTime;
      this.begun = { film, at };
      sounds.forEach((sound, k) => this.start(context, sound, buffers[k]!, film, at));
    } catch {
      this.notices.say('A sound of the film cannot be played by this browser. It is in the film all the same.');
    }
  }

  private start(context: AudioContext, sound: HeardSound, buffer: AudioBuffer, film: number, at: number): void {
    const missed = Math.max(0, film - sound.at);
    const left = sound.lasts - missed;
    if (left <= 0.02) return;
    const begins = at + Math.max(0, sound.at - film);
    const gain = context.createGain();
    const steps = Math.max(2, Math.min(100_000, Math.round(left * STEPS)));
    const curve = Float32Array.from({ length: steps }, (_, k) =>
      gainAt(sound, sound.at + missed + (k / (steps - 1)) * (left - 1e-4)),
    );
    gain.gain.setValueCurveAtTime(curve, begins, left);
    const source = context.createBufferSource();
    source.buffer = buffer;
    source.connect(gain).connect(context.destination);
    source.start(begins, sound.from + missed, left);
    this.playing.push(source);
  }

  /** Begins anew where the film has jumped, as at its end. */
  private keepUp(frame: number): void {
    const { begun, context } = this;
    if (!begun || !context) return;
    const { rate } = this.reel.film();
    const heard = begun.film + context.currentTime - begun.at;
    if (Math.abs((frame - 1) / rate - heard) > APART / rate) void this.begin();
  }

  private end(): void {
    for (const source of this.playing.splice(0)) source.stop();
    this.begun = null;
  }

  private buffer(context: AudioContext, hash: string): Promise<AudioBuffer> {
    let known = this.buffers.get(hash);
    if (!known) {
      known = fetch(blobUrl(hash))
        .then((response) => response.arrayBuffer())
        .then((bytes) => context.decodeAudioData(bytes));
      known.catch(() => this.buffers.delete(hash));
      this.buffers.set(hash, known);
    }
    return known;
  }
}
