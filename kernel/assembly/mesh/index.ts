// Passes over the triangles and lines of files; see kernel/host/meshKernel.ts.
export { numberLines, numbersWritten, triangleLines } from './lines';
export { allNear, cornerAngles, directions, faceNormals, shellVolumes, sumNormals } from './normals';
export { eachAlone, joinAcross, joinCorners, joinSmooth, numberSets } from './sets';
export { countTo, findSides, likeTwins, markedSides, openSides, sidesAgree } from './sides';
export { gatherPlaces, lookedUp, ownVertices } from './vertices';
