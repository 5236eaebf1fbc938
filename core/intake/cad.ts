import { UserProblem, type Recipe } from '../document';
import { IDENTITY, multiplyTransforms, smoothNormals, type Transform, type TriangleMesh } from '../geometry';
import { colorFinish, UNITS, type Model, type ModelFinish, type ModelNode } from './model';

/* The CAD kernel's bindings are numbered overloads without useful types. */
/* eslint-disable @typescript-eslint/no-explicit-any */
export type CadKernel = any;

/** How finely curved faces are cut into triangles. */
export interface Tessellation {
  /** Largest distance from the true surface, millimetres. */
  chord: number;
  /** Largest angle between neighbouring triangles, radians. */
  angle: number;
}

/** Ready choices of tessellation. */
export const TESSELLATIONS: Readonly<Record<'draft' | 'normal' | 'fine', Tessellation>> = {
  draft: { chord: 0.3, angle: 0.52 },
  normal: { chord: 0.08, angle: 0.27 },
  fine: { chord: 0.02, angle: 0.14 },
};

/** A recipe's tessellation in the lengths of a file that says millimetres: what was typed is meant at the product's true size. */
export const fileTessellation = ({
  chord,
  angle,
  unit,
  scale,
}: Pick<Recipe, 'chord' | 'angle' | 'unit' | 'scale'>): Tessellation => ({
  chord: chord / (UNITS[unit] * scale),
  angle,
});

/** A model's largest extent over the chord, at least: also small ones are round. */
const COARSEST = 250;
/** The same at most, where a model is larger than any product, in millimetres, so that its unit must be wrong. */
const FINEST = { over: 10_000, extents: 10_000 };

export type CadFormat = 'step' | 'iges' | 'brep';

/**
 * Reads a file of solids with its whole assembly tree: instances share one mesh, names and colours stay with their parts,
 * and faces of another colour become parts of their own.
 * @param cad a started CAD kernel with its file system
 * @throws UserProblem `file-broken` or `model-empty`
 */
export function readCad(
  cad: CadKernel,
  format: CadFormat,
  bytes: Uint8Array,
  name: string,
  tessellation: Tessellation = TESSELLATIONS.normal,
): Model {
  const document = new cad.TDocStd_Document(new cad.TCollection_ExtendedString_1());
  const handle = new cad.Handle_TDocStd_Document_2(document);
  const path = `/intake.${format}`;
  cad.FS.writeFile(path, bytes);
  try {
    if (format === 'brep') readBrep(cad, document, path, name);
    else readExchange(cad, handle, format, path, name);
    return new CadTree(cad, document, format, name, tessellation).read();
  } finally {
    cad.FS.unlink(path);
    handle.delete();
  }
}

const broken = (name: string, format: string) =>
  new UserProblem(
    'file-broken',
    `"${name}" is not a complete ${format} file. It may have been cut off on its way; export it again.`,
    422,
  );

function readExchange(cad: CadKernel, document: any, format: 'step' | 'iges', path: string, name: string): void {
  const reader = format === 'step' ? new cad.STEPCAFControl_Reader_1() : new cad.IGESCAFControl_Reader_1();
  const progress = new cad.Message_ProgressRange_1();
  try {
    reader.SetColorMode(true);
    reader.SetNameMode(true);
    const status = reader.ReadFile(path);
    if (status.value !== cad.IFSelect_ReturnStatus.IFSelect_RetDone.value) throw broken(name, format.toUpperCase());
    const moved = format === 'step' ? reader.Transfer_1(document, progress) : reader.Transfer(document, progress);
    if (!moved) {
      throw new UserProblem(
        'file-broken',
        `"${name}" holds shapes that could not be built. Export it again${format === 'step' ? ' as AP214 or AP242' : ', best as STEP'}.`,
        422,
      );
    }
  } finally {
    progress.delete();
    reader.delete();
  }
}

/** BREP files hold one shape without names; a compound's members become its parts. */
function readBrep(cad: CadKernel, document: any, path: string, name: string): void {
  const shape = new cad.TopoDS_Shape();
  const builder = new cad.BRep_Builder();
  const progress = new cad.Message_ProgressRange_1();
  try {
    if (!cad.BRepTools.Read_2(shape, path, builder, progress) || shape.IsNull()) throw broken(name, 'BREP');
    const shapes = cad.XCAFDoc_DocumentTool.ShapeTool(document.Main()).get();
    const compound = shape.ShapeType().value === cad.TopAbs_ShapeEnum.TopAbs_COMPOUND.value;
    shapes.AddShape(shape, compound, true);
  } finally {
    progress.delete();
    builder.delete();
  }
}

/** What is said of units and axes. */
const SAID: Record<CadFormat, { unit: string; up: string }> = {
  step: { unit: 'The file states its unit; it was converted to mm.', up: 'CAD programs export STEP with Z up.' },
  iges: { unit: 'The file states its unit; it was converted to mm.', up: 'CAD programs export IGES with Z up.' },
  brep: { unit: 'BREP files name no unit; they are most often in mm.', up: 'CAD programs export BREP with Z up.' },
};

const UNNAMED = /^(|=>\[[\d:]+\]|SOLID|SHELL|FACE|COMPOUND|COMPSOLID)$/i;

/** Walks the labels of a document. */
class CadTree {
  private readonly nodes: ModelNode[] = [];
  private readonly meshes: TriangleMesh[] = [];
  private readonly finishes: ModelFinish[] = [];
  private readonly meshByShape = new Map<string, CutShape>();
  private readonly finishByColor = new Map<string, number>();
  private readonly shapes: any;
  private readonly colors: any;
  private readonly entry: any;

  constructor(
    private readonly cad: CadKernel,
    document: any,
    private readonly format: CadFormat,
    private readonly file: string,
    private tessellation: Tessellation,
  ) {
    this.shapes = cad.XCAFDoc_DocumentTool.ShapeTool(document.Main()).get();
    this.colors = cad.XCAFDoc_DocumentTool.ColorTool(document.Main()).get();
    this.entry = new cad.TCollection_AsciiString_1();
  }

  read(): Model {
    const roots = new this.cad.TDF_LabelSequence_1();
    this.shapes.GetFreeShapes(roots);
    this.fitTessellation(roots);
    for (let k = 1; k <= roots.Length(); k++) this.visit(roots.Value(k), -1, IDENTITY, null, null);
    if (this.meshes.length === 0) {
      throw new UserProblem(
        'model-empty',
        `"${this.file}" holds no solids or surfaces. Check that the export included the bodies, not only sketches or points.`,
        422,
      );
    }
    return {
      nodes: this.nodes,
      meshes: this.meshes,
      finishes: this.finishes,
      pictures: [],
      unit: 'mm',
      unitReason: SAID[this.format].unit,
      up: 'z',
      upReason: SAID[this.format].up,
      exact: true,
      notes: [],
    };
  }

  /** Files in the wrong unit would else be cut into a few triangles or into millions before anyone could choose another. */
  private fitTessellation(roots: any): void {
    const { cad } = this;
    const box = new cad.Bnd_Box_1();
    for (let k = 1; k <= roots.Length(); k++) {
      const shape = cad.XCAFDoc_ShapeTool.GetShape_2(roots.Value(k));
      if (!shape.IsNull()) cad.BRepBndLib.Add(shape, box, false);
    }
    if (!box.IsVoid() && !box.IsOpen()) {
      const [low, high] = [box.CornerMin(), box.CornerMax()];
      const extent = Math.max(high.X() - low.X(), high.Y() - low.Y(), high.Z() - low.Z());
      const { chord, angle } = this.tessellation;
      const least = extent > FINEST.over ? extent / FINEST.extents : 0;
      if (extent > 0) this.tessellation = { angle, chord: Math.max(least, Math.min(extent / COARSEST, chord)) };
    }
    box.delete();
  }

  /** How many of each kind of shape had no name. */
  private readonly counts = new Map<string, number>();

  private visit(
    label: any,
    parent: number,
    placed: Transform,
    givenName: string | null,
    givenColor: number | null,
  ): void {
    const { cad } = this;
    const Shapes = cad.XCAFDoc_ShapeTool;
    if (Shapes.IsReference(label)) {
      const referred = new cad.TDF_Label();
      Shapes.GetReferredShape(label, referred);
      const location = this.transformOf(Shapes.GetLocation(label).Transformation());
      const color = this.colorOf(label) ?? givenColor;
      return this.visit(referred, parent, multiplyTransforms(placed, location), this.nameOf(label) ?? givenName, color);
    }
    const name = givenName ?? this.nameOf(label) ?? this.unnamed(label);
    const color = this.colorOf(label) ?? givenColor;
    if (Shapes.IsAssembly(label)) {
      const at = this.nodes.push({ name, parent, transform: placed, mesh: null, finish: null }) - 1;
      const components = new cad.TDF_LabelSequence_1();
      Shapes.GetComponents(label, components, false);
      for (let k = 1; k <= components.Length(); k++) this.visit(components.Value(k), at, IDENTITY, null, color);
      return;
    }
    const cut = this.meshOf(label);
    if (cut) this.place(cut, { name, parent, transform: placed, mesh: cut.mesh, finish: color });
  }

  /** A part, or a group of one part for each colour that its faces have. */
  private place({ colors, faces }: CutShape, part: ModelNode): void {
    const colorOf = (face: number) => colors.get(face) ?? part.finish;
    const worn = new Set([...colors.values(), ...(colors.size < faces ? [part.finish] : [])]);
    if (worn.size <= 1) {
      this.nodes.push({ ...part, finish: worn.size === 1 ? [...worn][0]! : part.finish });
      return;
    }
    const group = this.nodes.push({ ...part, mesh: null, finish: null }) - 1;
    for (const finish of worn) {
      const own = Array.from({ length: faces }, (_, face) => face).filter((face) => colorOf(face) === finish);
      const name = `${part.name} ${this.nodes.length - group}`;
      this.nodes.push({ ...part, name, parent: group, transform: IDENTITY, faces: own, finish });
    }
  }

  private entryOf(label: any): string {
    this.cad.TDF_Tool.Entry(label, this.entry);
    return this.entry.ToCString();
  }

  private nameOf(label: any): string | null {
    const { cad } = this;
    const handle = new cad.Handle_TDF_Attribute_1();
    if (!label.FindAttribute_1(cad.TDataStd_Name.GetID(), handle)) return null;
    const text = new cad.TCollection_AsciiString_13(handle.get().Get(), 0x3f);
    const name = text.ToCString() as string;
    text.delete();
    // The reader's own names for what has none: a place in its tree, or the kind of shape.
    return UNNAMED.test(name.trim()) ? null : name.trim();
  }

  /** A name for what the file calls nothing: its shape and a number. */
  private unnamed(label: any): string {
    const kinds = this.cad.TopAbs_ShapeEnum;
    const type = this.cad.XCAFDoc_ShapeTool.GetShape_2(label).ShapeType().value;
    const shape =
      type === kinds.TopAbs_SOLID.value ? 'Solid' : type === kinds.TopAbs_SHELL.value ? 'Shell' : type === kinds.TopAbs_FACE.value ? 'Face' : 'Body'; // prettier-ignore
    const count = (this.counts.get(shape) ?? 0) + 1;
    this.counts.set(shape, count);
    return `${shape} ${count}`;
  }

  private colorOf(label: any): number | null {
    const { cad } = this;
    const color = new cad.Quantity_ColorRGBA_1();
    const kinds = cad.XCAFDoc_ColorType;
    const found = [kinds.XCAFDoc_ColorSurf, kinds.XCAFDoc_ColorGen].some((kind) =>
      this.colors.GetColor_5(label, kind, color),
    );
    return found ? this.finishOf(color) : null;
  }

  private finishOf(color: any): number {
    const rgb = color.GetRGB();
    const key = [rgb.Red(), rgb.Green(), rgb.Blue(), color.Alpha()].map((v) => v.toFixed(4)).join();
    let at = this.finishByColor.get(key);
    if (at === undefined) {
      at = this.finishes.push(colorFinish('', [rgb.Red(), rgb.Green(), rgb.Blue()], color.Alpha())) - 1;
      this.finishByColor.set(key, at);
    }
    return at;
  }

  private transformOf(move: any): Transform {
    return [1, 2, 3].flatMap((row) =>
      [1, 2, 3, 4].map((column) => move.Value(row, column) as number),
    ) as unknown as Transform;
  }

  private meshOf(label: any): CutShape | null {
    const key = this.entryOf(label);
    const known = this.meshByShape.get(key);
    if (known !== undefined) return known;
    const shape = this.cad.XCAFDoc_ShapeTool.GetShape_2(label);
    if (shape.IsNull()) return null;
    const mesh = tessellate(this.cad, shape, this.tessellation);
    if (mesh.indices.length === 0) return null;
    const { colors, faces } = this.faceColors(label, shape);
    const cut = { mesh: this.meshes.push(mesh) - 1, colors, faces };
    this.meshByShape.set(key, cut);
    return cut;
  }

  /** Finishes of faces that have a colour of their own, by the face's number. */
  private faceColors(label: any, shape: any): { colors: Map<number, number>; faces: number } {
    const { cad } = this;
    const colors = new Map<number, number>();
    const inside = new cad.TDF_LabelSequence_1();
    const colored = cad.XCAFDoc_ShapeTool.GetSubShapes(label, inside);
    const walk = new cad.TopExp_Explorer_2(shape, cad.TopAbs_ShapeEnum.TopAbs_FACE, cad.TopAbs_ShapeEnum.TopAbs_SHAPE);
    const kinds = cad.XCAFDoc_ColorType;
    const color = new cad.Quantity_ColorRGBA_1();
    let faces = 0;
    for (; walk.More(); walk.Next()) {
      const face = walk.Current();
      const own =
        colored &&
        [kinds.XCAFDoc_ColorSurf, kinds.XCAFDoc_ColorGen].some((kind) => this.colors.GetColor_8(face, kind, color));
      if (own) colors.set(faces, this.finishOf(color));
      faces++;
    }
    walk.delete();
    inside.delete();
    return { colors, faces };
  }
}

/** A shape cut into triangles, with the finishes of faces that have their own. */
interface CutShape {
  mesh: number;
  colors: Map<number, number>;
  faces: number;
}

/** Triangles of all faces. Corners are not shared between faces, so edges of the solid stay sharp and faces smooth. */
function tessellate(cad: CadKernel, shape: any, { chord, angle }: Tessellation): TriangleMesh {
  new cad.BRepMesh_IncrementalMesh_2(shape, chord, false, angle, false).delete();
  const positions: number[] = [];
  const indices: number[] = [];
  const numbers: number[] = [];
  let number = -1;
  const faces = new cad.TopExp_Explorer_2(shape, cad.TopAbs_ShapeEnum.TopAbs_FACE, cad.TopAbs_ShapeEnum.TopAbs_SHAPE);
  for (; faces.More(); faces.Next()) {
    number++;
    const face = cad.TopoDS.Face_1(faces.Current());
    const location = new cad.TopLoc_Location_1();
    const handle = cad.BRep_Tool.Triangulation(face, location, 0);
    if (handle.IsNull()) continue;
    const triangulation = handle.get();
    const move = location.Transformation();
    const first = positions.length / 3;
    const nodes = triangulation.NbNodes();
    for (let k = 1; k <= nodes; k++) {
      const point = triangulation.Node(k).Transformed(move);
      positions.push(point.X(), point.Y(), point.Z());
      point.delete();
    }
    const reversed = face.Orientation_1().value === cad.TopAbs_Orientation.TopAbs_REVERSED.value;
    const triangles = triangulation.NbTriangles();
    for (let k = 1; k <= triangles; k++) {
      const triangle = triangulation.Triangle(k);
      const [a, b, c] = [triangle.Value(1), triangle.Value(2), triangle.Value(3)].map((v: number) => first + v - 1) as [
        number,
        number,
        number,
      ];
      if (reversed) indices.push(a, c, b);
      else indices.push(a, b, c);
      numbers.push(number);
      triangle.delete();
    }
    location.delete();
    handle.delete();
  }
  faces.delete();
  const mesh = { positions: new Float32Array(positions), indices: new Uint32Array(indices) };
  return { ...mesh, normals: smoothNormals(mesh.positions, mesh.indices), faces: new Uint32Array(numbers) };
}
