import { inject, Injectable } from '@angular/core';
import Fuse from 'fuse.js';
import { inOrder, type Light, type SetPiece } from '@zippy/core/document';
import { SET_PIECES } from '@zippy/core/geometry';
import { LAMP_KINDS, STATIONS, type StationName } from '@zippy/core/optics';
import { LAMP_VIEWS } from '../kinds/lamps';
import { MOVE_STARTS } from '../kinds/moves';
import { PIECE_VIEWS } from '../kinds/set-pieces';
import { READY_SETS } from '@zippy/core/sets';
import { FINISH_SHELF } from '@zippy/core/shelf';
import { Colourways } from '../store/edits/colourways';
import { Moves } from '../store/edits/moves';
import { Parts } from '../store/edits/parts';
import { ReadySets } from '../store/edits/ready-sets';
import { Studio } from '../store/studio';
import type { SelectionKind } from '../store/view/view.state';
import { Things } from '../store/edits/things';
import { Commands, type Command } from './commands';

/** Most that the palette shows at once. */
const MOST = 60;
/** How far a word may be from what is called so: 0 is the same, 1 anything. */
const LOOSE = 0.3;

/** Whatever can be called by words: every action, all that can be added, and every thing of the project by its name. */
@Injectable({ providedIn: 'root' })
export class Everything {
  private readonly commands = inject(Commands);
  private readonly studio = inject(Studio);
  private readonly things = inject(Things);
  private readonly parts = inject(Parts);
  private readonly moves = inject(Moves);
  private readonly colourways = inject(Colourways);
  private readonly readySets = inject(ReadySets);

  /** What words may mean, the likeliest first; without words all actions. */
  find(text: string): Command[] {
    const actions = [...this.commands.all(), ...this.additions()];
    const asked = text.trim();
    if (asked === '') return actions.slice(0, MOST);
    const words = asked.toLowerCase().split(/\s+/);
    const named = (command: Command) => words.every((word) => command.name.toLowerCase().includes(word));
    const exact = actions.filter(named);
    // What is called just so comes before what is called so among other things.
    const whole = exact.filter(({ name }) => ` ${name.toLowerCase()}`.endsWith(` ${asked.toLowerCase()}`));
    const things = this.thingsNamed(named);
    const fuse = new Fuse(actions, {
      keys: [
        { name: 'name', weight: 2 },
        { name: 'words', weight: 1 },
      ],
      threshold: LOOSE,
      ignoreLocation: true,
      useExtendedSearch: true,
    });
    const near = fuse.search(asked).map(({ item }) => item);
    return [...new Set([...whole, ...exact, ...things, ...near])].slice(0, MOST);
  }

  /** Every kind of thing that can be added, and every finish of the shelf. */
  private additions(): Command[] {
    const { things, parts, studio } = this;
    const nodes = studio.selectedNodes();
    return [
      ...(Object.keys(LAMP_KINDS) as Light['kind'][]).map((kind) => ({
        name: `Add a light: ${LAMP_KINDS[kind].title}`,
        words: LAMP_VIEWS[kind].words,
        run: () => (studio.openDesk('lights'), things.addLightBeside(kind)),
      })),
      ...(Object.keys(STATIONS) as StationName[]).map((station) => ({
        name: `Add a light: ${STATIONS[station].title} panel`,
        words: `${LAMP_VIEWS.panel.words} ${station} rim back top`,
        run: () => (studio.openDesk('lights'), things.addLightBeside('panel', station)),
      })),
      {
        name: 'Surprise me with a set',
        words: 'random studio scene lighting made up idea',
        run: () => (studio.openDesk('set'), this.readySets.surprise()),
      },
      ...READY_SETS.map((ready) => ({
        name: `Ready set: ${ready.name}`,
        words: `studio scene lighting ${ready.words}`,
        run: () => (studio.openDesk('set'), this.readySets.put(ready)),
      })),
      ...(Object.keys(SET_PIECES) as SetPiece['kind'][]).map((kind) => ({
        name: `Add a set piece: ${SET_PIECES[kind].title}`,
        words: `primitive shape prop stage ${PIECE_VIEWS[kind].words}`,
        run: () => (studio.openDesk('model'), parts.addPiece(kind)),
      })),
      { name: 'Add a helper', words: 'null empty locator pivot', run: () => parts.addHelper() },
      ...MOVE_STARTS.flatMap(({ kind, start }) => {
        if (this.moves.targets(kind).length === 0) return [];
        const run = () => (studio.openDesk('motion'), this.moves.begin(kind, start));
        return [{ name: `Add a move: ${start.title}`, words: start.words, run }];
      }),
      {
        name: 'Add a colourway',
        words: 'variant colour version option',
        run: () => (studio.openDesk('finish'), this.colourways.add()),
      },
      ...this.colourways.all().map(({ id, name }) => ({
        name: `Show the colourway ${name}`,
        words: 'variant colour version',
        run: () => this.colourways.show(id),
      })),
      ...(nodes.length === 0
        ? []
        : FINISH_SHELF.flatMap(({ family, finishes }) =>
            finishes.map((finish) => ({
              name: `Wear ${finish.name}`,
              words: `finish material ${family}`,
              run: () => things.wear(nodes, finish),
            })),
          )),
      {
        name: 'Make a film file',
        words: 'deliver mp4 gif png prores webm export video encode',
        run: () => studio.openDesk('reel'),
      },
      { name: 'Render a take', words: 'frames output final image', run: () => studio.openDesk('render') },
    ];
  }

  /** Things of the project whose names hold the words. */
  private thingsNamed(named: (command: Command) => boolean): Command[] {
    const { studio } = this;
    const document = studio.document();
    const found: Command[] = [];
    const add = (what: string, kind: SelectionKind, id: string, name: string, go: () => void) => {
      if (found.length >= MOST) return;
      const command = { name: `${what} "${name}"`, run: () => (go(), studio.select(kind, id)) };
      if (named(command)) found.push(command);
    };
    const at = (desk: 'model' | 'finish' | 'lights' | 'camera' | 'render') => () => studio.openDesk(desk);
    for (const { id, name } of inOrder(document.lights)) add('Light', 'light', id, name, at('lights'));
    for (const { id, name } of inOrder(document.cameras)) add('Camera', 'camera', id, name, at('camera'));
    for (const { id, name } of Object.values(document.finishes)) add('Finish', 'finish', id, name, at('finish'));
    for (const { id, number, shotName } of studio.takes())
      add('Take', 'take', id, `${number} of ${shotName}`, at('render'));
    for (const { id, name, kind } of Object.values(document.nodes))
      add(kind === 'part' ? 'Part' : kind === 'group' ? 'Group' : 'Helper', 'node', id, name, at('model'));
    return found;
  }
}
