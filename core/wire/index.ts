export { serverEventSchema, type ServerEvent } from './events';
export { FILES, type KeptPicture, type StoredFile } from './files';
export { FINISHES, type FinishForm, type ReadFinishes } from './finishes';
export { FILMS, OVER_FILM, type Film, type FilmState } from './films';
export { FOOTAGE, footageNewsSchema, type FootageJob, type FootageNews, type ReadFootage } from './footage';
export { KEPT, type KeptFinish } from './kept';
export {
  MODELS,
  readerAnswerSchema,
  type AcceptedModel,
  type Comparison,
  type ImportJob,
  type ReaderAnswer,
  type RebuiltModel,
} from './models';
export { problemSchema, type Problem } from './problem';
export { PROJECTS, type OpenProject, type ProjectEntry, type VersionEntry } from './projects';
export { addressOf, type ParametersOf, type Route } from './route';
export { SERVER, type ServerState } from './server';
export { LAYER_RANGE, TAKES, type Disk, type Foreseen, type Take, type TakeState } from './takes';
export {
  encodingSchema,
  planAnswerSchema,
  traceAnswerSchema,
  type Encoding,
  type PlanAnswer,
  type TraceAnswer,
} from './work';
