/// <reference lib="webworker" />
import { expose } from 'comlink';
import type { Camera, Key, ProjectDocument } from '@zippy/core/document';
import { cameraOfSamples, readCameraCsv, sampleCamera, writeCameraCsv, writeCameraGlb } from '@zippy/core/intake';
import { rateOf } from '@zippy/core/motion';

/** What the page asks of the thread that writes and reads cameras. */
const thread = {
  csv: (document: ProjectDocument, shot: string, camera: string): string =>
    writeCameraCsv(sampleCamera(document, document.shots[shot]!, camera)),
  glb(document: ProjectDocument, shot: string, camera: string): Promise<Uint8Array<ArrayBuffer>> {
    const own = document.shots[shot]!;
    const { width, height } = own.picture ?? document.picture;
    const samples = sampleCamera(document, own, camera);
    return writeCameraGlb(samples, document.cameras[camera]!.name, rateOf(document.frameRate), width / height);
  },
  read(text: string, name: string): { camera: Camera; tracks: Record<string, Key[]>; frames: number } {
    const samples = readCameraCsv(text);
    return { ...cameraOfSamples(samples, name), frames: samples.at(-1)!.frame };
  },
};

export type CameraFilesThread = typeof thread;

expose(thread);
