// Runs in Node only.
import { createRequire } from 'node:module';
import { unzipSync } from 'fflate';
import { UserProblem } from '../document';
import type { Model, Unit } from './model';
import { UNITS } from './model';
import type { SourceFile } from './sources';

/** The part of the converter's interface that is used. */
interface Converter {
  FileList: new () => { AddFile(name: string, bytes: Uint8Array): void };
  ConvertFileList(
    files: object,
    format: string,
  ): {
    IsSuccess(): boolean;
    FileCount(): number;
    GetFile(k: number): { GetContent(): Uint8Array };
    GetErrorCode(): string;
  };
}

export type ForeignFormat = 'fbx' | 'dae' | '3mf';

export type ForeignModel = Pick<Model, 'unit' | 'unitReason' | 'up' | 'upReason' | 'notes'> & {
  glb: Uint8Array<ArrayBuffer>;
};

const NAMES: Record<ForeignFormat, string> = { fbx: 'FBX', dae: 'DAE', '3mf': '3MF' };

let converter: Promise<Converter> | null = null;

/**
 * Converts FBX, DAE and 3MF to GLB and finds out their units and axes, which the conversion leaves as they are.
 * @throws UserProblem `file-broken`
 */
export async function convertForeign(
  format: ForeignFormat,
  bytes: Uint8Array,
  name: string,
  companions: readonly SourceFile[],
): Promise<ForeignModel> {
  const broken = (why: string) =>
    new UserProblem(
      'file-broken',
      `"${name}" cannot be read as ${NAMES[format]}: ${why}. Export it again, best as GLB.`,
      422,
    );
  const said = { fbx: fbxSays, dae: daeSays, '3mf': packageSays }[format](bytes);
  converter ??= startConverter();
  const files = new (await converter).FileList();
  files.AddFile(`model.${format}`, bytes);
  for (const each of companions) files.AddFile(each.name, each.bytes);
  let glb: Uint8Array<ArrayBuffer>;
  try {
    const result = (await converter).ConvertFileList(files, 'glb2');
    if (!result.IsSuccess() || result.FileCount() === 0) throw broken('its data is damaged or cut off');
    glb = new Uint8Array(result.GetFile(0).GetContent());
  } catch (error) {
    if (error instanceof UserProblem) throw error;
    // The converter may have stopped in the middle: the next file gets a fresh one.
    converter = null;
    throw broken('its data makes the reader fail');
  }
  return { ...said, glb, notes: [] };
}

async function startConverter(): Promise<Converter> {
  const require = createRequire(import.meta.url);
  const start = require('assimpjs') as (options?: object) => Promise<Converter>;
  const silent = () => undefined;
  return start({ print: silent, printErr: silent });
}

type Said = Omit<ForeignModel, 'glb' | 'notes'>;

/** The unit whose length comes nearest, for files that name theirs by a number of metres. */
function unitOf(metres: number): Unit {
  const names = Object.keys(UNITS) as Unit[];
  const off = (unit: Unit) => Math.abs(Math.log((metres * 1000) / UNITS[unit]));
  return names.reduce((best, unit) => (off(unit) < off(best) ? unit : best));
}

/** FBX names centimetres a unit among its settings, as text or as a double behind the name. */
function fbxSays(bytes: Uint8Array): Said {
  const text = new TextDecoder('latin1').decode(bytes.subarray(0, 4_000_000));
  const at = text.indexOf('UnitScaleFactor');
  let centimetres = 1;
  if (at >= 0 && text.startsWith('; FBX')) {
    centimetres = Number(/UnitScaleFactor"[^\n]*?,\s*([-\d.eE+]+)\s*$/m.exec(text.slice(at, at + 200))?.[1] ?? 1);
  } else if (at >= 0) {
    // A record's doubles begin with the letter D; the names of its type come before.
    const mark = text.slice(at, at + 80).search(/D[^]{8}/);
    const number = text.indexOf('Number', at);
    const from = number > 0 && number - at < 60 ? text.indexOf('D', number + 6) : at + mark;
    if (from + 9 <= bytes.length) {
      centimetres = new DataView(bytes.buffer, bytes.byteOffset).getFloat64(from + 1, true);
    }
  }
  const sound = centimetres > 1e-4 && centimetres < 1e4;
  const unit = unitOf((sound ? centimetres : 1) / 100);
  return {
    unit,
    unitReason:
      at >= 0 && sound ? `The file states its unit, ${unit}.` : 'The file states no unit; FBX is most often in cm.',
    up: 'y',
    upReason: 'The file states its axes; they were turned to Y up.',
  };
}

/** The conversion turns DAE to metres and Y up by what the file states. */
function daeSays(bytes: Uint8Array): Said {
  const text = new TextDecoder('latin1').decode(bytes.subarray(0, 200_000));
  const stated = /<unit\b/.test(text);
  return {
    unit: 'm',
    unitReason: stated
      ? 'The file states its unit; it was converted.'
      : 'The file states no unit; DAE is in metres then.',
    up: 'y',
    upReason: 'The file states its axes; they were turned to Y up.',
  };
}

const PACKAGE_UNITS: Record<string, Unit> = {
  millimeter: 'mm',
  centimeter: 'cm',
  meter: 'm',
  inch: 'inch',
  foot: 'foot',
};

function packageSays(bytes: Uint8Array): Said {
  let text = '';
  try {
    const files = unzipSync(bytes, {
      filter: ({ name, originalSize }) => /\.model$/i.test(name) && originalSize < 5e8,
    });
    text = new TextDecoder().decode(Object.values(files)[0]?.subarray(0, 4096) ?? new Uint8Array());
  } catch {
    // The conversion says what is wrong with the file.
  }
  const unit = PACKAGE_UNITS[/<model\b[^>]*\bunit="(\w+)"/.exec(text)?.[1] ?? ''];
  return {
    unit: unit ?? 'mm',
    unitReason: unit ? `The file states its unit, ${unit}.` : 'The file states no unit; 3MF is in mm then.',
    up: 'z',
    upReason: '3MF is Z up by its standard.',
  };
}
