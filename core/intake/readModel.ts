// Runs in Node only: the readers of packages it starts are no part of the page.
import { readFile } from 'node:fs/promises';
import { createRequire } from 'node:module';
import { UserProblem } from '../document';
import { withoutByteOrderMark } from './byteOrder';
import { readCad, type CadKernel, type Tessellation } from './cad';
import { startCadKernel } from './cadKernel';
import { tidyConverted } from './converted';
import { convertForeign } from './foreign';
import { readForeignAlong } from './foreignAlong';
import { detectFormat } from './format';
import { readMaterialX, type FinishFile } from './materialX';
import { readGlb, type MeshDecoders } from './glb';
import { UNITS, type Model } from './model';
import { namedMaterials, readObj } from './obj';
import { readPly } from './ply';
import { isPictureName, type SourceFile } from './sources';
import { readStl } from './stl';

const require = createRequire(import.meta.url);

/** Reads files of every format; keeps what takes long to start. */
export class ModelReader {
  private cad: Promise<CadKernel> | null = null;
  /** Whether a kernel was broken by a file: its memory comes back with the thread only. */
  spent = false;
  private decoders: Promise<MeshDecoders> | null = null;

  /** Starts what reading a file needs and is not there yet. */
  async warmUp({ bytes, name }: SourceFile): Promise<void> {
    const format = detectFormat(withoutByteOrderMark(bytes), name);
    if (format === 'step' || format === 'iges' || format === 'brep') await this.startCad();
    if (format === 'glb' || format === 'gltf') await this.startDecoders();
  }

  /**
   * Reads a file with what came along. Solids are read in one go, which a damaged file can keep from ever ending: whoever calls
   * looks at the clock and ends the thread.
   * @throws UserProblem that says what is wrong with it
   */
  async read(source: SourceFile, companions: readonly SourceFile[], tessellation: Tessellation): Promise<Model> {
    const { name } = source;
    const bytes = withoutByteOrderMark(source.bytes);
    const format = detectFormat(bytes, name);
    switch (format) {
      case 'step':
      case 'iges':
      case 'brep':
        return this.readSolids(format, bytes, name, tessellation);
      case 'stl':
        return readStl(bytes, name);
      case 'ply':
        return readPly(bytes, name);
      case 'obj': {
        const mtl = namedMaterials(bytes, companions);
        const pictures = companions.filter((each) => isPictureName(each.name));
        return readObj(bytes, name, mtl ? new TextDecoder().decode(withoutByteOrderMark(mtl.bytes)) : null, pictures);
      }
      case 'glb':
      case 'gltf':
        return readGlb(bytes, name, companions, await this.startDecoders());
      case 'fbx':
      case 'dae':
      case '3mf': {
        const { glb, said, scale, along, notes } = await convertForeign(format, bytes, name);
        const model = await readGlb(glb, name, companions);
        const seen = along === null ? {} : readForeignAlong(along, model, UNITS[said.unit] * scale);
        const whole = { ...model, along: { cameras: [], lights: [], motion: [], ...model.along, ...seen } };
        return { ...tidyConverted(whole, scale), ...said, notes: [...model.notes, ...notes] };
      }
      case 'zip':
        throw new UserProblem('file-archive', `"${name}" is an archive; drop it on the page to unpack it.`, 422);
    }
  }

  /**
   * Reads the finishes of a MaterialX or glTF file; parts that a glTF file holds are left where they are.
   * @throws UserProblem that says what is wrong with it
   */
  async readFinishes({ name, bytes }: SourceFile, companions: readonly SourceFile[]): Promise<FinishFile> {
    const text = withoutByteOrderMark(bytes);
    if (new TextDecoder('latin1').decode(text.subarray(0, 64)).trimStart().startsWith('<'))
      return readMaterialX(text, name, companions);
    const format = detectFormat(text, name);
    if (format !== 'glb' && format !== 'gltf')
      throw new UserProblem(
        'format-unknown',
        `"${name}" holds no finishes. Choose a MaterialX, GLB or glTF file.`,
        415,
      );
    const { finishes, pictures, notes } = await readGlb(text, name, companions, await this.startDecoders());
    if (finishes.length === 0)
      throw new UserProblem(
        'file-empty',
        `"${name}" holds no finishes. Choose a file whose parts wear materials.`,
        422,
      );
    return { finishes, pictures, notes };
  }

  private async readSolids(
    format: 'step' | 'iges' | 'brep',
    bytes: Uint8Array,
    name: string,
    tessellation: Tessellation,
  ): Promise<Model> {
    const cad = await this.startCad();
    try {
      return readCad(cad, format, bytes, name, tessellation);
    } catch (error) {
      if (error instanceof UserProblem) throw error;
      // What the kernel throws are numbers, and it may not be whole any more: the next file gets a fresh one.
      this.cad = null;
      this.spent = true;
      throw new UserProblem(
        'file-broken',
        `"${name}" could not be read to its end; its data is damaged. Export it again, perhaps in another format.`,
        422,
      );
    }
  }

  private startCad(): Promise<CadKernel> {
    this.cad ??= readFile(require.resolve('opencascade.js/dist/opencascade.full.wasm'))
      .then(startCadKernel)
      .catch((error: unknown) => {
        this.cad = null;
        throw error;
      });
    return this.cad;
  }

  private startDecoders(): Promise<MeshDecoders> {
    this.decoders ??= (async () => {
      const { MeshoptDecoder } = await import('meshoptimizer');
      await MeshoptDecoder.ready;
      const draco = require('draco3dgltf') as { createDecoderModule(): Promise<unknown> };
      return { 'meshopt.decoder': MeshoptDecoder, 'draco3d.decoder': await draco.createDecoderModule() };
    })();
    return this.decoders;
  }
}
