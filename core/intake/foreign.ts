// Runs in Node only.
import { createRequire } from 'node:module';
import { UserProblem } from '../document';
import type { Model, Unit } from './model';
import { UNITS } from './model';
import { checkPackage } from './packageClaims';

/** The part of the converter's interface that is used. */
interface Converter {
  FileList: new () => { AddFile(name: string, bytes: Uint8Array): void; delete(): void };
  ConvertFileList(
    files: object,
    format: string,
  ): {
    IsSuccess(): boolean;
    FileCount(): number;
    GetFile(k: number): { GetContent(): Uint8Array };
    GetErrorCode(): string;
    delete(): void;
  };
}

export type ForeignFormat = 'fbx' | 'dae' | '3mf';

export interface ForeignModel {
  /** What the file says of itself, or is taken to say. */
  said: Pick<Model, 'unit' | 'unitReason' | 'up' | 'upReason'>;
  /** Units that a length of 1 in the file is. */
  scale: number;
  glb: Uint8Array<ArrayBuffer>;
  /** Cameras and lights in the converter's own form, where there may be some. */
  along: string | null;
  notes: string[];
}

const NAMES: Record<ForeignFormat, string> = { fbx: 'FBX', dae: 'DAE', '3mf': '3MF' };

let converter: Promise<Converter> | null = null;

/**
 * Converts FBX, DAE and 3MF to GLB and finds out their units and axes, which the conversion leaves as they are. Pictures stay
 * outside, under the names the file gives them.
 * @throws UserProblem `file-broken`
 */
export async function convertForeign(format: ForeignFormat, bytes: Uint8Array, name: string): Promise<ForeignModel> {
  const broken = (why: string) =>
    new UserProblem(
      'file-broken',
      `"${name}" cannot be read as ${NAMES[format]}: ${why}. Export it again, best as GLB.`,
      422,
    );
  const { scale = 1, ...said } = { fbx: fbxSays, dae: daeSays, '3mf': packageSays }[format](bytes, name);
  let glb: Uint8Array<ArrayBuffer>;
  try {
    glb = await convert(format, bytes, 'glb2', broken);
  } catch (error) {
    throw error instanceof UserProblem ? error : broken('its data makes the reader fail');
  }
  const notes: string[] = [];
  let along: string | null = null;
  if (mentionsCameras(format, bytes)) {
    // The form that tells of them tells of all triangles in words, too.
    if (bytes.length > MOST_FOR_ALONG) notes.push('Cameras and lights were left out, as the file is large.');
    else
      along = await convert(format, bytes, 'assjson', broken).then(
        (text) => new TextDecoder().decode(text),
        () => null,
      );
  }
  return { said, scale, glb, along, notes };
}

/** Bytes of a file beyond which its cameras and lights are not asked for. */
const MOST_FOR_ALONG = 50_000_000;

/** Whether a file says that it has cameras or lights. */
function mentionsCameras(format: ForeignFormat, bytes: Uint8Array): boolean {
  if (format === '3mf') return false;
  // Of a file too large to be asked, its beginning tells enough; all of it may be longer than a text can be.
  const text = new TextDecoder('latin1').decode(bytes.subarray(0, MOST_FOR_ALONG));
  if (format === 'dae') return /<instance_(camera|light)\b/.test(text);
  return (
    /NodeAttribute::[^"]*", "(Camera|Light)"/.test(text) ||
    ['Camera', 'Light'].some((kind) => text.includes(binaryString(kind)))
  );
}

/** A string as binary FBX has it: the letter S, its length in four bytes, and its characters. */
const binaryString = (text: string): string => `S${String.fromCharCode(text.length)}\0\0\0${text}`;

async function convert(
  format: ForeignFormat,
  bytes: Uint8Array,
  to: 'glb2' | 'assjson',
  broken: (why: string) => UserProblem,
): Promise<Uint8Array<ArrayBuffer>> {
  converter ??= startConverter();
  const started = await converter;
  try {
    const files = new started.FileList();
    files.AddFile(`model.${format}`, bytes);
    const result = started.ConvertFileList(files, to);
    files.delete();
    if (result.GetErrorCode() === 'export_error')
      throw broken('it holds something that cannot be carried over, mostly motion');
    if (!result.IsSuccess() || result.FileCount() === 0) throw broken('its data is damaged or cut off');
    const content = new Uint8Array(result.GetFile(0).GetContent());
    result.delete();
    return content;
  } catch (error) {
    // The converter may have stopped in the middle: the next file gets a fresh one.
    if (!(error instanceof UserProblem)) converter = null;
    throw error;
  }
}

async function startConverter(): Promise<Converter> {
  const require = createRequire(import.meta.url);
  const start = require('assimpjs') as (options?: object) => Promise<Converter>;
  const silent = () => undefined;
  return start({ print: silent, printErr: silent });
}

type Said = ForeignModel['said'] & { scale?: number };

/** The unit whose length comes nearest, for files that name theirs by a number of metres. */
function unitOf(metres: number): Unit {
  const names = Object.keys(UNITS) as Unit[];
  const off = (unit: Unit) => Math.abs(Math.log((metres * 1000) / UNITS[unit]));
  return names.reduce((best, unit) => (off(unit) < off(best) ? unit : best));
}

/** FBX names centimetres a unit and the axis that points up among its settings; the conversion minds neither. */
export function fbxSays(bytes: Uint8Array): Said {
  const text = new TextDecoder('latin1').decode(bytes.subarray(0, 4_000_000));
  const centimetres = fbxSetting(text, bytes, 'UnitScaleFactor');
  const sound = centimetres !== null && centimetres > 1e-4 && centimetres < 1e4;
  const millimetres = (sound ? centimetres : 1) * 10;
  const unit = unitOf(millimetres / 1000);
  const up = (['x', 'y', 'z'] as const)[fbxSetting(text, bytes, 'UpAxis') ?? -1];
  const scale = millimetres / UNITS[unit];
  return {
    unit,
    scale,
    unitReason: !sound
      ? 'The file states no unit; FBX is most often in cm.'
      : Math.abs(scale - 1) < 1e-6
        ? `The file states its unit, ${unit}.`
        : `The file states a unit of ${Number(millimetres.toPrecision(4))} mm; it was converted.`,
    up: up ?? 'y',
    upReason: up
      ? `The file states that ${up.toUpperCase()} is up.`
      : 'The file states no axis; FBX is most often Y up.',
  };
}

/**
 * A number among the settings of an FBX file: as text, or behind its name and its type's names as a double or whole number.
 * @param text of the file, a character a byte
 */
function fbxSetting(text: string, bytes: Uint8Array, name: string): number | null {
  if (text.startsWith('; FBX')) {
    const line = new RegExp(`"${name}"[^\\n]*?,\\s*([-\\d.eE+]+)\\s*$`, 'm').exec(text);
    return line ? Number(line[1]) : null;
  }
  let at = text.indexOf(binaryString(name));
  if (at < 0) return null;
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  while (text[at] === 'S' && at + 5 < bytes.length) at += 5 + view.getUint32(at + 1, true);
  if (text[at] === 'D' && at + 9 <= bytes.length) return view.getFloat64(at + 1, true);
  if (text[at] === 'I' && at + 5 <= bytes.length) return view.getInt32(at + 1, true);
  return null;
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

/** The units of the 3MF core specification, section 3.4.1; a thousandth of a millimetre is no unit of ours. */
const PACKAGE_UNITS: Record<string, { unit: Unit; scale: number }> = {
  micron: { unit: 'mm', scale: 0.001 },
  millimeter: { unit: 'mm', scale: 1 },
  centimeter: { unit: 'cm', scale: 1 },
  meter: { unit: 'm', scale: 1 },
  inch: { unit: 'inch', scale: 1 },
  foot: { unit: 'foot', scale: 1 },
};

function packageSays(bytes: Uint8Array, file: string): Said {
  const text = checkPackage(bytes, file).slice(0, 4096);
  const name = /<model\b[^>]*\bunit="(\w+)"/.exec(text)?.[1] ?? '';
  const stated = PACKAGE_UNITS[name];
  return {
    unit: stated?.unit ?? 'mm',
    scale: stated?.scale ?? 1,
    unitReason: stated ? `The file states its unit, ${name}.` : 'The file states no unit; 3MF is in mm then.',
    up: 'z',
    upReason: '3MF is Z up by its standard.',
  };
}
