import type { Camera, Finish, Light, ProjectDocument, SceneNode, StudioSet } from '../document';
import type { Quaternion } from '../geometry';

/** The document as one moment shows it: every property at its value, and what moves add to places. */
export interface SceneState {
  nodes: Record<string, SceneNode>;
  finishes: Record<string, Finish>;
  lights: Record<string, Light>;
  cameras: Record<string, Camera>;
  set: StudioSet;
  /** Turns that moves add to nodes, in the space of the node's parent. */
  spins: Map<string, Quaternion>;
}

/** The document at rest, in no shot. Its records are the state's own, what they hold is the document's. */
export const restingState = ({ nodes, finishes, lights, cameras, set }: ProjectDocument): SceneState => ({
  nodes: { ...nodes },
  finishes: { ...finishes },
  lights: { ...lights },
  cameras: { ...cameras },
  set,
  spins: new Map(),
});
