import { present } from '../base/assert';
import { own } from '../base/own';
import type { NetworkDocument, NodeInstance, ValueKind } from '../graph/document';
import type { Builder } from '../ir/builder';
import type { PortKind } from '../nodes/define';
import type { Quantity } from '../nodes/quantities';
import { passedInput } from './bypass';
import { describePorts, findNodeDefinition } from './catalogue';
import type { OutputView } from './catalogue';
import type { Lowered } from './convert';
import type { InputLowering } from './lower-inputs';
import type { SharedReads } from './model-reads';
import { sidesOf } from './neutral';
import { wiredTo } from './scope';
import type { Scope } from './scope';

/**
 * What nodes give that are off, and what those give that get nothing from one that is off.
 *
 * A node that is off passes on what it gets. A source gets nothing: what it made is absent, and
 * what it was made for goes on without it. A node with two sides passes its other side, a list
 * counts the rest, a mask lets nothing through, a setting is its own value, and a node that only
 * worked on what is absent makes nothing either.
 */
export class PassThrough {
  constructor(
    private readonly b: Builder,
    private readonly document: NetworkDocument,
    private readonly model: SharedReads,
    private readonly inputs: InputLowering,
  ) {}

  /** What the outputs of a node give while it is off. */
  off(scope: Scope, node: NodeInstance): Record<string, Lowered> {
    const ports = present(describePorts(this.document, node), 'ports');
    const isWired = (input: string): boolean => wiredTo(scope, node.id, input).length > 0;
    return Object.fromEntries(
      ports.outputs.map((output): [string, Lowered] => {
        const quantity = own(findNodeDefinition(node)?.outputs, output.id)?.quantity;
        const input =
          quantity === 'opacity' ? undefined : passedInput(node, ports, output, isWired);
        const passed = input && this.read(scope, node, input.id);
        if (!passed) return [output.id, this.empty(output.kind, quantity)];
        return [output.id, this.as(output, passed)];
      }),
    );
  }

  /**
   * What a node gives where what it works on is absent, by output; of an output that is computed
   * all the same, nothing is told. Null where all is there.
   */
  withoutSource(scope: Scope, node: NodeInstance): Record<string, Lowered> | null {
    const definition = findNodeDefinition(node);
    if (!definition) return null;
    const isAbsent = (input: string): boolean =>
      wiredTo(scope, node.id, input)[0]?.value.absent === true &&
      own(definition.inputs, input)?.kind !== 'scalars';
    if (!Object.keys(definition.inputs).some(isAbsent)) return null;
    const sides = sidesOf(node);
    const ports = present(describePorts(this.document, node), 'ports');
    const told = ports.outputs.flatMap((output): [string, Lowered][] => {
      const main = passedInput(node, ports, output, () => false)?.id;
      const meant =
        sides.length > 0 && main !== undefined ? sides : main === undefined ? [] : [main];
      const there = meant.filter((input) => !isAbsent(input));
      if (there.length === meant.length) return [];
      const [other] = there;
      const passed = other === undefined ? null : this.read(scope, node, other);
      return [[output.id, passed ? this.as(output, passed) : this.empty(output.kind, undefined)]];
    });
    return told.length > 0 ? Object.fromEntries(told) : null;
  }

  /** Whether what an output would pass on while its node is off is absent itself. */
  isLost(scope: Scope, node: NodeInstance, output: string): boolean {
    const ports = present(describePorts(this.document, node), 'ports');
    const port = ports.outputs.find(({ id }) => id === output);
    const arriving = (input: string) => wiredTo(scope, node.id, input);
    const main = port && passedInput(node, ports, port, (input) => arriving(input).length > 0);
    return main !== undefined && arriving(main.id)[0]?.value.absent === true;
  }

  /** What an output gives that passes nothing: black, the surface's own normal, or clay. */
  empty(kind: PortKind, quantity: Quantity | undefined): Lowered {
    if (quantity === 'opacity') return { kind: 'scalar', lanes: [this.b.f(1)] };
    if (kind === 'vector' && quantity === 'normal') return { kind, lanes: this.model.normal };
    return {
      ...this.inputs.nothing(kind === 'flex' ? 'scalar' : (kind as ValueKind)),
      absent: true,
    };
  }

  /** What arrives at an input; undefined where that is nothing. */
  private read(scope: Scope, node: NodeInstance, id: string): Lowered | undefined {
    const ports = present(describePorts(this.document, node), 'ports');
    const input = present(
      ports.inputs.find((each) => each.id === id),
      'input',
    );
    const isList = input.kind === 'scalars';
    const [first] = wiredTo(scope, node.id, id).filter(
      ({ value }) => !isList || value.absent !== true,
    );
    if (first?.value.absent) return undefined;
    if (first && (!input.port || isList))
      return this.inputs.convert(first.value, first.value.kind, first.strand.conversion);
    // A list has no value of its own: without strands nothing is passed.
    return input.port && !isList ? this.inputs.lowerValue(scope, node, id, input.port) : undefined;
  }

  private as({ kind }: OutputView, value: Lowered): Lowered {
    return kind === 'flex' ? value : this.inputs.convert(value, kind as ValueKind);
  }
}
