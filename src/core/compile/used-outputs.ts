import { arrivingKey, outputKey, parseResultKey } from '../graph/result-key';
import { INPUT_EDGE, OUTPUT_EDGE, SURFACE_OUTPUT } from '../graph/document';
import type { Network, NetworkDocument, NodeInstance, Strand } from '../graph/document';
import { findGroupDefinition } from './catalogue';

/** Outputs of nodes, by `path:output`, that something in a program depends on. */
export interface UsedOutputs {
  has(key: string): boolean;
}
/** What a program is to write, as its request says. */
interface Wanted {
  readonly surface: boolean;
  readonly taps: 'all' | readonly string[];
  readonly watched?: readonly string[];
}

/** Where it is not known what is wanted, everything is. */
export const ALL_USED: UsedOutputs = { has: () => true };

interface Board {
  readonly path: readonly string[];
  readonly nodes: ReadonlyMap<string, NodeInstance>;
  readonly arriving: ReadonlyMap<string, readonly Strand[]>;
}

const boardOf = (path: readonly string[], { nodes, strands }: Network): Board => {
  const arriving = new Map<string, Strand[]>();
  for (const strand of strands) {
    const known = arriving.get(strand.to.node);
    if (known) known.push(strand);
    else arriving.set(strand.to.node, [strand]);
  }
  return { path, nodes: new Map(nodes.map((node) => [node.id, node])), arriving };
};

interface Arrival {
  readonly path: readonly string[];
  readonly id: string;
  readonly input: string | undefined;
}

/**
 * Follows strands backwards from what is wanted; what arrives at a node counts as used as soon as
 * the node does.
 */
class Search {
  private readonly used = new Set<string>();
  private readonly waiting: Arrival[] = [];
  private readonly boards = new Map<string, Board>();
  private readonly entered = new Set<string>();

  constructor(private readonly document: NetworkDocument) {}

  /** The board inside the node that a path leads to. */
  private board(path: readonly string[]): Board | null {
    const key = path.join('/');
    const known = this.boards.get(key);
    if (known) return known;
    const network = path.length === 0 ? this.document.network : this.networkInside(path);
    if (!network) return null;
    const made = boardOf(path, network);
    this.boards.set(key, made);
    return made;
  }

  private networkInside(path: readonly string[]): Network | undefined {
    const node = this.board(path.slice(0, -1))?.nodes.get(path.at(-1) ?? '');
    return node && findGroupDefinition(this.document, node)?.network;
  }

  output(path: readonly string[], id: string, output: string): void {
    const node = this.board(path)?.nodes.get(id);
    const key = outputKey([...path, id], output);
    if (!node || this.used.has(key)) return;
    this.used.add(key);
    if (node.type === 'group') this.arriving([...path, id], OUTPUT_EDGE, output);
    this.arriving(path, id);
  }

  /** What arrives at a node, or at one input of it, is to be followed. */
  arriving(path: readonly string[], id: string, input?: string): void {
    const key = arrivingKey([...path, id], input ?? '');
    if (this.entered.has(key)) return;
    this.entered.add(key);
    this.waiting.push({ path, id, input });
  }

  /**
   * Follows everything to its sources; without recursion, as networks may be thousands of nodes
   * long.
   */
  finish(): ReadonlySet<string> {
    for (let at = this.waiting.pop(); at; at = this.waiting.pop()) {
      for (const { from, to } of this.board(at.path)?.arriving.get(at.id) ?? []) {
        if (at.input !== undefined && to.input !== at.input) continue;
        // What arrives at a group's inputs is followed with the group itself.
        if (from.node !== INPUT_EDGE) this.output(at.path, from.node, from.output);
      }
    }
    return this.used;
  }
}

/** The outputs that a program for a request depends on, at the least those it really reads. */
export function findUsedOutputs(document: NetworkDocument, request: Wanted): UsedOutputs {
  if (request.taps === 'all') return ALL_USED;
  const search = new Search(document);
  if (request.surface) search.arriving([], OUTPUT_EDGE, SURFACE_OUTPUT);
  for (const key of [...request.taps, ...(request.watched ?? [])]) {
    const { path, end, port } = parseResultKey(key);
    const id = path.at(-1) ?? '';
    if (end !== 'input') search.output(path.slice(0, -1), id, port);
    else search.arriving(path.slice(0, -1), id);
  }
  return search.finish();
}
