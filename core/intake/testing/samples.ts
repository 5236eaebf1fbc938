// Small valid files of every format, made here so that none comes from anywhere: a red crate of 20 x 30 x 40 mm, or more.
import { Document, NodeIO, type GLTF } from '@gltf-transform/core';
import { EXTMeshoptCompression, KHRDracoMeshCompression } from '@gltf-transform/extensions';
import { createRequire } from 'node:module';
import { strToU8, zipSync } from 'fflate';
import { MeshoptEncoder } from 'meshoptimizer';
import type { CadKernel } from '../cad';

const require = createRequire(import.meta.url);
const bytesOf = (text: string): Uint8Array<ArrayBuffer> => strToU8(text) as Uint8Array<ArrayBuffer>;

/** Corners of a crate and its twelve triangles, counter-clockwise from outside. */
const CRATE = {
  corners: [0, 1, 2, 3, 4, 5, 6, 7].map((k) => [k & 1 ? 20 : 0, k & 2 ? 30 : 0, k & 4 ? 40 : 0] as const),
  triangles: [
    [0, 2, 1], [1, 2, 3], [4, 5, 6], [5, 7, 6], [0, 1, 4], [1, 5, 4],
    [2, 6, 3], [3, 6, 7], [0, 4, 2], [2, 4, 6], [1, 3, 5], [3, 7, 5],
  ] as const,
}; // prettier-ignore

export function stlText(solids: readonly string[]): Uint8Array<ArrayBuffer> {
  const facets = CRATE.triangles.map(
    (corners) =>
      `facet normal 0 0 0\nouter loop\n${corners.map((k) => `vertex ${CRATE.corners[k]!.join(' ')}\n`).join('')}endloop\nendfacet\n`,
  );
  return bytesOf(solids.map((name) => `solid ${name}\n${facets.join('')}endsolid ${name}\n`).join(''));
}

export function stlBinary(): Uint8Array<ArrayBuffer> {
  const bytes = new Uint8Array(84 + 50 * CRATE.triangles.length);
  const view = new DataView(bytes.buffer);
  view.setUint32(80, CRATE.triangles.length, true);
  CRATE.triangles.forEach((corners, t) =>
    corners.forEach((corner, k) =>
      CRATE.corners[corner]!.forEach((v, axis) => view.setFloat32(84 + t * 50 + 12 + k * 12 + axis * 4, v, true)),
    ),
  );
  return bytes;
}

export const objText = (): Uint8Array<ArrayBuffer> =>
  bytesOf(
    `mtllib crate.mtl\no Crate\n${CRATE.corners.map((p) => `v ${p.join(' ')}\n`).join('')}vt 0 0\nvt 1 0\nvt 1 1\nusemtl Red\n${CRATE.triangles
      .map(([a, b, c]) => `f ${a + 1}/1 ${b + 1}/2 ${c + 1}/3\n`)
      .join('')}`,
  );

export const mtlText = (): Uint8Array<ArrayBuffer> => bytesOf('newmtl Red\nKd 1 0 0\nmap_Kd pictures\\Grain.PNG\n');

/** @param colors red, green and blue of a corner, 0 to 255 */
export function plyText(colors: (corner: number) => readonly number[]): Uint8Array<ArrayBuffer> {
  const vertices = CRATE.corners.map((p, k) => `${p.join(' ')} ${colors(k).join(' ')}\n`).join('');
  const faces = CRATE.triangles.map((corners) => `3 ${corners.join(' ')}\n`).join('');
  return bytesOf(
    `ply\nformat ascii 1.0\nelement vertex 8\nproperty float x\nproperty float y\nproperty float z\nproperty uchar red\nproperty uchar green\nproperty uchar blue\nelement face 12\nproperty list uchar int vertex_indices\nend_header\n${vertices}${faces}`,
  );
}

/** @param unit one of the format's, and millimetres that it is */
export function packageFile(unit = 'centimeter', millimetres = 10): Uint8Array<ArrayBuffer> {
  const model = `<?xml version="1.0" encoding="UTF-8"?>
<model unit="${unit}" xml:lang="en-US" xmlns="http://schemas.microsoft.com/3dmanufacturing/core/2015/02">
 <resources>
  <basematerials id="5"><base name="Red" displaycolor="#FF0000FF"/></basematerials>
  <object id="1" type="model" name="Crate" pid="5" pindex="0"><mesh>
   <vertices>${CRATE.corners.map(([x, y, z]) => `<vertex x="${x / millimetres}" y="${y / millimetres}" z="${z / millimetres}"/>`).join('')}</vertices>
   <triangles>${CRATE.triangles.map(([a, b, c]) => `<triangle v1="${a}" v2="${b}" v3="${c}"/>`).join('')}</triangles>
  </mesh></object>
 </resources>
 <build><item objectid="1"/></build>
</model>`;
  const types =
    '<?xml version="1.0" encoding="UTF-8"?><Types xmlns="http://schemas.openxmlformats.org/package/2006/content-types"><Default Extension="rels" ContentType="application/vnd.openxmlformats-package.relationships+xml"/><Default Extension="model" ContentType="application/vnd.ms-package.3dmanufacturing-3dmodel+xml"/></Types>';
  const relations =
    '<?xml version="1.0" encoding="UTF-8"?><Relationships xmlns="http://schemas.openxmlformats.org/package/2006/relationships"><Relationship Target="/3D/3dmodel.model" Id="rel0" Type="http://schemas.microsoft.com/3dmanufacturing/2013/01/3dmodel"/></Relationships>';
  return zipSync({
    '[Content_Types].xml': strToU8(types),
    '_rels/.rels': strToU8(relations),
    '3D/3dmodel.model': strToU8(model),
  }) as Uint8Array<ArrayBuffer>;
}

/** A camera and a spot over the crate, each on a node of its own that is placed in centimetres. */
export const DAE_ALONG = {
  libraries: `<library_cameras><camera id="eye" name="eye"><optics><technique_common><perspective><xfov>60</xfov><aspect_ratio>1.5</aspect_ratio><znear>1</znear><zfar>100</zfar></perspective></technique_common></optics></camera></library_cameras>
 <library_lights><light id="key"><technique_common><spot><color>2 1 0</color><falloff_angle>40</falloff_angle></spot></technique_common></light></library_lights>`,
  nodes: `<node id="Eye" name="Eye"><translate>0 -30 5</translate><rotate>1 0 0 90</rotate><instance_camera url="#eye"/></node><node id="Key" name="Key"><translate>0 0 25</translate><instance_light url="#key"/></node>`,
};

/** @param picture path of what colours it, in place of the red */
export function daeText(picture?: string, along = { libraries: '', nodes: '' }): Uint8Array<ArrayBuffer> {
  const positions = CRATE.corners.flat().map((v) => v / 10);
  return bytesOf(`<?xml version="1.0" encoding="utf-8"?>
<COLLADA xmlns="http://www.collada.org/2005/11/COLLADASchema" version="1.4.1">
 <asset><unit name="centimeter" meter="0.01"/><up_axis>Z_UP</up_axis></asset>
 ${along.libraries}
 ${picture ? `<library_images><image id="grain"><init_from>${picture}</init_from></image></library_images>` : ''}
 <library_effects><effect id="red-fx"><profile_COMMON>${
   picture
     ? '<newparam sid="s"><surface type="2D"><init_from>grain</init_from></surface></newparam><newparam sid="t"><sampler2D><source>s</source></sampler2D></newparam>'
     : ''
 }<technique sid="common"><lambert><diffuse>${picture ? '<texture texture="t" texcoord="uv"/>' : '<color>1 0 0 1</color>'}</diffuse></lambert></technique></profile_COMMON></effect></library_effects>
 <library_materials><material id="red" name="Red"><instance_effect url="#red-fx"/></material></library_materials>
 <library_geometries><geometry id="crate" name="Crate"><mesh>
  <source id="places"><float_array id="numbers" count="24">${positions.join(' ')}</float_array><technique_common><accessor source="#numbers" count="8" stride="3"><param name="X" type="float"/><param name="Y" type="float"/><param name="Z" type="float"/></accessor></technique_common></source>
  <vertices id="corners"><input semantic="POSITION" source="#places"/></vertices>
  <triangles material="m" count="12"><input semantic="VERTEX" source="#corners" offset="0"/><p>${CRATE.triangles.flat().join(' ')}</p></triangles>
 </mesh></geometry></library_geometries>
 <library_visual_scenes><visual_scene id="scene"><node id="n" name="Crate"><instance_geometry url="#crate"><bind_material><technique_common><instance_material symbol="m" target="#red"/></technique_common></bind_material></instance_geometry></node>${along.nodes}</visual_scene></library_visual_scenes>
 <scene><instance_visual_scene url="#scene"/></scene>
</COLLADA>`);
}

/** @param properties lines of the part's own, tabs before them */
export function fbxText(centimetresPerUnit = 2.54, upAxis = 1, properties = ''): Uint8Array<ArrayBuffer> {
  const vertices = CRATE.corners.flat().map((v) => v / 10 / centimetresPerUnit);
  const indices = CRATE.triangles.flatMap(([a, b, c]) => [a, b, -c - 1]);
  return bytesOf(`; FBX 7.4.0 project file
FBXHeaderExtension:  {
	FBXHeaderVersion: 1003
	FBXVersion: 7400
}
GlobalSettings:  {
	Version: 1000
	Properties70:  {
		P: "UpAxis", "int", "Integer", "",${upAxis}
		P: "UpAxisSign", "int", "Integer", "",1
		P: "FrontAxis", "int", "Integer", "",2
		P: "FrontAxisSign", "int", "Integer", "",1
		P: "CoordAxis", "int", "Integer", "",0
		P: "CoordAxisSign", "int", "Integer", "",1
		P: "UnitScaleFactor", "double", "Number", "",${centimetresPerUnit}
	}
}
Objects:  {
	Geometry: 100, "Geometry::Crate", "Mesh" {
		Vertices: *24 {
			a: ${vertices.join(',')}
		}
		PolygonVertexIndex: *36 {
			a: ${indices.join(',')}
		}
		GeometryVersion: 124
		LayerElementMaterial: 0 {
			Version: 101
			Name: ""
			MappingInformationType: "AllSame"
			ReferenceInformationType: "IndexToDirect"
			Materials: *1 {
				a: 0
			}
		}
		Layer: 0 {
			Version: 100
			LayerElement:  {
				Type: "LayerElementMaterial"
				TypedIndex: 0
			}
		}
	}
	Model: 200, "Model::Crate", "Mesh" {
		Version: 232
		Properties70:  {
${properties}		}
	}
	Material: 300, "Material::Red", "" {
		Version: 102
		ShadingModel: "lambert"
		Properties70:  {
			P: "DiffuseColor", "Color", "", "A",1,0,0
		}
	}
}
Connections:  {
	C: "OO",200,0
	C: "OO",100,200
	C: "OO",300,200
}
`);
}

/** The crate as a glTF document in metres. */
function gltfDocument(): Document {
  const document = new Document();
  const buffer = document.createBuffer();
  const positions = new Float32Array(CRATE.corners.flat().map((v) => v / 1000));
  const primitive = document
    .createPrimitive()
    .setAttribute('POSITION', document.createAccessor().setType('VEC3').setArray(positions).setBuffer(buffer))
    .setIndices(document.createAccessor().setArray(new Uint16Array(CRATE.triangles.flat())).setBuffer(buffer))
    .setMaterial(document.createMaterial('Red').setBaseColorFactor([1, 0, 0, 1]));
  const node = document.createNode('Crate').setMesh(document.createMesh('Crate').addPrimitive(primitive));
  document.createScene().addChild(node);
  return document;
}

export async function glbFile(compression: 'none' | 'draco' | 'meshopt'): Promise<Uint8Array<ArrayBuffer>> {
  const document = gltfDocument();
  const writer = new NodeIO();
  if (compression === 'draco') {
    const draco = require('draco3dgltf') as { createEncoderModule(): Promise<unknown> };
    writer.registerExtensions([KHRDracoMeshCompression]);
    writer.registerDependencies({ 'draco3d.encoder': await draco.createEncoderModule() });
    document.createExtension(KHRDracoMeshCompression).setRequired(true);
  }
  if (compression === 'meshopt') {
    await MeshoptEncoder.ready;
    writer.registerExtensions([EXTMeshoptCompression]).registerDependencies({ 'meshopt.encoder': MeshoptEncoder });
    document.createExtension(EXTMeshoptCompression).setRequired(true);
  }
  return new Uint8Array(await writer.writeBinary(document));
}

/** A glTF file that holds its own buffer, so that its text can be changed. */
export async function gltfText(change: (json: GLTF.IGLTF) => void = () => undefined): Promise<Uint8Array<ArrayBuffer>> {
  const { json, resources } = await new NodeIO().writeJSON(gltfDocument());
  const [buffer] = Object.values(resources);
  json.buffers![0]!.uri = `data:application/octet-stream;base64,${Buffer.from(buffer!).toString('base64')}`;
  change(json);
  return bytesOf(JSON.stringify(json));
}

/** A glTF file and the buffer it names, in a folder. */
export async function gltfFiles(): Promise<{ gltf: Uint8Array<ArrayBuffer>; buffer: Uint8Array<ArrayBuffer> }> {
  const { json, resources } = await new NodeIO().writeJSON(gltfDocument());
  const [uri] = Object.keys(resources);
  json.buffers![0]!.uri = 'data/the%20crate.bin';
  return { gltf: bytesOf(JSON.stringify(json)), buffer: new Uint8Array(resources[uri!]!) };
}

/* The CAD kernel's bindings are numbered overloads without useful types. */
/** A crate whose top is blue and a ball, red, both in one assembly twice, as the CAD kernel writes it. */
export function solidFile(cad: CadKernel, format: 'step' | 'iges' | 'brep'): Uint8Array<ArrayBuffer> {
  const crate = new cad.BRepPrimAPI_MakeBox_2(20, 30, 40).Shape();
  const path = `/sample.${format}`;
  const progress = new cad.Message_ProgressRange_1();
  if (format === 'brep') cad.BRepTools.Write_3(crate, path, progress);
  else {
    const document = new cad.TDocStd_Document(new cad.TCollection_ExtendedString_1());
    const handle = new cad.Handle_TDocStd_Document_2(document);
    const shapes = cad.XCAFDoc_DocumentTool.ShapeTool(document.Main()).get();
    const colors = cad.XCAFDoc_DocumentTool.ColorTool(document.Main()).get();
    const kind = cad.XCAFDoc_ColorType.XCAFDoc_ColorSurf;
    const rgb = (r: number, g: number, b: number) =>
      new cad.Quantity_Color_3(r, g, b, cad.Quantity_TypeOfColor.Quantity_TOC_RGB);
    const label = shapes.AddShape(crate, false, true);
    colors.SetColor_2(label, rgb(1, 0, 0), kind);
    const faces = new cad.TopExp_Explorer_2(crate, cad.TopAbs_ShapeEnum.TopAbs_FACE, cad.TopAbs_ShapeEnum.TopAbs_SHAPE);
    colors.SetColor_5(faces.Current(), rgb(0, 0, 1), kind);
    if (format === 'step') {
      const writer = new cad.STEPCAFControl_Writer_1();
      writer.SetColorMode(true);
      writer.Transfer_1(handle, cad.STEPControl_StepModelType.STEPControl_AsIs, null, progress);
      writer.Write(path);
    } else {
      const writer = new cad.IGESCAFControl_Writer_1();
      writer.SetColorMode(true);
      writer.Transfer_1(handle, progress);
      writer.Write_2(path, false);
    }
  }
  const bytes = new Uint8Array(cad.FS.readFile(path) as Uint8Array);
  cad.FS.unlink(path);
  return bytes;
}
