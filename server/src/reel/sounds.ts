import { spawn } from 'node:child_process';
import { createReadStream } from 'node:fs';
import { mkdtemp, rm } from 'node:fs/promises';
import { join } from 'node:path';
import { Readable } from 'node:stream';
import { UserProblem, type SoundFile } from '@zippy/core/document';
import type { Blobs } from '../storage/blobs';

/** Containers that are read: no lists of files, nothing that fetches. */
const CONTAINERS = 'mp3,wav,flac,ogg,mov,matroska,aac,aiff,asf,w64,caf,ac3,amr,opus';
const ALONE = ['-protocol_whitelist', 'file,pipe', '-format_whitelist', CONTAINERS];
/** Longest sound that is taken. */
const MOST_SECONDS = 3600;
/** Of what is looked at for how loud it is. */
const LOOKED_AT = 8000;
const PER_SECOND = 50;
/** Milliseconds after which reading is given up. */
const PATIENCE = 180_000;

/** How loud stretches of a fiftieth of a second are, from samples as they come. */
class Loudness {
  private readonly levels: number[] = [];
  private most = 0;
  private seen = 0;
  samples = 0;
  private rest = Buffer.alloc(0);

  add(chunk: Buffer): void {
    const bytes = this.rest.length > 0 ? Buffer.concat([this.rest, chunk]) : chunk;
    const whole = bytes.length - (bytes.length % 4);
    for (let at = 0; at < whole; at += 4) {
      this.most = Math.max(this.most, Math.abs(bytes.readFloatLE(at)));
      this.samples++;
      if (++this.seen === LOOKED_AT / PER_SECOND) this.close();
    }
    this.rest = Buffer.from(bytes.subarray(whole));
  }

  end(): Uint8Array {
    if (this.seen > 0) this.close();
    return Uint8Array.from(this.levels);
  }

  private close(): void {
    this.levels.push(Math.min(255, Math.round(this.most * 255)));
    [this.most, this.seen] = [0, 0];
  }
}

/**
 * Reads a sound of whatever kind, and keeps it as FLAC with two channels and 48,000 samples a second.
 * @throws UserProblem `sound-broken`, `decoder-missing`
 */
export async function readSound(
  blobs: Blobs,
  folder: string,
  decoder: string | null,
  { hash, name }: { hash: string; name: string },
): Promise<{ hash: string; sound: SoundFile; notes: string[] }> {
  if (!decoder)
    throw new UserProblem('decoder-missing', 'ffmpeg is not installed on this machine, so sounds cannot be read. Install it (on Debian: apt install ffmpeg).', 501); // prettier-ignore
  const work = await mkdtemp(join(folder, 'sound-'));
  try {
    const output = join(work, 'sound.flac');
    const loudness = new Loudness();
    const said = await decode(decoder, blobs.path(hash), output, loudness);
    if (loudness.samples === 0)
      throw new UserProblem('sound-broken', `"${name}" holds no sound that can be read${said ? `: ${said}` : ''}. Bring a WAV, MP3, FLAC, AAC or OGG file.`, 422); // prettier-ignore
    const seconds = loudness.samples / LOOKED_AT;
    const kept = await blobs.store(createReadStream(output));
    const levels = await blobs.store(Readable.from([Buffer.from(loudness.end())]));
    const notes = seconds >= MOST_SECONDS ? [`"${name}" is longer than an hour: what comes after was left out.`] : [];
    return { hash: kept.hash, sound: { seconds, loudness: levels.hash }, notes };
  } finally {
    await rm(work, { recursive: true, force: true });
  }
}

async function decode(decoder: string, path: string, output: string, loudness: Loudness): Promise<string> {
  const limit = ['-t', String(MOST_SECONDS), '-vn', '-sn', '-dn'];
  const child = spawn(
    decoder,
    [
      ...['-v', 'error', '-nostdin', '-y', ...ALONE, '-i', path],
      ...['-map', '0:a:0', ...limit, '-ar', '48000', '-ac', '2', '-c:a', 'flac', output],
      ...['-map', '0:a:0', ...limit, '-ar', String(LOOKED_AT), '-ac', '1', '-f', 'f32le', 'pipe:1'],
    ],
    { stdio: ['ignore', 'pipe', 'pipe'] },
  );
  const clock = setTimeout(() => child.kill('SIGKILL'), PATIENCE);
  let said = '';
  child.stderr.on('data', (chunk: Buffer) => (said = (said + chunk.toString()).slice(-300)));
  child.stdout.on('data', (chunk: Buffer) => loudness.add(chunk));
  await new Promise((resolve) => child.on('close', resolve));
  clearTimeout(clock);
  return said.trim().split('\n').at(-1) ?? '';
}
