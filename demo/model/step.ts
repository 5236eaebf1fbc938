import { getOC } from 'replicad';
import type { Piece } from './radio';

/* The CAD kernel's own document classes: its bindings carry no types for assemblies. */
/* eslint-disable @typescript-eslint/no-explicit-any */

const linear = (v: number): number => (v <= 0.04045 ? v / 12.92 : ((v + 0.055) / 1.055) ** 2.4);

/** Writes a nested assembly with names and colours as a STEP file (AP214, millimetres). */
export function writeStep(root: Piece): Uint8Array {
  const oc = getOC() as any;
  const text = (value: string) => new oc.TCollection_ExtendedString(value, true);
  const document = new oc.TDocStd_Document(text('XmlOcaf'));
  const main = document.Main();
  const shapes = oc.XCAFDoc_DocumentTool.ShapeTool(main);
  const colors = oc.XCAFDoc_DocumentTool.ColorTool(main);
  oc.XCAFDoc_ShapeTool.SetAutoNaming(false);

  const write = (piece: Piece): any => {
    const label = shapes.NewShape();
    if ('solid' in piece) {
      shapes.SetShape(label, piece.solid.wrapped);
      const [r, g, b] = [1, 3, 5].map((at) => linear(parseInt(piece.color.slice(at, at + 2), 16) / 255));
      colors.SetColor(
        label,
        new oc.Quantity_ColorRGBA(r, g, b, piece.alpha ?? 1),
        oc.XCAFDoc_ColorType.XCAFDoc_ColorSurf,
      );
    } else {
      for (const child of piece.pieces) {
        const move = new oc.gp_Trsf();
        const [x, y, z] = ('at' in child && child.at) || [0, 0, 0];
        move.SetTranslation(new oc.gp_Vec(x, y, z));
        const component = shapes.AddComponent(label, write(child), new oc.TopLoc_Location(move));
        oc.TDataStd_Name.Set(component, text(child.name));
      }
    }
    oc.TDataStd_Name.Set(label, text(piece.name));
    return label;
  };
  write(root);
  shapes.UpdateAssemblies();

  const writer = new oc.STEPCAFControl_Writer(new oc.XSControl_WorkSession(), false);
  writer.SetColorMode(true);
  writer.SetNameMode(true);
  oc.Interface_Static.SetIVal('write.step.assembly', 1);
  oc.Interface_Static.SetIVal('write.step.schema', 3);
  if (!writer.Perform(document, '/radio.step', new oc.Message_ProgressRange()))
    throw new Error('the STEP file could not be written');
  return oc.FS.readFile('/radio.step') as Uint8Array;
}
