import '@angular/compiler';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { defaultLook } from '@zippy/core/document';
import { deliverySchema } from '@zippy/core/reel';
import type { Film } from '@zippy/core/wire';
import { Api, ServerLost, ServerProblem } from './api';

const api = new Api();
const answer = (status: number, body: unknown) =>
  vi.fn(async () => new Response(typeof body === 'string' ? body : JSON.stringify(body), { status }));
afterEach(() => vi.unstubAllGlobals());

describe('a call of the server', () => {
  it('sends JSON and gives what came back', async () => {
    const film: Film = {
      id: 'film',
      name: 'F',
      format: 'mp4',
      about: '',
      state: 'encoding',
      frames: 2,
      encoded: 0,
      bytes: 0,
      failure: '',
      createdAt: 1,
    };
    const fetch = answer(201, film);
    const delivery = deliverySchema.parse({ format: 'mp4', quality: 'small' });
    vi.stubGlobal('fetch', fetch);
    expect(await api.createFilm('p', delivery)).toEqual(film);
    const [path, { method, body }] = fetch.mock.calls[0] as unknown as [string, { method: string; body: string }];
    expect([path, method, JSON.parse(body)]).toEqual(['/api/projects/p/films', 'POST', delivery]);
  });

  it('that is refused throws the server’s sentence, its code and its status', async () => {
    vi.stubGlobal(
      'fetch',
      answer(409, { title: 'revision-conflict', status: 409, detail: 'Another window was first.' }),
    );
    const error = await api.saveEdits('p', 1, [], 'w', 's').catch((each: unknown) => each as ServerProblem);
    expect(error).toBeInstanceOf(ServerProblem);
    expect(error).toMatchObject({ code: 'revision-conflict', status: 409, message: 'Another window was first.' });
  });

  it('that is answered with nonsense still gives a sentence, and counts as a failure of the server', async () => {
    vi.stubGlobal('fetch', answer(502, '<html>Bad gateway</html>'));
    const error = await api.projects().catch((each: unknown) => each as ServerProblem);
    expect(error).toMatchObject({ status: 500, message: expect.stringMatching(/no usable answer/) });
  });

  it('that is answered with something else than was agreed on counts as a failure of the server', async () => {
    vi.stubGlobal('fetch', answer(200, [{ id: 'a', name: 7 }]));
    await expect(api.projects()).rejects.toMatchObject({ status: 500, message: expect.stringMatching(/no usable/) });
  });

  it('that reaches nobody says that changes are kept', async () => {
    vi.stubGlobal(
      'fetch',
      vi.fn(async () => {
        throw new TypeError('Failed to fetch');
      }),
    );
    await expect(api.projects()).rejects.toThrow(ServerLost);
    await expect(api.projects()).rejects.toThrow(/kept here/);
  });
});

describe('the address of a frame', () => {
  it('names the look, so that every look is a picture of its own', () => {
    const look = defaultLook();
    const [one, two] = [look, { ...look, exposure: 1 }].map((each) => api.frameUrl('t', 3, each, 120));
    expect(one).toMatch(/^\/api\/takes\/t\/frames\/3\.webp\?/);
    expect(new URLSearchParams(one!.split('?')[1]).get('width')).toBe('120');
    expect(one).not.toBe(two);
  });
});

describe('sending a file', () => {
  class FakeRequest {
    static last: FakeRequest;
    upload: { onprogress?: (event: { loaded: number; total: number }) => void } = {};
    status = 0;
    responseText = '';
    onload = () => {};
    onerror = () => {};
    onabort = () => {};
    open = vi.fn();
    setRequestHeader = vi.fn();
    send = vi.fn();
    abort = () => this.onabort();
    constructor() {
      FakeRequest.last = this;
    }
    end(status: number, body: object): void {
      Object.assign(this, { status, responseText: JSON.stringify(body) });
      this.onload();
    }
  }
  beforeEach(() => vi.stubGlobal('XMLHttpRequest', FakeRequest));
  const file = new File(['solid'], 'part.stl');

  it('tells how far it is and gives the hash', async () => {
    const parts: number[] = [];
    const sent = api.upload(file, (part) => parts.push(part), new AbortController().signal);
    FakeRequest.last.upload.onprogress!({ loaded: 1, total: 4 });
    FakeRequest.last.upload.onprogress!({ loaded: 0, total: 0 });
    FakeRequest.last.end(200, { hash: 'a'.repeat(64), bytes: 5 });
    expect(await sent).toEqual({ hash: 'a'.repeat(64), bytes: 5 });
    expect(parts).toEqual([0.25, 0]);
  });

  it('that is too large throws the server’s sentence', async () => {
    const sent = api.upload(file, () => undefined, new AbortController().signal);
    FakeRequest.last.end(413, { title: 'file-too-large', status: 413, detail: 'The file is larger than 1 GB.' });
    await expect(sent).rejects.toThrow('The file is larger than 1 GB.');
  });

  it('ends where the user stops it, or the server is gone', async () => {
    const stop = new AbortController();
    const sent = api.upload(file, () => undefined, stop.signal);
    stop.abort();
    await expect(sent).rejects.toMatchObject({ name: 'AbortError' });
    const lost = api.upload(file, () => undefined, new AbortController().signal);
    FakeRequest.last.onerror();
    await expect(lost).rejects.toThrow(ServerLost);
  });
});
