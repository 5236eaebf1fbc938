/** Most that a document holds. */
export const LIMITS = {
  parts: 20_000,
  /** Copies of one node. */
  copies: 10_000,
  finishesOfCopies: 32,
  shots: 500,
  framesPerShot: 100_000,
  keysPerTrack: 10_000,
  mapsPerFinish: 64,
  labelsPerPart: 16,
  shadesOfMap: 16,
  footageFrames: 1500,
  /** Of a move: parts that it takes apart, viewpoints, stops, and changes of a switch. */
  exploded: 5000,
  stations: 200,
  stops: 64,
  switches: 2000,
  /** On the reel: clips, and titles and sounds; letters of one title. */
  clips: 2000,
  overFilm: 500,
  titleLetters: 2000,
  nameLength: 200,
  coordinate: 1e7,
} as const;
