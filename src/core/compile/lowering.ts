import { laneName } from '../base/lane-name';
import { outputKey, unlimitedKey } from '../graph/result-key';
import { present } from '../base/assert';
import { FormulaError } from '../nodes/formula/tokens';
import { OUTPUT_EDGE, SURFACE_OUTPUT, isFlowing } from '../graph/document';
import type { NetworkDocument, NodeInstance, ValueKind } from '../graph/document';
import type { Builder } from '../ir/builder';
import type { F32 } from '../ir/types';
import type { AnyLowered, ModelReads, NodeDefinition } from '../nodes/define';
import type { SurfaceLanes } from '../nodes/parameters/lanes';
import { chosenOptions, describePorts, findNodeDefinition, findGroupDefinition } from './catalogue';
import { reportFailure, reportFormula } from './check/check-node';
import { CheckReport } from './check/report';
import { toScalar } from './convert';
import type { Lowered } from './convert';
import type { ImageSlot } from './images';
import { makeMapSlot } from './map-slots';
import type { MapSlot } from './map-slots';
import { makeModelReads } from './model-reads';
import type { Antialiased, SharedReads } from './model-reads';
import { mixByAmount } from './amount';
import { topologicalOrder } from './order';
import { ALL_USED } from './used-outputs';
import type { UsedOutputs } from './used-outputs';
import { PassThrough } from './pass-through';
import { findNode } from './uniforms';
import type { Binding } from './uniforms';
import { InputLowering } from './lower-inputs';
import { widest, wrapOutputs } from './lower-outputs';
import { arrives, isFed, makeScope, findSource, valuesPath, wiredTo } from './scope';
import type { Scope } from './scope';

/** Turns a checked document into IR: opens groups, resolves dials, converts along strands. */
export class Lowering {
  readonly bindings: Binding[] = [];
  readonly mapSlots: MapSlot[] = [];
  readonly report = new CheckReport();
  /**
   * Every node output (also as it was before the node's limit), and every value arriving at a
   * scalar input, by their result keys.
   */
  readonly results: Map<string, Lowered>;
  private readonly model: SharedReads;
  private readonly inputs: InputLowering;
  private readonly bypass: PassThrough;

  constructor(
    private readonly b: Builder,
    private readonly document: NetworkDocument,
    antialias: Antialiased = [],
    private readonly used: UsedOutputs = ALL_USED,
  ) {
    this.model = makeModelReads(b, this.bindings, antialias);
    this.inputs = new InputLowering(b, document, this.model, this.bindings);
    this.bypass = new PassThrough(b, document, this.model, this.inputs);
    this.results = this.inputs.arrived;
  }

  get imageSlots(): readonly ImageSlot[] {
    return this.inputs.imageSlots;
  }
  clay(): SurfaceLanes {
    return this.inputs.clay();
  }

  /**
   * Lowers everything and returns the surface the material ends in; plain clay where nothing is
   * wired to it.
   */
  lowerMaterial(): SurfaceLanes {
    const scope = makeScope([], this.document.network, null, new Map());
    this.lowerScope(scope);
    const end = scope.arriving.get(`${OUTPUT_EDGE}/${SURFACE_OUTPUT}`)?.[0];
    const surface = end && findSource(scope, end);
    return surface?.kind === 'surface' ? surface.surface : this.inputs.clay();
  }

  private lowerScope(scope: Scope): void {
    const byId = new Map(scope.network.nodes.map((node) => [node.id, node]));
    for (const id of topologicalOrder(scope.network).order) {
      const node = present(byId.get(id), 'node');
      const outputs = this.lowerContained(scope, node);
      for (const [output, value] of Object.entries(outputs)) {
        const kept = node.limited ? this.limit(value) : value;
        if (node.limited) this.results.set(unlimitedKey([...scope.path, id], output), value);
        scope.outputs.set(`${id}/${output}`, kept);
        this.results.set(outputKey([...scope.path, id], output), kept);
      }
    }
  }

  /**
   * What a node gives. One that the program cannot compute is a finding at its card and gives
   * nothing; the rest of the network goes on.
   */
  private lowerContained(scope: Scope, node: NodeInstance): Record<string, Lowered> {
    try {
      return this.inAmount(scope, node, this.lowerAny(scope, node));
    } catch (error) {
      reportFailure(this.report, error, node, valuesPath(scope, node).slice(0, -1));
      const { outputs } = present(describePorts(this.document, node), 'ports');
      return Object.fromEntries(
        outputs.map(({ id, kind }) => [id, this.bypass.empty(kind, undefined)]),
      );
    }
  }

  private lowerAny(scope: Scope, node: NodeInstance): Record<string, Lowered> {
    if (node.off) return this.bypass.off(scope, node);
    if (node.type === 'group') return this.lowerGroup(scope, node);
    const without = this.bypass.withoutSource(scope, node);
    return { ...this.lowerNode(scope, node), ...without };
  }

  /** What a node makes, mixed with what it would pass on if it were off, by its overall amount. */
  private inAmount(
    scope: Scope,
    node: NodeInstance,
    made: Record<string, Lowered>,
  ): Record<string, Lowered> {
    if (node.amount === undefined || node.off) return made;
    const source = { from: 'amount', path: [...scope.path, node.id] } as const;
    const amount = toScalar(this.b, this.inputs.bound('scalar', source));
    const passed = this.bypass.off(scope, node);
    return Object.fromEntries(
      Object.entries(made).map(([output, value]) => {
        const from = passed[output];
        // What is absent is no black that something could be mixed with.
        const isWhole = !from || value.absent || this.bypass.isLost(scope, node, output);
        return [output, isWhole ? value : mixByAmount(this.b, from, value, amount)];
      }),
    );
  }

  private limit(value: Lowered): Lowered {
    if (value.kind === 'scalar') return { ...value, lanes: [this.b.saturate(value.lanes[0])] };
    if (value.kind !== 'colour') return value;
    const [x, y, z] = value.lanes;
    return { ...value, lanes: [this.b.saturate(x), this.b.saturate(y), this.b.saturate(z)] };
  }

  private lowerGroup(scope: Scope, node: NodeInstance): Record<string, Lowered> {
    const group = present(findGroupDefinition(this.document, node), 'group');
    const path = [...scope.path, node.id];
    const inputs = new Map<string, Lowered>();
    const lists = new Map<string, readonly Lowered[]>();
    for (const port of group.inputs) {
      const all = wiredTo(scope, node.id, port.id);
      const [wired] = all;
      const convert = ({ value, strand }: (typeof all)[number]): Lowered =>
        this.inputs.convertAll(value, port.kind, strand.conversion);
      if (port.many) lists.set(port.id, all.map(convert));
      const isStated = port.fallback !== undefined || port.unwired !== undefined;
      if (wired && !(wired.value.absent && isStated)) inputs.set(port.id, convert(wired));
      else if (port.fallback !== undefined && port.kind !== 'surface')
        inputs.set(
          port.id,
          this.inputs.bound(port.kind, { from: 'fallback', path, input: port.id }),
        );
      else if (port.unwired === 'neutral')
        inputs.set(port.id, { ...this.inputs.nothing(port.kind), absent: true });
      else if (port.unwired) inputs.set(port.id, this.inputs.coordinates(port.unwired));
    }
    for (const dial of group.dials.filter(isFlowing)) {
      const wired = wiredTo(scope, node.id, dial.id)[0];
      const setting =
        wired && !wired.value.absent
          ? this.inputs.convert(wired.value, dial.kind, wired.strand.conversion)
          : this.inputs.bound(dial.kind, { from: 'dial', path, dial: dial.id });
      inputs.set(dial.id, this.inputs.drive(scope, node, dial.id, setting));
    }
    const fed = new Set(
      [...group.inputs, ...group.dials]
        .map(({ id }) => id)
        .filter((id) => isFed(scope, node.id, id)),
    );
    const inner = makeScope(path, group.network, group, inputs, { lists, fed });
    this.lowerScope(inner);
    return Object.fromEntries(
      group.outputs.map((port) => {
        const wired = wiredTo(inner, OUTPUT_EDGE, port.id)[0];
        return [
          port.id,
          wired
            ? this.inputs.convertAll(wired.value, port.kind, wired.strand.conversion)
            : this.inputs.nothing(port.kind),
        ];
      }),
    );
  }

  private lowerNode(scope: Scope, node: NodeInstance): Record<string, Lowered> {
    const definition = present(findNodeDefinition(node), 'definition');
    const options = chosenOptions(definition, node);
    let flexKind: 'scalar' | 'vector' | 'colour' = 'scalar';
    const inputs: Record<string, AnyLowered> = {};
    const settings = new Map<string, F32>();
    for (const [id, port] of Object.entries(definition.inputs)) {
      const { lowered, kind } = this.inputs.lowerInput(scope, node, id, port, settings);
      inputs[id] = lowered;
      if (port.kind === 'flex') flexKind = widest(flexKind, kind);
    }
    const model: ModelReads = {
      ...this.model,
      isUsed: (output) => this.used.has(outputKey([...scope.path, node.id], output)),
      isWired: (input) => arrives(scope, node.id, input),
      isFed: (input) => isFed(scope, node.id, input),
      meshMap: (kind, wanted, { which, detail } = {}) => {
        const path = [...scope.path, node.id],
          field = laneName({ of: 'map', field: path.join('/') + (which ? `~${which}` : '') });
        const isDetailed = detail !== undefined && arrives(scope, node.id, detail);
        this.mapSlots.push(
          makeMapSlot(
            this.b,
            { field, path, kind, ...(isDetailed ? { detail: { path, input: detail } } : {}) },
            wanted,
            settings,
            options,
          ),
        );
        return this.b.input(field);
      },
    };
    return wrapOutputs(
      definition,
      this.lowerDefinition(scope, node, definition, inputs, options, model),
      flexKind,
    );
  }

  /**
   * A formula that does not fit what is wired in is a finding at its node, not a crash; black
   * stands in for it.
   */
  private lowerDefinition(
    scope: Scope,
    node: NodeInstance,
    definition: NodeDefinition,
    inputs: Record<string, AnyLowered>,
    options: Record<string, string>,
    model: ModelReads,
  ): Readonly<Record<string, AnyLowered>> {
    try {
      return definition.lower(this.b, inputs, options, model);
    } catch (error) {
      if (!(error instanceof FormulaError)) throw error;
      reportFormula(this.report, error, node, [...valuesPath(scope, node), 'formula']);
      return Object.fromEntries(Object.keys(definition.outputs).map((id) => [id, [this.b.f(0)]]));
    }
  }
}

/**
 * The kind of every output and arriving input by result key, found by lowering without a back end.
 */
export function listKinds(results: ReadonlyMap<string, Lowered>): Map<string, ValueKind> {
  return new Map([...results].map(([key, value]) => [key, value.kind]));
}

export { findNode };
