import type { TriangleMesh } from '@zippy/core/geometry';

type Answer = { url: string; meshes?: TriangleMesh[]; failure?: string };

/** Models by content hash, read in a worker, each once. */
export class MeshLibrary {
  private readonly worker = new Worker(new URL('./meshes.worker', import.meta.url), { type: 'module' });
  private readonly models = new Map<string, Promise<TriangleMesh[]>>();
  private readonly waiting = new Map<
    string,
    { resolve: (meshes: TriangleMesh[]) => void; reject: (error: Error) => void }
  >();

  constructor() {
    this.worker.onmessage = ({ data }: MessageEvent<Answer>) => {
      const waiting = this.waiting.get(data.url);
      this.waiting.delete(data.url);
      if (data.meshes) waiting?.resolve(data.meshes);
      else waiting?.reject(new Error(`The model could not be shown: ${data.failure}. Reload the page.`));
    };
  }

  load(asset: string): Promise<TriangleMesh[]> {
    let model = this.models.get(asset);
    if (!model) {
      const url = `/api/blobs/${asset}`;
      model = new Promise((resolve, reject) => this.waiting.set(url, { resolve, reject }));
      model.catch(() => this.models.delete(asset));
      this.models.set(asset, model);
      this.worker.postMessage({ url });
    }
    return model;
  }

  dispose(): void {
    this.worker.terminate();
  }
}
