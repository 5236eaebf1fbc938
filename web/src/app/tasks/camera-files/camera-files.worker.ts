/// <reference lib="webworker" />
import { expose } from 'comlink';
import { fileName } from '@zippy/core/develop';
import type { Camera, Key, ProjectDocument } from '@zippy/core/document';
import {
  cameraOfSamples,
  packPosesColmap,
  readCameraCsv,
  readColmap,
  sampleCamera,
  writeCameraCsv,
  writeCameraGlb,
  writePosesJson,
  type CameraSample,
  type PosedPictures,
} from '@zippy/core/intake';
import { rateOf } from '@zippy/core/motion';

/** A camera of a file, the keys by which it moves, and how many frames they take. */
export interface CameraRead {
  camera: Camera;
  tracks: Record<string, Key[]>;
  frames: number;
}

/** Poses of a camera in a shot, and what the pictures of its frames are called. */
export interface PosesAsked {
  document: ProjectDocument;
  shot: string;
  camera: string;
  /** How large the pictures are, and the number of the take that they are of. */
  width: number;
  height: number;
  take: number;
}

function posed({ document, shot, camera, width, height, take }: PosesAsked): [CameraSample[], PosedPictures] {
  const own = document.shots[shot]!;
  const named = { project: document.name, shot: own.name, take, width, height };
  const file = ({ frame }: CameraSample) => `images/${fileName(document.settings.fileNames, { ...named, frame })}.png`;
  return [sampleCamera(document, own, camera), { width, height, file }];
}

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
  poses(asked: PosesAsked): string {
    return writePosesJson(...posed(asked));
  },
  colmap(asked: PosesAsked): Uint8Array<ArrayBuffer> {
    return packPosesColmap(...posed(asked));
  },
  colmapCamera(files: { cameras: string; images: string }, unit: number, name: string): CameraRead {
    const samples = readColmap(files, unit);
    return { ...cameraOfSamples(samples, name), frames: samples.at(-1)!.frame };
  },
  read(text: string, name: string): CameraRead {
    const samples = readCameraCsv(text);
    return { ...cameraOfSamples(samples, name), frames: samples.at(-1)!.frame };
  },
};

export type CameraFilesThread = typeof thread;

expose(thread);
