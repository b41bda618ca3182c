import { assert, present } from '../base/assert';
import { own } from '../base/own';
import { isFormula, isRamp, isTriple } from '../graph/document';
import type { NetworkDocument, NodeInstance, Strand, ValueKind } from '../graph/document';
import { arrivingKey } from '../graph/result-key';
import type { Builder } from '../ir/builder';
import type { F32, Lanes3 } from '../ir/types';
import type { AnyLowered, InputPort } from '../nodes/define';
import type { SurfaceLanes } from '../nodes/parameters/lanes';
import { CURVE_ROW, CURVE_ROWS, RAMP_ROW, RAMP_ROWS, STOP_ASPECTS } from '../nodes/ramp-table';
import type { OpenStop } from '../nodes/ramp-table';
import { plainSurface } from '../nodes/surface-lanes';
import { inputPort, neutralValue } from './catalogue';
import { asQuantity, toScalar, toTriple } from './convert';
import type { Lowered } from './convert';
import { applyDrives } from './drives';
import type { DriveScope } from './drives';
import { IMAGE_UNIFORMS, chooseReading } from './images';
import type { ImageSlot } from './images';
import type { SharedReads } from './model-reads';
import { wiredTo } from './scope';
import type { Scope } from './scope';
import { getInputValue } from './uniforms';
import type { Binding, BindingSource } from './uniforms';

/** Lowers what arrives at inputs: strands, typed values, dials, tables of ramps, curves, images. */
export class InputLowering {
  readonly imageSlots: ImageSlot[] = [];
  /** Every value that arrives at a numeric input, by its result key. */
  readonly arrived = new Map<string, Lowered>();

  /** @param bindings grows by what the program reads of uniforms */
  constructor(
    private readonly b: Builder,
    private readonly document: NetworkDocument,
    private readonly model: SharedReads,
    private readonly bindings: Binding[],
  ) {}

  clay(): SurfaceLanes {
    return plainSurface(this.b, this.model.normal);
  }

  nothing(kind: ValueKind): Lowered {
    const zero = this.b.f(0);
    if (kind === 'surface') return { kind, surface: this.clay() };
    return kind === 'scalar' ? { kind, lanes: [zero] } : { kind, lanes: [zero, zero, zero] };
  }

  convert(value: Lowered, kind: ValueKind, method?: Strand['conversion']): Lowered {
    if (kind === 'surface') {
      assert(value.kind === 'surface', 'surfaces never convert');
      return value;
    }
    const isPart = method !== undefined && value.kind !== 'scalar' && value.kind !== 'surface';
    if (kind !== 'scalar')
      return {
        kind,
        lanes: toTriple(
          isPart ? { kind: 'scalar', lanes: [toScalar(this.b, value, method)] } : value,
        ),
      };
    return value.kind === 'scalar' ? value : { kind, lanes: [toScalar(this.b, value, method)] };
  }

  /** The same, and what is absent stays absent. */
  convertAll(value: Lowered, kind: ValueKind, method?: Strand['conversion']): Lowered {
    const converted = this.convert(value, kind, method);
    return value.absent ? { ...converted, absent: true } : converted;
  }

  bound(kind: 'scalar' | 'vector' | 'colour', source: BindingSource): Lowered {
    const index = this.b.reserveUniforms(kind === 'scalar' ? 1 : 3);
    this.bindings.push({ index, shape: kind === 'scalar' ? 'scalar' : 'triple', source });
    const lane = (k: number): F32 => this.b.uniform(index + k);
    return kind === 'scalar'
      ? { kind, lanes: [lane(0)] }
      : { kind, lanes: [lane(0), lane(1), lane(2)] };
  }

  lowerInput(
    scope: Scope,
    node: NodeInstance,
    id: string,
    port: InputPort,
    settings: Map<string, F32>,
  ): { lowered: AnyLowered; kind: ValueKind } {
    const path = [...scope.path, node.id];
    const wired = wiredTo(scope, node.id, id);
    if (port.kind === 'surface') {
      const [first] = wired;
      return {
        lowered: first?.value.kind === 'surface' ? first.value.surface : this.clay(),
        kind: 'surface',
      };
    }
    if (port.kind === 'scalars')
      return {
        lowered: wired
          .filter(({ value }) => !value.absent)
          .map(({ value, strand }) => toScalar(this.b, value, strand.conversion)),
        kind: 'scalar',
      };
    if (port.kind === 'ramp') return { lowered: this.rampTable(scope, node, id), kind: 'colour' };
    if (port.kind === 'image') return { lowered: this.imageTable(scope, node, id), kind: 'colour' };
    if (port.kind === 'curve') return { lowered: this.curveTable(path, id), kind: 'scalar' };
    if (port.kind === 'formula') {
      const text = getInputValue(node, id);
      return { lowered: isFormula(text) ? text.formula : '', kind: 'scalar' };
    }
    const [first] = wired;
    const isAbsent = first?.value.absent === true;
    const base =
      first && !isAbsent
        ? this.asPort(first.value, port, first.strand)
        : isAbsent && port.quantity === 'mask'
          ? this.nothing('scalar')
          : (isAbsent && this.neutral(node, id)) || this.unwired(node, path, id, port);
    const driven = this.drive(scope, node, id, base);
    this.arrived.set(arrivingKey(path, id), driven);
    if (port.kind === 'fixed') {
      settings.set(id, toScalar(this.b, driven));
      return { lowered: id, kind: 'scalar' };
    }
    if (port.kind === 'scalar') return { lowered: toScalar(this.b, driven), kind: 'scalar' };
    if (port.kind === 'flex' && driven.kind !== 'surface')
      return { lowered: driven.lanes, kind: driven.kind };
    return { lowered: toTriple(driven), kind: port.kind as ValueKind };
  }

  /** What the dials of the board's group make of a value. */
  drive({ group, path, inputs }: Scope, node: NodeInstance, id: string, value: Lowered): Lowered {
    if (!group) return value;
    const bound: DriveScope['bound'] = (kind, source) => this.bound(kind, source);
    return applyDrives(this.b, { group, path, inputs, bound }, node.id, id, value);
  }

  /** What arrives at an input that takes one value, wired, driven or typed, as a value again. */
  lowerValue(scope: Scope, node: NodeInstance, id: string, port: InputPort): Lowered {
    const { lowered, kind } = this.lowerInput(scope, node, id, port, new Map());
    if (kind === 'surface') return { kind, surface: lowered as SurfaceLanes };
    if (port.kind !== 'flex' && kind === 'scalar') return { kind, lanes: [lowered as F32] };
    const lanes = lowered as readonly F32[];
    return kind === 'scalar'
      ? { kind, lanes: [present(lanes[0], 'lane')] }
      : { kind, lanes: lanes as Lanes3 };
  }

  private asPort(value: Lowered, port: InputPort, strand: Strand): Lowered {
    if (port.kind === 'flex')
      return strand.conversion === undefined || value.kind === 'surface'
        ? value
        : { kind: 'scalar', lanes: [toScalar(this.b, value, strand.conversion)] };
    const converted = this.convert(value, port.kind as ValueKind, strand.conversion);
    return strand.plain ? converted : asQuantity(this.b, converted, port.quantity);
  }

  /** What changes nothing at an input; null where there is no such value. */
  private neutral(node: NodeInstance, input: string): Lowered | null {
    const value = neutralValue(node, input);
    return value === undefined ? null : { kind: 'scalar', lanes: [this.b.f(value)] };
  }

  /** What a vector counts as by the coordinates it is said to be. */
  coordinates(which: 'position' | 'normal' | 'texture'): Lowered {
    const { position, normal, textureCoordinates } = this.model;
    const lanes =
      which === 'position' ? position : which === 'normal' ? normal : textureCoordinates;
    return { kind: 'vector', lanes };
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
      reading: chooseReading(this.document, scope.network, scope.group, node),
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
