import { tidyNodes } from './tidy';
import { findDefinition } from '../compile/catalogue';
import { fromHex } from '../surface/colour-science';
import { OUTPUT_EDGE, SURFACE_OUTPUT, emptyDocument } from '../graph/document';
import type {
  InputValue,
  Network,
  NetworkDocument,
  NodeInstance,
  RampStop,
  Segment,
  Strand,
  Triple,
} from '../graph/document';

/** A colour given as sRGB, as a linear one. */
export function paint(hex: string): Triple {
  const colour = fromHex(hex);
  if (!colour) throw new Error(`Invariant broken: ${hex} is no colour`);
  return colour;
}

/** A ramp out of positions, colours as `#rrggbb`, and how each goes on to the next. */
export function makeRamp(...stops: readonly (readonly [number, string, Segment?])[]): {
  stops: readonly RampStop[];
} {
  return {
    stops: stops.map(([position, hex, segment], k) => ({
      id: `s${String(k + 1)}`,
      position,
      colour: paint(hex),
      alpha: 1,
      segment: segment ?? 'linear',
    })),
  };
}

interface Given {
  readonly name?: string;
  readonly values?: Record<string, InputValue>;
  readonly options?: Record<string, string>;
}

/** Writes demo networks down briefly: nodes by id, strands as 'from.output > to.input'. */
export class NetworkSketch {
  private readonly nodes: NodeInstance[] = [];
  private readonly strands: Strand[] = [];

  node(id: string, type: string, { name, values, options }: Given = {}): this {
    this.nodes.push({
      id,
      type,
      version: findDefinition(type)?.version ?? 1,
      at: [0, 0],
      values: values ?? {},
      options: options ?? {},
      ...(name === undefined ? {} : { name }),
    });
    return this;
  }

  wire(...texts: readonly string[]): this {
    for (const text of texts) {
      const [from, to] = text.split('>').map((end) => end.trim().split('.')) as [
        [string, string],
        [string, string],
      ];
      const order = this.strands.filter(
        (strand) => strand.to.node === to[0] && strand.to.input === to[1],
      ).length;
      this.strands.push({
        id: `w${String(this.strands.length + 1)}`,
        from: { node: from[0], output: from[1] },
        to: { node: to[0], input: to[1] },
        order,
      });
    }
    return this;
  }

  /**
   * The network as the inside of a group: `outputs` are strands that leave it, by the id of the
   * output.
   */
  inside(outputs: Readonly<Record<string, string>>): Network {
    const ends = Object.entries(outputs).map(([id, from]): Strand => {
      const [node, output] = from.split('.') as [string, string];
      return {
        id: `end-${id}`,
        from: { node, output },
        to: { node: OUTPUT_EDGE, input: id },
        order: 0,
      };
    });
    const network = {
      nodes: this.nodes,
      strands: [...this.strands, ...ends],
      regions: [],
      notes: [],
    };
    return { ...network, nodes: tidyNodes(network) };
  }

  finish(name: string, end: string): NetworkDocument {
    const [node, output] = end.split('.') as [string, string];
    const last: Strand = {
      id: 'end',
      from: { node, output },
      to: { node: OUTPUT_EDGE, input: SURFACE_OUTPUT },
      order: 0,
    };
    const network = { nodes: this.nodes, strands: [...this.strands, last], regions: [], notes: [] };
    return { ...emptyDocument(name), network: { ...network, nodes: tidyNodes(network) } };
  }
}
