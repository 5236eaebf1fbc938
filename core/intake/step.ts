import { UserProblem } from '../document';
import { IDENTITY, multiplyTransforms, smoothNormals, type Transform, type TriangleMesh } from '../geometry';
import { colorFinish, type Model, type ModelFinish, type ModelNode } from './model';

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

export const NORMAL_TESSELLATION: Tessellation = { chord: 0.08, angle: 0.27 };

/**
 * Reads a STEP file's whole assembly tree: instances share one mesh, names and colours stay with their parts.
 * @param cad a started CAD kernel with its file system
 * @throws UserProblem `file-broken` or `model-empty`
 */
export function readStep(cad: CadKernel, bytes: Uint8Array, name: string, tessellation = NORMAL_TESSELLATION): Model {
  const document = new cad.TDocStd_Document(new cad.TCollection_ExtendedString_1());
  const handle = new cad.Handle_TDocStd_Document_2(document);
  const path = '/intake.step';
  cad.FS.writeFile(path, bytes);
  const reader = new cad.STEPCAFControl_Reader_1();
  try {
    reader.SetColorMode(true);
    reader.SetNameMode(true);
    const status = reader.ReadFile(path);
    if (status.value !== cad.IFSelect_ReturnStatus.IFSelect_RetDone.value) {
      throw new UserProblem(
        'file-broken',
        `"${name}" is not a complete STEP file. It may have been cut off on its way; export it again.`,
        422,
      );
    }
    if (!reader.Transfer_1(handle, new cad.Message_ProgressRange_1())) {
      throw new UserProblem(
        'file-broken',
        `"${name}" holds shapes that could not be built. Export it again as AP214 or AP242.`,
        422,
      );
    }
    return new StepTree(cad, document, tessellation).read();
  } finally {
    cad.FS.unlink(path);
    reader.delete();
  }
}

/** Walks the labels of a document. */
class StepTree {
  private readonly nodes: ModelNode[] = [];
  private readonly meshes: TriangleMesh[] = [];
  private readonly finishes: ModelFinish[] = [];
  private readonly meshByShape = new Map<string, number>();
  private readonly finishByColor = new Map<string, number>();
  private readonly shapes: any;
  private readonly colors: any;
  private readonly entry: any;

  constructor(
    private readonly cad: CadKernel,
    document: any,
    private readonly tessellation: Tessellation,
  ) {
    this.shapes = cad.XCAFDoc_DocumentTool.ShapeTool(document.Main()).get();
    this.colors = cad.XCAFDoc_DocumentTool.ColorTool(document.Main()).get();
    this.entry = new cad.TCollection_AsciiString_1();
  }

  read(): Model {
    const roots = new this.cad.TDF_LabelSequence_1();
    this.shapes.GetFreeShapes(roots);
    for (let k = 1; k <= roots.Length(); k++) this.visit(roots.Value(k), -1, IDENTITY, null, null);
    if (this.meshes.length === 0) {
      throw new UserProblem(
        'model-empty',
        'The STEP file holds no solids or surfaces. Check that the export included the bodies, not only sketches or points.',
        422,
      );
    }
    return {
      nodes: this.nodes,
      meshes: this.meshes,
      finishes: this.finishes,
      pictures: [],
      unit: 'mm',
      unitReason: 'The file states its unit; it was converted to mm.',
      up: 'z',
      upReason: 'CAD programs export STEP with Z up.',
      notes: [],
    };
  }

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
    const name = givenName ?? this.nameOf(label) ?? 'Part';
    const color = this.colorOf(label) ?? givenColor;
    if (Shapes.IsAssembly(label)) {
      const at = this.nodes.push({ name, parent, transform: placed, mesh: null, finish: null }) - 1;
      const components = new cad.TDF_LabelSequence_1();
      Shapes.GetComponents(label, components, false);
      for (let k = 1; k <= components.Length(); k++) this.visit(components.Value(k), at, IDENTITY, null, color);
      return;
    }
    const mesh = this.meshOf(label);
    if (mesh !== null) this.nodes.push({ name, parent, transform: placed, mesh, finish: color });
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
    return name.trim() || null;
  }

  private colorOf(label: any): number | null {
    const { cad } = this;
    const color = new cad.Quantity_ColorRGBA_1();
    const kinds = cad.XCAFDoc_ColorType;
    const found = [kinds.XCAFDoc_ColorSurf, kinds.XCAFDoc_ColorGen].some((kind) =>
      this.colors.GetColor_5(label, kind, color),
    );
    if (!found) return null;
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

  private meshOf(label: any): number | null {
    const key = this.entryOf(label);
    const known = this.meshByShape.get(key);
    if (known !== undefined) return known;
    const shape = this.cad.XCAFDoc_ShapeTool.GetShape_2(label);
    if (shape.IsNull()) return null;
    const mesh = tessellate(this.cad, shape, this.tessellation);
    if (mesh.indices.length === 0) return null;
    const at = this.meshes.push(mesh) - 1;
    this.meshByShape.set(key, at);
    return at;
  }
}

/** Triangles of all faces. Corners are not shared between faces, so edges of the solid stay sharp and faces smooth. */
function tessellate(cad: CadKernel, shape: any, { chord, angle }: Tessellation): TriangleMesh {
  new cad.BRepMesh_IncrementalMesh_2(shape, chord, false, angle, false).delete();
  const positions: number[] = [];
  const indices: number[] = [];
  const faces = new cad.TopExp_Explorer_2(shape, cad.TopAbs_ShapeEnum.TopAbs_FACE, cad.TopAbs_ShapeEnum.TopAbs_SHAPE);
  for (; faces.More(); faces.Next()) {
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
      triangle.delete();
    }
    location.delete();
    handle.delete();
  }
  faces.delete();
  const mesh = { positions: new Float32Array(positions), indices: new Uint32Array(indices) };
  return { ...mesh, normals: smoothNormals(mesh.positions, mesh.indices) };
}
