import { TestBed } from '@angular/core/testing';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import type { ProjectDocument } from '@zippy/core/document';
import { cameraOfSamples, readCameraCsv, readColmap, sampleCamera, writeCameraCsv } from '@zippy/core/intake';
import { openStudio } from '../../../testing/studioBed';
import { Ask } from '../../ui/ask/ask';
import { Notices } from '../../store/notices';
import type { Studio } from '../../store/studio';
import { CAMERA_FILES_THREAD, CameraFiles } from './camera-files';

let studio: Studio;
let files: CameraFiles;
const thread = {
  csv: (document: ProjectDocument, shot: string, camera: string) =>
    writeCameraCsv(sampleCamera(document, document.shots[shot]!, camera)),
  glb: () => Promise.resolve(new Uint8Array([1])),
  colmapCamera(files: { cameras: string; images: string }, unit: number, name: string) {
    const samples = readColmap(files, unit);
    return { ...cameraOfSamples(samples, name), frames: samples.at(-1)!.frame };
  },
  read(text: string, name: string) {
    const samples = readCameraCsv(text);
    return { ...cameraOfSamples(samples, name), frames: samples.at(-1)!.frame };
  },
};
const table = (text: string, name = 'Tracked.csv') => [new File([text], name)];

beforeEach(() => {
  studio = openStudio({}, [{ provide: CAMERA_FILES_THREAD, useValue: () => thread }]);
  files = TestBed.inject(CameraFiles);
});

describe('a camera of a file', () => {
  it('takes the present shot, moves in it by keys, and is undone in one step', async () => {
    await files.read(table('frame,x,y,z,qx,qy,qz,qw,focal_mm\n1,0,0,500,0,0,0,1,35\n48,100,0,500,0,0,0,1,35'));
    const camera = studio.document().cameras[studio.shot()!.camera!]!;
    expect(camera).toMatchObject({ name: 'Tracked', focalLength: 35, position: [0, 0, 500] });
    expect(Object.keys(studio.shot()!.tracks)).toEqual([
      `cameras/${camera.id}/position`,
      `cameras/${camera.id}/target`,
    ]);
    expect(studio.primary()).toEqual({ kind: 'camera', id: camera.id });
    studio.undo();
    expect(studio.shot()!.camera).toBe('eye');
    expect(studio.shot()!.tracks).toEqual({});
  });

  it('that is longer than the shot says so, and one that cannot be read changes nothing', async () => {
    const notices = TestBed.inject(Notices);
    await files.read(table('frame,x,y,z,qx,qy,qz,qw\n1,0,0,500,0,0,0,1\n90,1,0,500,0,0,0,1'));
    expect(notices.news()).toContain('up to frame 90; this shot ends at 48');
    const before = studio.document();
    await files.read(table('shopping list\nmilk'));
    expect(notices.notice()).toContain('has no columns frame');
    expect(studio.document()).toBe(before);
  });

  it('of COLMAP comes from two files, in a size that is asked for', async () => {
    const cameras = new File(['1 PINHOLE 1280 720 1600 1600 640 360'], 'cameras.txt');
    const images = new File(['1 1 0 0 0 0 0 2 1 a1.png\n\n2 1 0 0 0 -1 0 2 1 a2.png\n'], 'images.txt');
    const notices = TestBed.inject(Notices);
    const before = studio.document();
    await files.read([images]);
    expect(notices.notice()).toContain('choose cameras.txt and images.txt together');
    const ask = TestBed.inject(Ask);
    const answer = async (text: string | null) => {
      await vi.waitFor(() => expect(ask.question()).not.toBeNull());
      ask.question()!.answer(text);
    };
    await Promise.all([files.read([images, cameras]), answer(null)]);
    await Promise.all([files.read([images, cameras]), answer('a lot')]);
    expect(notices.notice()).toContain('is no length in millimetres');
    expect(studio.document()).toBe(before);
    await Promise.all([files.read([cameras, images]), answer('250')]);
    const camera = studio.document().cameras[studio.shot()!.camera!]!;
    expect(camera.focalLength).toBeCloseTo(45, 6);
    expect(studio.shot()!.tracks[`cameras/${camera.id}/position`]).toHaveLength(2);
    studio.undo();
    expect(studio.shot()!.camera).toBe('eye');
  });

  it('is saved under its name', async () => {
    const made: string[] = [];
    vi.stubGlobal('URL', { createObjectURL: () => 'blob:1', revokeObjectURL: () => undefined });
    const click = vi.spyOn(HTMLAnchorElement.prototype, 'click').mockImplementation(function (this: HTMLAnchorElement) {
      made.push(this.download);
    });
    await files.save('eye', 'csv');
    await files.save('eye', 'glb');
    expect(made).toEqual(['Eye.csv', 'Eye.glb']);
    click.mockRestore();
    vi.unstubAllGlobals();
  });
});
