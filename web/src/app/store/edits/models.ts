import { rescaleNode } from '@zippy/core/scene';
import { inject, Injectable, signal } from '@angular/core';
import {
  FINDINGS,
  inOrder,
  meshOfModel,
  subtree,
  type Asset,
  type Finding,
  type Mend,
  type Recipe,
  type SceneNode,
  type Vector3,
} from '@zippy/core/document';
import { centreOf, isEmpty, type Bounds } from '@zippy/core/geometry';
import { fitStage, MEND_OF, UNITS, type Product, type Unit } from '@zippy/core/intake';
import { Api } from '../../api/api';
import { SceneBounds } from '../scene-bounds';
import { Notices } from '../notices';
import { Studio } from '../studio';

/** What was found in a part's mesh, and whether it stays mended. */
export interface PartFinding {
  finding: Finding;
  count: number;
  mend: Mend | null;
  mended: boolean;
}

/** The files of models: what was found in them, and making them again from their sources with other choices. */
@Injectable({ providedIn: 'root' })
export class Models {
  private readonly api = inject(Api);
  private readonly notices = inject(Notices);
  private readonly studio = inject(Studio);
  private readonly bounds = inject(SceneBounds);
  /** Name of the model that is being made again; null while none is. */
  readonly making = signal<string | null>(null);

  /** The model a part is of. */
  assetOf(node: SceneNode): Asset | null {
    const { assets } = this.studio.document();
    return (
      Object.values(assets).find((asset) => asset.kind === 'model' && asset.hash === meshOfModel(node.mesh)?.asset) ??
      null
    );
  }

  findingsOf(node: SceneNode): PartFinding[] {
    const asset = this.assetOf(node);
    const mesh = meshOfModel(node.mesh)?.index;
    if (!asset || mesh === undefined) return [];
    return FINDINGS.flatMap((finding) => {
      const count = asset.found[finding]?.[mesh];
      if (count === undefined) return [];
      const mend = MEND_OF[finding] ?? null;
      return [{ finding, count, mend, mended: !(mend && asset.recipe?.leave[mend]?.includes(mesh)) }];
    });
  }

  /** Leaves a mend out for a part's mesh, or does it after all. */
  async setMend(node: SceneNode, mend: Mend, done: boolean): Promise<void> {
    const asset = this.assetOf(node);
    const own = meshOfModel(node.mesh);
    if (!asset?.recipe || !own) return;
    const others = (asset.recipe.leave[mend] ?? []).filter((mesh) => mesh !== own.index);
    const leave = { ...asset.recipe.leave, [mend]: done ? others : [...others, own.index] };
    await this.rebuild(asset, { leave }, done ? 'Mend' : 'Leave as it came');
  }

  /**
   * How a model stands under a node that hangs under nothing: the millimetres that a length of 1 in its file has become, and the unit of
   * which that is true. Null for a node that is no model, or holds several.
   */
  standing(id: string): { size: number; unit: Unit | null } | null {
    const document = this.studio.document();
    const root = document.nodes[id];
    if (!root || root.parent !== null) return null;
    const parts = subtree(document, id).flatMap((each) => (document.nodes[each]!.mesh ? [document.nodes[each]!] : []));
    const hashes = new Set(parts.map(({ mesh }) => meshOfModel(mesh)?.asset));
    const asset = hashes.size === 1 ? this.assetOf(parts[0]!) : null;
    if (!asset?.recipe) return null;
    const size = UNITS[asset.recipe.unit] * asset.recipe.scale * root.scale[0];
    const unit = (Object.keys(UNITS) as Unit[]).find((name) => Math.abs(UNITS[name] / size - 1) < 1e-6) ?? null;
    return { size, unit };
  }

  /** Reads a model's lengths in another unit: it grows or shrinks where it stands, and the stage with an only product. */
  setUnit(id: string, unit: Unit): void {
    const standing = this.standing(id);
    if (!standing) return;
    const factor = UNITS[unit] / standing.size;
    const root = this.studio.document().nodes[id]!;
    const parts = new Set(subtree(this.studio.document(), id));
    const before = this.bounds.of([...parts]);
    this.studio.edit(`Read in ${unit}`, (draft) => {
      rescaleNode(draft, id, factor, isEmpty(before) ? 0 : before.low[1]);
      const alone = Object.values(draft.nodes).every(({ id: each, mesh }) => !mesh || parts.has(each));
      if (alone && !isEmpty(before)) fitStage(draft, grownAboutFoot(before, root, factor), asProduct(before));
    });
  }

  /** Makes a model's file again with other choices; all its parts stay as they are and show the new triangles. */
  async rebuild(asset: Asset, over: Partial<Recipe>, label: string): Promise<void> {
    if (!asset.recipe || this.making()) return;
    const recipe: Recipe = { ...asset.recipe, ...over };
    const used = inOrder(this.studio.document().nodes).flatMap(({ mesh }) =>
      [mesh, ...(mesh?.joined ?? [])].flatMap((each) => meshOfModel(each) ?? []),
    );
    const meshes = Math.max(1, ...used.filter((mesh) => mesh.asset === asset.hash).map((mesh) => mesh.index + 1));
    this.making.set(asset.name);
    try {
      const source = { name: asset.sourceName, hash: asset.sourceHash };
      const made = await this.api.rebuildModel(source, asset.companions, recipe, meshes);
      this.studio.edit(label, (draft) => {
        const own = draft.assets[asset.id];
        if (!own) return;
        const before = own.hash;
        Object.assign(own, { hash: made.hash, found: made.found, recipe });
        for (const { mesh } of Object.values(draft.nodes)) {
          for (const each of [mesh, ...(mesh?.joined ?? [])]) {
            const own = meshOfModel(each);
            if (own?.asset === before) own.asset = made.hash;
          }
        }
      });
    } catch (error) {
      this.notices.tell(error);
    } finally {
      this.making.set(null);
    }
  }
}

const asProduct = (bounds: Bounds): Product => ({
  center: centreOf(bounds),
  size: bounds.high.map((v, k) => v - bounds.low[k]!) as Vector3,
});

/** Where something is once it has grown about its turning point, its foot kept at its height. */
function grownAboutFoot(bounds: Bounds, { position, pivot }: SceneNode, factor: number): Product {
  const { center, size } = asProduct(bounds);
  const about = [position[0] + pivot[0], bounds.low[1], position[2] + pivot[2]];
  return {
    center: center.map((v, k) => about[k]! + (v - about[k]!) * factor) as Vector3,
    size: size.map((v) => v * factor) as Vector3,
  };
}
