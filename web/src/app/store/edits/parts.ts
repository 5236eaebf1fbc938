import { PIECE_VIEWS } from '../../kinds/set-pieces';
import { SET_PIECES } from '@zippy/core/geometry';
import {
  attachNodes,
  duplicateNodes,
  groupNodes,
  joinParts,
  nameByPattern,
  partsAlike,
  splitPart,
  topmost,
  ungroupNode,
} from '@zippy/core/scene';
import {
  inOrder,
  lastOrder,
  meshOfModel,
  newCopies,
  newNode,
  subtree,
  type Copies,
  type Finish,
  type ProjectDocument,
  type SceneNode,
  type SetPiece,
  type Vector3,
  sayNumber,
} from '@zippy/core/document';
import { inject, Injectable, Injector } from '@angular/core';
import { centreOf, isEmpty, type ShapeSignature, newSetPiece } from '@zippy/core/geometry';
import { separateDressedCopies } from '@zippy/core/motion';
import { Api } from '../../api/api';
import { Ask } from '../../ui/ask/ask';
import { MeshLibrary } from '../../meshes/mesh-library';
import { SceneBounds } from '../scene-bounds';
import { finishIn } from './finish-shelf';
import { Notices } from '../notices';
import { Studio } from '../studio';

/** More parts than these make a tree nobody can use. */
const MOST_PIECES = 500;

/** Edits of the tree of parts; what is selected is what they work on. */
@Injectable({ providedIn: 'root' })
export class Parts {
  private readonly studio = inject(Studio);
  private readonly notices = inject(Notices);
  private readonly ask = inject(Ask);
  private readonly api = inject(Api);
  private readonly bounds = inject(SceneBounds);
  private readonly injector = inject(Injector);

  private select(ids: readonly string[]): void {
    if (ids.length > 0) this.studio.selectAll(ids.map((id) => ({ kind: 'node', id })));
  }

  group(): void {
    const ids = this.studio.selectedNodes();
    let made: string | null = null;
    this.studio.edit('Group', (draft) => void (made = groupNodes(draft, ids)));
    if (made) this.select([made]);
  }

  ungroup(): void {
    const ids = this.studio.selectedNodes();
    const inside: string[] = [];
    this.studio.edit('Ungroup', (draft) => void ids.forEach((id) => inside.push(...ungroupNode(draft, id))));
    this.select(inside);
  }

  duplicate(): void {
    const ids = this.studio.selectedNodes();
    let made: string[] = [];
    this.studio.edit('Duplicate', (draft) => void (made = duplicateNodes(draft, ids)));
    this.select(made);
  }

  /** Makes one part of the selected ones. */
  join(): void {
    const ids = this.studio.selectedNodes();
    let made: string | null = null;
    this.studio.edit('Join', (draft) => void (made = joinParts(draft, ids)));
    if (made) this.select([made]);
    else this.notices.tell('Joining takes two parts or more. Select them with Ctrl held down.');
  }

  /** Makes parts of the selected part's faces or loose shells. */
  async split(by: 'faces' | 'shells'): Promise<void> {
    const id = this.studio.selectedNodes().at(-1);
    const mesh = id && this.studio.document().nodes[id]?.mesh;
    if (!mesh) return this.notices.tell('Select the part that shall be split.');
    if (mesh.joined) return this.notices.tell('This part was joined from others. Undo that, and split those.');
    try {
      const groups = await this.injector.get(MeshLibrary).divide(mesh, by);
      const found = `${sayNumber(groups.length)} ${by === 'faces' ? 'faces' : 'loose shells'}`;
      if (groups.length < 2)
        return this.notices.tell(`This part has only ${found.replace(/s$/, '')}; there is nothing to split.`);
      if (groups.length > MOST_PIECES)
        return this.notices.tell(`This part has ${found}; at most ${MOST_PIECES} parts can be made of one.`);
      let made: string[] = [];
      this.studio.edit('Split', (draft) => void (made = splitPart(draft, id, groups)));
      this.select(made.slice(0, 1));
    } catch (error) {
      this.notices.tell(error);
    }
  }

  /** Makes copies of a node, of another kind with the same numbers, or none. */
  copyAs(id: string, kind: Copies['kind'] | null): void {
    const box = this.bounds.of(subtree(this.studio.document(), id));
    const size = box.high.map((v, k) => Math.max(0.1, Math.round((v - box.low[k]!) * 1.25))) as Vector3;
    this.studio.edit('Copies', (draft) => {
      const node = draft.nodes[id]!;
      if (!kind) node.copies = null;
      else if (node.copies) node.copies.kind = kind;
      else {
        const across = isEmpty(box) ? 100 : Math.max(size[0], size[2]);
        const spacing: Vector3 = kind === 'line' ? [across, 0, 0] : isEmpty(box) ? [100, 100, 100] : size;
        node.copies = newCopies({ kind, spacing, radius: across, count: kind === 'ring' ? 6 : 3 });
      }
    });
  }

  /**
   * Sets one of the finishes between which copies are dressed, by its place among them; null leaves it out. The first that is added comes
   * after what is worn most below the node, whose place the others take.
   */
  dressCopies(id: string, place: number, finish: string | Partial<Finish> | null): void {
    this.studio.edit(finish === null ? 'Leave a finish out' : 'Dress copies', (draft) => {
      const copies = draft.nodes[id]?.copies;
      if (!copies) return;
      if (finish === null) return void copies.wears.splice(place, 1);
      const chosen = typeof finish === 'string' ? finish : finishIn(draft, finish);
      const most = mostWorn(draft, id);
      if (copies.wears.length === 0 && most && most !== chosen) copies.wears.push(most, chosen);
      else copies.wears[place] = chosen;
    });
  }

  /** Makes parts of their own of a node's copies. */
  separate(id: string): void {
    let made: string[] = [];
    this.studio.edit('Make parts of copies', (draft) => void (made = separateDressedCopies(draft, id)));
    this.select(made);
  }

  /** Puts a set piece into the scene, beside the product; floors and backdrops under it. */
  addPiece(kind: SetPiece['kind']): void {
    const { center, size } = this.bounds.product();
    const piece = newSetPiece(kind, size);
    const { under } = PIECE_VIEWS[kind];
    const position: Vector3 = under ? [0, 0, 0] : [Math.round(center[0] + size), 0, 0];
    this.add(`Add ${SET_PIECES[kind].title.toLowerCase()}`, {
      name: SET_PIECES[kind].title,
      kind: 'part',
      mesh: { piece },
      position,
    });
  }

  /** Puts something to hang things on into the scene: at what is selected, or in the middle of the product. */
  addHelper(): void {
    const ids = this.studio.selectedNodes().flatMap((id) => subtree(this.studio.document(), id));
    const box = this.bounds.of(ids);
    const position: Vector3 = isEmpty(box) ? this.bounds.product().center : centreOf(box);
    this.add('Add helper', { name: 'Helper', kind: 'helper', position });
  }

  private add(label: string, over: Partial<SceneNode>): void {
    const { nodes } = this.studio.document();
    const same = Object.values(nodes).filter((node) => node.name.startsWith(over.name!)).length;
    const node = newNode({ ...over, name: same ? `${over.name} ${same + 1}` : over.name!, order: lastOrder(nodes) });
    this.studio.edit(label, (draft) => void (draft.nodes[node.id] = node));
    this.select([node.id]);
  }

  /** Selects all parts like the selected ones; shapes of different meshes are compared by what turning leaves alone. */
  async selectAlike(by: 'shape' | 'finish'): Promise<void> {
    const shapes = new Map<string, ShapeSignature[]>();
    try {
      const { nodes } = this.studio.document();
      const files = new Set(Object.values(nodes).flatMap(({ mesh }) => meshOfModel(mesh)?.asset ?? []));
      for (const file of by === 'shape' ? files : [])
        shapes.set(file, (await this.api.compareModels(file, file)).before);
    } catch (error) {
      return this.notices.tell(error);
    }
    const shapeOf = ({ asset, index }: { asset: string; index: number }) => shapes.get(asset)?.[index];
    const found = partsAlike(this.studio.document(), this.studio.selectedNodes(), by, shapeOf);
    if (found.length > 0) this.select(found);
    if (found.length === 1) this.notices.say('No other part is like this one.');
  }

  /** Hangs nodes under a group, or under none, where they stand. */
  attach(ids: readonly string[], parent: string | null): void {
    this.studio.edit('Move in the tree', (draft) => attachNodes(draft, ids, parent));
  }

  /** Names all selected parts by one pattern. */
  async renameAll(): Promise<void> {
    const ids = new Set(this.studio.selectedNodes());
    const nodes = inOrder(this.studio.document().nodes).filter((node) => ids.has(node.id));
    if (nodes.length === 0) return;
    const title = nodes.length === 1 ? 'New name' : `Name ${nodes.length} parts: # counts, * is the name they have`;
    const pattern = await this.ask.name(title, 'Rename', nodes.length === 1 ? nodes[0]!.name : '* ##');
    if (!pattern) return;
    const names = nameByPattern(pattern, nodes.map((node) => node.name)); // prettier-ignore
    this.studio.edit('Rename', (draft) => nodes.forEach((node, k) => (draft.nodes[node.id]!.name = names[k]!)));
  }

  /** Whether the selection is a group that can be taken away. */
  canUngroup(): boolean {
    const { nodes } = this.studio.document();
    return this.studio.selectedNodes().some((id) => nodes[id] && !nodes[id].mesh);
  }

  /** How many nodes the selection moves, groups counting as one. */
  count = (): number => topmost(this.studio.document(), this.studio.selectedNodes()).length;
}

/** The finish that most parts below a node wear, itself among them; null where none wears any. */
function mostWorn(document: ProjectDocument, id: string): string | null {
  const counts = new Map<string, number>();
  for (const each of subtree(document, id)) {
    const { finish } = document.nodes[each]!;
    if (finish) counts.set(finish, (counts.get(finish) ?? 0) + 1);
  }
  return [...counts].sort(([, a], [, b]) => b - a)[0]?.[0] ?? null;
}
