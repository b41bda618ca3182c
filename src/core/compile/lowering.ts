import { own } from '../base/own';
import { laneName } from '../base/lane-name';
import { arrivingKey, outputKey } from '../graph/result-key';
import { assert, present } from '../base/assert';
import { FormulaError } from '../nodes/formula/tokens';
import {
  INPUT_EDGE,
  OUTPUT_EDGE,
  SURFACE_OUTPUT,
  isFormula,
  isRamp,
  isTriple,
} from '../graph/document';
import type {
  GroupDefinition,
  Network,
  NetworkDocument,
  NodeInstance,
  Strand,
  ValueKind,
} from '../graph/document';
import type { Builder } from '../ir/builder';
import type { F32, Lanes3 } from '../ir/types';
import type { AnyLowered, InputPort, ModelReads, NodeDefinition } from '../nodes/define';
import { CURVE_ROW, CURVE_ROWS, RAMP_ROW, RAMP_ROWS, STOP_ASPECTS } from '../nodes/ramp-table';
import type { OpenStop } from '../nodes/ramp-table';
import { plainSurface } from '../nodes/surface-lanes';
import type { SurfaceLanes } from '../nodes/parameters/lanes';
import { chosenOptions, definitionOf, groupOf, inputPort } from './catalogue';
import { reportFormula } from './check/check-node';
import { CheckReport } from './check/report';
import { asQuantity, toScalar, toTriple } from './convert';
import { applyDrives } from './drives';
import { IMAGE_UNIFORMS, readingOf } from './images';
import type { ImageSlot } from './images';
import type { Lowered } from './convert';
import { makeMapSlot } from './map-slots';
import type { MapSlot } from './map-slots';
import { readsOf } from './model-reads';
import type { EvensOut, SharedReads } from './model-reads';
import { topologicalOrder } from './order';
import { ALL_USED } from './used-outputs';
import type { UsedOutputs } from './used-outputs';
import { findNode, valueOf } from './uniforms';
import type { Binding, BindingSource } from './uniforms';

/** One open board: the material's own network, or a group's inside one of its nodes. */
interface Scope {
  readonly path: readonly string[];
  readonly network: Network;
  readonly group: GroupDefinition | null;
  readonly inputs: ReadonlyMap<string, Lowered>;
  readonly outputs: Map<string, Lowered>;
  readonly arriving: ReadonlyMap<string, readonly Strand[]>;
}

/** Turns a checked document into IR: opens groups, resolves dials, converts along strands. */
export class Lowering {
  readonly bindings: Binding[] = [];
  readonly mapSlots: MapSlot[] = [];
  readonly imageSlots: ImageSlot[] = [];
  readonly report = new CheckReport();
  /**
   * Every node output, and every value arriving at a scalar input, by their result keys.
   */
  readonly results = new Map<string, Lowered>();
  private readonly model: SharedReads;

  constructor(
    private readonly b: Builder,
    private readonly document: NetworkDocument,
    evensOut: EvensOut = [],
    private readonly used: UsedOutputs = ALL_USED,
  ) {
    this.model = readsOf(b, this.bindings, evensOut);
  }

  /**
   * Lowers everything and returns the surface the material ends in; plain clay where nothing is
   * wired to it.
   */
  lowerMaterial(): SurfaceLanes {
    const scope = this.makeScope([], this.document.network, null, new Map());
    this.lowerScope(scope);
    const end = scope.arriving.get(`${OUTPUT_EDGE}/${SURFACE_OUTPUT}`)?.[0];
    const surface = end && this.sourceOf(scope, end);
    return surface?.kind === 'surface' ? surface.surface : this.clay();
  }

  clay(): SurfaceLanes {
    return plainSurface(this.b, this.model.normal);
  }

  private makeScope(
    path: readonly string[],
    network: Network,
    group: GroupDefinition | null,
    inputs: ReadonlyMap<string, Lowered>,
  ): Scope {
    const arriving = new Map<string, Strand[]>();
    for (const strand of network.strands) {
      const key = `${strand.to.node}/${strand.to.input}`;
      arriving.set(key, [...(arriving.get(key) ?? []), strand]);
    }
    for (const strands of arriving.values())
      strands.sort((x, y) => x.order - y.order || (x.id < y.id ? -1 : 1));
    return { path, network, group, inputs, outputs: new Map(), arriving };
  }

  private lowerScope(scope: Scope): void {
    const byId = new Map(scope.network.nodes.map((node) => [node.id, node]));
    for (const id of topologicalOrder(scope.network).order) {
      const node = present(byId.get(id), 'node');
      const outputs =
        node.type === 'group' ? this.lowerGroup(scope, node) : this.lowerNode(scope, node);
      for (const [output, value] of Object.entries(outputs)) {
        const kept = node.limited ? this.limit(value) : value;
        scope.outputs.set(`${id}/${output}`, kept);
        this.results.set(outputKey([...scope.path, id], output), kept);
      }
    }
  }

  private limit(value: Lowered): Lowered {
    if (value.kind === 'scalar') return { ...value, lanes: [this.b.saturate(value.lanes[0])] };
    if (value.kind !== 'colour') return value;
    const [x, y, z] = value.lanes;
    return { kind: 'colour', lanes: [this.b.saturate(x), this.b.saturate(y), this.b.saturate(z)] };
  }

  /**
   * What a strand brings; undefined when it comes from an input of a group that has neither strand
   * nor fallback.
   */
  private sourceOf(scope: Scope, strand: Strand): Lowered | undefined {
    return strand.from.node === INPUT_EDGE
      ? scope.inputs.get(strand.from.output)
      : scope.outputs.get(`${strand.from.node}/${strand.from.output}`);
  }

  private wiredTo(
    scope: Scope,
    node: string,
    input: string,
  ): readonly { value: Lowered; strand: Strand }[] {
    return (scope.arriving.get(`${node}/${input}`) ?? []).flatMap((strand) => {
      const value = this.sourceOf(scope, strand);
      return value ? [{ value, strand }] : [];
    });
  }

  // ---- groups

  private lowerGroup(scope: Scope, node: NodeInstance): Record<string, Lowered> {
    const group = present(groupOf(this.document, node), 'group');
    const path = [...scope.path, node.id];
    const inputs = new Map<string, Lowered>();
    for (const port of group.inputs) {
      const wired = this.wiredTo(scope, node.id, port.id)[0];
      if (wired) inputs.set(port.id, this.convert(wired.value, port.kind, wired.strand.conversion));
      else if (port.fallback !== undefined && port.kind !== 'surface')
        inputs.set(port.id, this.bound(port.kind, { from: 'fallback', path, input: port.id }));
    }
    for (const dial of group.dials) {
      const wired = this.wiredTo(scope, node.id, dial.id)[0];
      inputs.set(
        dial.id,
        wired
          ? this.convert(wired.value, dial.kind, wired.strand.conversion)
          : this.bound(dial.kind, { from: 'dial', path, dial: dial.id }),
      );
    }
    const inner = this.makeScope(path, group.network, group, inputs);
    this.lowerScope(inner);
    return Object.fromEntries(
      group.outputs.map((port) => {
        const wired = this.wiredTo(inner, OUTPUT_EDGE, port.id)[0];
        return [
          port.id,
          wired
            ? this.convert(wired.value, port.kind, wired.strand.conversion)
            : this.nothing(port.kind),
        ];
      }),
    );
  }

  private nothing(kind: ValueKind): Lowered {
    const zero = this.b.f(0);
    if (kind === 'surface') return { kind, surface: this.clay() };
    return kind === 'scalar' ? { kind, lanes: [zero] } : { kind, lanes: [zero, zero, zero] };
  }

  private convert(value: Lowered, kind: ValueKind, method?: Strand['conversion']): Lowered {
    if (kind === 'surface') {
      assert(value.kind === 'surface', 'surfaces never convert');
      return value;
    }
    if (kind !== 'scalar') return { kind, lanes: toTriple(value) };
    return value.kind === 'scalar' ? value : { kind, lanes: [toScalar(this.b, value, method)] };
  }

  private bound(kind: 'scalar' | 'vector' | 'colour', source: BindingSource): Lowered {
    const index = this.b.reserveUniforms(kind === 'scalar' ? 1 : 3);
    this.bindings.push({ index, shape: kind === 'scalar' ? 'scalar' : 'triple', source });
    const lane = (k: number): F32 => this.b.uniform(index + k);
    return kind === 'scalar'
      ? { kind, lanes: [lane(0)] }
      : { kind, lanes: [lane(0), lane(1), lane(2)] };
  }

  // ---- catalogue nodes
  // ----------------------------------------------------------------------------------------

  private lowerNode(scope: Scope, node: NodeInstance): Record<string, Lowered> {
    const definition = present(definitionOf(node), 'definition');
    const options = chosenOptions(definition, node);
    let flexKind: 'scalar' | 'vector' | 'colour' = 'scalar';
    const inputs: Record<string, AnyLowered> = {};
    const settings = new Map<string, F32>();
    for (const [id, port] of Object.entries(definition.inputs)) {
      const { lowered, kind } = this.lowerInput(scope, node, id, port, settings);
      inputs[id] = lowered;
      if (port.kind === 'flex') flexKind = widest(flexKind, kind);
    }
    const model: ModelReads = {
      ...this.model,
      isUsed: (output) => this.used.has(outputKey([...scope.path, node.id], output)),
      isWired: (input) => this.wiredTo(scope, node.id, input).length > 0,
      meshMap: (kind, wanted, { which, detail } = {}) => {
        const path = [...scope.path, node.id],
          field = laneName({ of: 'map', field: path.join('/') + (which ? `~${which}` : '') });
        const isDetailed = detail !== undefined && this.wiredTo(scope, node.id, detail).length > 0;
        this.mapSlots.push(
          makeMapSlot(
            this.b,
            { field, kind, ...(isDetailed ? { detail: { path, input: detail } } : {}) },
            wanted,
            settings,
            options,
          ),
        );
        return this.b.input(field);
      },
    };
    return this.wrapOutputs(
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
      const k = scope.network.nodes.indexOf(node);
      reportFormula(this.report, error, node, [
        ...networkPath(scope),
        'nodes',
        k,
        'values',
        'formula',
      ]);
      return Object.fromEntries(Object.keys(definition.outputs).map((id) => [id, [this.b.f(0)]]));
    }
  }

  private wrapOutputs(
    definition: NodeDefinition,
    raw: Readonly<Record<string, AnyLowered>>,
    flexKind: 'scalar' | 'vector' | 'colour',
  ): Record<string, Lowered> {
    return Object.fromEntries(
      Object.entries(definition.outputs).map(([id, port]): [string, Lowered] => {
        const value = present(raw[id], `output ${id} of ${definition.id}`);
        if (port.kind === 'surface')
          return [id, { kind: 'surface', surface: value as SurfaceLanes }];
        if (port.kind === 'scalar')
          return [
            id,
            {
              kind: 'scalar',
              lanes: [value as F32],
              ...(port.quantity ? { quantity: port.quantity } : {}),
            },
          ];
        if (port.kind !== 'flex')
          return [
            id,
            { kind: port.kind as 'vector' | 'colour', lanes: value as unknown as Lanes3 },
          ];
        const lanes = value as readonly F32[];
        if (lanes.length === 1) return [id, { kind: 'scalar', lanes: lanes as unknown as [F32] }];
        return [
          id,
          { kind: flexKind === 'scalar' ? 'vector' : flexKind, lanes: lanes as unknown as Lanes3 },
        ];
      }),
    );
  }

  private lowerInput(
    scope: Scope,
    node: NodeInstance,
    id: string,
    port: InputPort,
    settings: Map<string, F32>,
  ): { lowered: AnyLowered; kind: ValueKind } {
    const path = [...scope.path, node.id];
    const wired = this.wiredTo(scope, node.id, id);
    if (port.kind === 'surface') {
      const [first] = wired;
      return {
        lowered: first?.value.kind === 'surface' ? first.value.surface : this.clay(),
        kind: 'surface',
      };
    }
    if (port.kind === 'scalars')
      return {
        lowered: wired.map(({ value, strand }) => toScalar(this.b, value, strand.conversion)),
        kind: 'scalar',
      };
    if (port.kind === 'ramp') return { lowered: this.rampTable(scope, node, id), kind: 'colour' };
    if (port.kind === 'image') return { lowered: this.imageTable(scope, node, id), kind: 'colour' };
    if (port.kind === 'curve') return { lowered: this.curveTable(path, id), kind: 'scalar' };
    if (port.kind === 'formula') {
      const text = valueOf(node, id);
      return { lowered: isFormula(text) ? text.formula : '', kind: 'scalar' };
    }
    const [first] = wired;
    const base = first
      ? this.asPort(first.value, port, first.strand)
      : this.unwired(node, path, id, port);
    const driven = scope.group
      ? applyDrives(
          this.b,
          {
            group: scope.group,
            path: scope.path,
            inputs: scope.inputs,
            bound: (kind, source) => this.bound(kind, source),
          },
          node.id,
          id,
          base,
        )
      : base;
    this.results.set(arrivingKey(path, id), driven);
    if (port.kind === 'fixed') {
      settings.set(id, toScalar(this.b, driven));
      return { lowered: id, kind: 'scalar' };
    }
    if (port.kind === 'scalar') return { lowered: toScalar(this.b, driven), kind: 'scalar' };
    if (port.kind === 'flex' && driven.kind !== 'surface')
      return { lowered: driven.lanes, kind: driven.kind };
    return { lowered: toTriple(driven), kind: port.kind as ValueKind };
  }

  private asPort(value: Lowered, port: InputPort, strand: Strand): Lowered {
    if (port.kind === 'flex') return value;
    const converted = this.convert(value, port.kind as ValueKind, strand.conversion);
    return strand.plain ? converted : asQuantity(this.b, converted, port.quantity);
  }

  private unwired(
    node: NodeInstance,
    path: readonly string[],
    id: string,
    port: InputPort,
  ): Lowered {
    const typed = own(node.values, id);
    if (typed === undefined && typeof port.default === 'string') {
      const lanes =
        port.default === 'position'
          ? this.model.position
          : port.default === 'normal'
            ? this.model.normal
            : this.model.textureCoordinates;
      return { kind: 'vector', lanes };
    }
    const kind =
      port.kind === 'colour'
        ? 'colour'
        : port.kind === 'vector'
          ? 'vector'
          : port.kind === 'flex' && isTriple(typed)
            ? 'vector'
            : 'scalar';
    return this.bound(kind, { from: 'input', path, input: id });
  }

  private rampTable(scope: Scope, node: NodeInstance, input: string): AnyLowered {
    const path = [...scope.path, node.id];
    const base = this.b.reserveUniforms((RAMP_ROWS + 1) * RAMP_ROW, 4);
    this.bindings.push({ index: base, shape: 'ramp', source: { from: 'input', path, input } });
    return {
      base,
      count: this.b.uniform(base + RAMP_ROWS * RAMP_ROW),
      open: this.openStops(scope, node, input),
    };
  }

  /** Stops that are wired or driven, with what stands in place of the typed values. */
  private openStops(scope: Scope, node: NodeInstance, input: string): readonly OpenStop[] {
    const ramp = own(node.values, input);
    if (!isRamp(ramp)) return [];
    const path = [...scope.path, node.id];
    return ramp.stops
      .filter((stop) => (stop.open?.length ?? 0) > 0)
      .map((stop) => {
        const row = toScalar(
          this.b,
          this.bound('scalar', { from: 'stop row', path, input, stop: stop.id }),
        );
        const given = STOP_ASPECTS.filter((aspect) => stop.open?.includes(aspect)).map((aspect) => {
          const id = `${input}.${stop.id}.${aspect}`;
          return [
            aspect,
            this.lowerInput(scope, node, id, present(inputPort(node, id), id), new Map()).lowered,
          ];
        });
        return { row, ...(Object.fromEntries(given) as Omit<OpenStop, 'row'>) };
      });
  }

  private imageTable(scope: Scope, node: NodeInstance, input: string): AnyLowered {
    const base = this.b.reserveUniforms(IMAGE_UNIFORMS, 4);
    const slot = this.b.reserveImage();
    this.imageSlots.push({
      slot,
      base,
      path: [...scope.path, node.id],
      input,
      reading: readingOf(this.document, scope.network, scope.group, node),
    });
    const lane = (k: number): F32 => this.b.uniform(base + k);
    return {
      slot,
      width: lane(0),
      height: lane(1),
      rows: lane(2),
      lastLevel: lane(3),
      mean: [lane(4), lane(5), lane(6), lane(7)],
    };
  }

  private curveTable(path: readonly string[], input: string): AnyLowered {
    const base = this.b.reserveUniforms((CURVE_ROWS + 2) * CURVE_ROW, 4);
    this.bindings.push({ index: base, shape: 'curve', source: { from: 'input', path, input } });
    return { base, count: this.b.uniform(base + (CURVE_ROWS + 1) * CURVE_ROW) };
  }
}

const networkPath = (scope: Scope): readonly string[] =>
  scope.group ? ['groups', scope.group.id, 'network'] : ['network'];

function widest(
  a: 'scalar' | 'vector' | 'colour',
  kind: ValueKind,
): 'scalar' | 'vector' | 'colour' {
  const rank = { scalar: 0, vector: 1, colour: 2, surface: 0 } as const;
  return rank[kind] > rank[a] && kind !== 'surface' ? kind : a;
}

/**
 * The kind of every output and arriving input by result key, found by lowering without a back end.
 */
export function kindsOf(results: ReadonlyMap<string, Lowered>): Map<string, ValueKind> {
  return new Map([...results].map(([key, value]) => [key, value.kind]));
}

export { findNode };
