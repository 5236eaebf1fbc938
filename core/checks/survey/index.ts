export { fitShot, type FitBy } from './fit';
export { surveyShot, type ShotFault, type ShotFaultKind, type Shapes, type Surveyed } from './surveyShot';
