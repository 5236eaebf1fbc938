/// <reference lib="webworker" />
import { expose } from 'comlink';
import {
  pictureFiles,
  tracedFile,
  UserProblem,
  type Camera,
  type Key,
  type ProjectDocument,
  type Vector3,
} from '@zippy/core/document';
import { quaternionFromFrame, scale } from '@zippy/core/geometry';
import { cameraOfSamples, type CameraSample } from '@zippy/core/intake';
import { evaluate } from '@zippy/core/motion';
import {
  fromDirections,
  fromRectangle,
  greyOf,
  snapToCorner,
  solveMotion,
  trackClip,
  type DirectionMarks,
  type Grey,
  type Pinhole,
  type RectangleMarks,
  type Sight,
} from '@zippy/core/solve';
import { blobUrl } from '../../api/urls';

/** A clip whose camera is looked for. */
export interface ClipAsked {
  document: ProjectDocument;
  shot: string;
  /** On which the rectangle was marked. */
  frame: number;
  /** Of the film's picture. */
  aspect: number;
  /** Corners of the rectangle on that frame, and where they stand. */
  corners: { seen: Sight; place: Vector3 }[];
  camera: Pinhole;
  /** Whether the focal length is looked for too. */
  lens: boolean;
  sensorWidth: number;
  focusDistance: number;
  name: string;
}

/** The camera that marks tell, or why they tell none. */
export type Found =
  { camera: Pinhole; width: number; depth: number; miss: number; problem: null } | { camera: null; problem: string };

/** What is marked: a rectangle on the ground, or edges that run in two of its directions. */
export type StillAsked = ({ kind: 'rectangle' } & RectangleMarks) | ({ kind: 'directions' } & DirectionMarks);

export interface ClipSolved {
  camera: Camera;
  tracks: Record<string, Key[]>;
  /** Of each frame of the shot, in half widths; null without a camera. */
  misses: (number | null)[];
  miss: number;
  /** Points that were followed and stand still. */
  points: number;
}

/** Pictures are looked at so wide at most, in pixels. */
const MOST_WIDTH = 960;

const thread = {
  still(asked: StillAsked): Found {
    try {
      if (asked.kind === 'rectangle') return { ...fromRectangle(asked), problem: null };
      return { camera: fromDirections(asked), width: 0, depth: 0, miss: 0, problem: null };
    } catch (error) {
      if (error instanceof UserProblem) return { camera: null, problem: error.message };
      throw error;
    }
  },

  /** The camera that moves as that of the clip did. */
  async solve(asked: ClipAsked, told: (done: number, of: number) => void): Promise<ClipSolved> {
    const { document, shot, frame, aspect } = asked;
    const start = frame - 1;
    const own = document.shots[shot]!;
    const files = pictureFiles(document.assets);
    /** Pixels of the picture for each half width of the film's frame, and how its pixels are its sights. */
    let across = 1;
    let size = { width: 1, height: 1 };
    // Frames of a shot count from 1.
    const read = async (index: number): Promise<Grey | null> => {
      const { plate } = evaluate(document, own, index + 1).set.behind;
      const file = plate === null ? undefined : files[plate];
      if (!file) return null;
      const answer = await fetch(blobUrl(tracedFile(file)));
      if (!answer.ok) return null;
      const picture = await createImageBitmap(await answer.blob());
      const by = Math.min(1, MOST_WIDTH / picture.width);
      size = { width: Math.round(picture.width * by), height: Math.round(picture.height * by) };
      // As much of the plate as fills the frame.
      across = (size.width * Math.min(1, aspect / (picture.width / picture.height))) / 2;
      const context = new OffscreenCanvas(size.width, size.height).getContext('2d', { willReadFrequently: true })!;
      context.drawImage(picture, 0, 0, size.width, size.height);
      return greyOf(context.getImageData(0, 0, size.width, size.height).data, size.width, size.height);
    };
    const first = await read(start);
    const spotOf = ([x, y]: Sight) => ({ x: size.width / 2 + x * across - 0.5, y: size.height / 2 - y * across - 0.5 });
    const sightOf = ({ x, y }: { x: number; y: number }): Sight => [
      (x + 0.5 - size.width / 2) / across,
      (size.height / 2 - y - 0.5) / across,
    ];
    const frames = own.length;
    const marks = asked.corners.map(({ seen }) => (first ? snapToCorner(first, spotOf(seen)) : spotOf(seen)));
    const spots = await trackClip(read, frames, start, marks, (done) => told(done, frames)); // prettier-ignore
    const tracks = spots.map((track, k) => ({
      place: asked.corners[k]?.place ?? null,
      sights: track.map((spot) => spot && sightOf(spot)),
    }));
    const solved = solveMotion(tracks, { frame: start, camera: asked.camera }, asked.lens);
    const samples = solved.cameras.flatMap((camera, index): CameraSample[] =>
      camera
        ? [
            {
              frame: index + 1,
              position: [...camera.position],
              turn: [...quaternionFromFrame(camera.right, camera.up, scale(camera.forward, -1))],
              focalLength: (camera.focal * asked.sensorWidth) / 2,
              sensorWidth: asked.sensorWidth,
              focusDistance: asked.focusDistance,
              fStop: 0,
            },
          ]
        : [],
    );
    return {
      ...cameraOfSamples(samples, asked.name),
      misses: solved.misses,
      miss: solved.miss,
      points: solved.places.filter((place) => place !== null).length,
    };
  },
};

export type MatchThread = typeof thread;

expose(thread);
