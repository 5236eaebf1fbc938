import * as THREE from 'three';
import type { SketchMaterials } from './sketch-materials';
import { floorExamples } from './sketch-set';

/** Milliseconds after which the sketch is drawn though the graphics card does not say that all is ready. */
const PATIENCE = 4000;

/**
 * The shader programs of the sketch and its stills. Drawing with one that is not ready waits for the graphics card and holds up the
 * page meanwhile, so they are all made before anything is drawn.
 */
export class SketchPrograms {
  private readonly examples = new THREE.Group();
  private made = false;
  /** Fulfilled once all are ready. */
  readonly whenReady: Promise<void>;

  /** @param stills scene whose pictures go to memory instead of the canvas, which takes programs of its own */
  constructor(
    renderer: THREE.WebGLRenderer,
    materials: SketchMaterials,
    veil: THREE.Material,
    scenes: { sketch: THREE.Scene; stills: THREE.Scene },
  ) {
    // Programs live as long as a material that uses them: these stay, and those of parts find theirs.
    // What a geometry holds decides upon the program, too.
    const surface = new THREE.PlaneGeometry();
    const line = new THREE.BufferGeometry().setFromPoints([new THREE.Vector3(), new THREE.Vector3()]);
    this.examples.add(
      ...[...materials.examples(), ...floorExamples(), veil].map((material) => new THREE.Mesh(surface, material)),
      new THREE.LineSegments(line, new THREE.LineBasicMaterial()),
      new THREE.Line(line, new THREE.LineDashedMaterial({ transparent: true })),
    );
    const camera = new THREE.PerspectiveCamera();
    const memory = new THREE.WebGLRenderTarget(1, 1, { colorSpace: THREE.SRGBColorSpace });
    const began = [
      renderer.compileAsync(scenes.sketch, camera),
      renderer.compileAsync(this.examples, camera, scenes.sketch),
    ];
    renderer.setRenderTarget(memory);
    began.push(
      renderer.compileAsync(scenes.stills, camera),
      renderer.compileAsync(this.examples, camera, scenes.stills),
    );
    renderer.setRenderTarget(null);
    const patience = new Promise((resolve) => setTimeout(resolve, PATIENCE));
    this.whenReady = Promise.race([Promise.all(began), patience]).then(() => {
      // Later, the answers would come behind all that the card has been given by then.
      for (const program of renderer.info.programs ?? []) {
        program.getUniforms();
        program.getAttributes();
      }
      this.made = true;
      memory.dispose();
    });
  }

  get ready(): boolean {
    return this.made;
  }
}
