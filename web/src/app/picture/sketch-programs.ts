import * as THREE from 'three';

/** Milliseconds after which the sketch is drawn though the graphics card does not say that all is ready. */
const PATIENCE = 4000;

/** Materials that are drawn, by where they are drawn to: light in memory, pictures in memory, the canvas. */
export interface Drawn {
  light: readonly THREE.Material[];
  memory: readonly THREE.Material[];
  canvas: readonly THREE.Material[];
}

/**
 * The shader programs of the sketch and its stills. Drawing with one that is not ready waits for the graphics card and holds up the
 * page meanwhile, so they are all made before anything is drawn.
 */
export class SketchPrograms {
  private made = false;
  /** Fulfilled once all are ready. */
  readonly whenReady: Promise<void>;

  constructor(renderer: THREE.WebGLRenderer, { light, memory, canvas }: Drawn) {
    // Programs live as long as a material that uses them: these stay, and those of parts find theirs.
    // What a geometry holds decides upon the program, too.
    const surface = new THREE.PlaneGeometry();
    const line = new THREE.BufferGeometry().setFromPoints([new THREE.Vector3(), new THREE.Vector3()]);
    const camera = new THREE.PerspectiveCamera();
    const group = (materials: readonly THREE.Material[]) =>
      new THREE.Group().add(...materials.map((material) => new THREE.Mesh(surface, material)));
    const lines = new THREE.Group().add(
      new THREE.LineSegments(line, new THREE.LineBasicMaterial()),
      new THREE.Line(line, new THREE.LineDashedMaterial({ transparent: true })),
    );
    const targets = [
      { to: new THREE.WebGLRenderTarget(1, 1, { type: THREE.HalfFloatType }), draw: [group(light)] },
      { to: new THREE.WebGLRenderTarget(1, 1), draw: [group(memory)] },
      { to: null, draw: [group(canvas), lines] },
    ];
    const began = targets.flatMap(({ to, draw }) => {
      renderer.setRenderTarget(to);
      return draw.map((each) => renderer.compileAsync(each, camera));
    });
    renderer.setRenderTarget(null);
    const patience = new Promise((resolve) => setTimeout(resolve, PATIENCE));
    this.whenReady = Promise.race([Promise.all(began), patience]).then(() => {
      // Later, the answers would come behind all that the card has been given by then.
      for (const program of renderer.info.programs ?? []) {
        program.getUniforms();
        program.getAttributes();
      }
      this.made = true;
      for (const { to } of targets) to?.dispose();
    });
  }

  get ready(): boolean {
    return this.made;
  }
}
