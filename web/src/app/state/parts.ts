import { inject, Injectable, Injector } from '@angular/core';
import { inOrder } from '@zippy/core/document';
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
} from '@zippy/core/motion';
import { Ask } from '../dialogs/ask';
import { MeshLibrary } from '../picture/mesh-library';
import { Session } from './session';
import { Studio } from './studio';

/** More parts than these make a tree nobody can use. */
const MOST_PIECES = 500;

/** Edits of the tree of parts; what is selected is what they work on. */
@Injectable({ providedIn: 'root' })
export class Parts {
  private readonly studio = inject(Studio);
  private readonly session = inject(Session);
  private readonly ask = inject(Ask);
  private readonly injector = inject(Injector);

  private select(ids: readonly string[]): void {
    if (ids.length > 0) this.studio.view({ selection: ids.map((id) => ({ kind: 'node', id })), keys: [] });
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
    else this.session.tell('Joining takes two parts or more. Select them with Ctrl held down.');
  }

  /** Makes parts of the selected part's faces or loose shells. */
  async split(by: 'faces' | 'shells'): Promise<void> {
    const id = this.studio.selectedNodes().at(-1);
    const mesh = id && this.studio.document().nodes[id]?.mesh;
    if (!mesh) return this.session.tell('Select the part that shall be split.');
    if (mesh.joined) return this.session.tell('This part was joined from others. Undo that, and split those.');
    try {
      const groups = await this.injector.get(MeshLibrary).divide(mesh, by);
      const found = `${groups.length.toLocaleString('en')} ${by === 'faces' ? 'faces' : 'loose shells'}`;
      if (groups.length < 2)
        return this.session.tell(`This part has only ${found.replace(/s$/, '')}; there is nothing to split.`);
      if (groups.length > MOST_PIECES)
        return this.session.tell(`This part has ${found}; at most ${MOST_PIECES} parts can be made of one.`);
      let made: string[] = [];
      this.studio.edit('Split', (draft) => void (made = splitPart(draft, id, groups)));
      this.select(made.slice(0, 1));
    } catch (error) {
      this.session.tell(error);
    }
  }

  selectAlike(by: 'shape' | 'finish'): void {
    this.select(partsAlike(this.studio.document(), this.studio.selectedNodes(), by));
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
