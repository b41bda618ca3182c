import { own } from '../base/own';
import { NODES } from '../nodes/registry.generated';
import { TYPED_ONLY, input as makeInput } from '../nodes/define';
import type { InputPort, NodeDefinition, PortKind } from '../nodes/define';
import { STOP_ASPECTS } from '../nodes/ramp-table';
import type { StopAspect } from '../nodes/ramp-table';
import { isRamp } from '../graph/document';
import type {
  Dial,
  GroupDefinition,
  NetworkDocument,
  NodeInstance,
  ValueKind,
} from '../graph/document';

const BY_ID = new Map(NODES.map((definition) => [definition.id, definition]));

/** The catalogue's definition of a node type; undefined for groups and unknown types. */
export const findDefinition = (type: string): NodeDefinition | undefined => BY_ID.get(type);
/**
 * What a node of the catalogue means: the present definition, or that of its own version where
 * that was kept. Undefined for groups, unknown types, and versions that are newer or wait for an
 * upgrade.
 */
export function findNodeDefinition({
  type,
  version,
}: Pick<NodeInstance, 'type' | 'version'>): NodeDefinition | undefined {
  const definition = BY_ID.get(type);
  return definition && ofVersion(definition, version);
}

/** The definition a version of a node is computed by. */
export function ofVersion(definition: NodeDefinition, version: number): NodeDefinition | undefined {
  if (definition.version === version) return definition;
  const former = definition.former?.[version];
  return former && 'kept' in former ? former.kept : undefined;
}
/** All nodes of the catalogue in their newest versions. */
export const listDefinitions = (): readonly NodeDefinition[] => NODES;

/** An input as the board and the checks see it. */
export interface InputView {
  readonly id: string;
  readonly title: string;
  readonly kind: PortKind;
  readonly port: InputPort | null;
  readonly dial: Dial | null;
  /** Not shown until something is wired to it. */
  readonly isHidden?: boolean;
  /** Of a dial: the port of what it drives, which says how it is set by hand. */
  readonly like?: InputPort;
}
/** An output as cards and strands show it. */
export interface OutputView {
  readonly id: string;
  readonly title: string;
  readonly kind: PortKind;
}
/** All inputs and outputs of a node, in the order they are shown. */
export interface PortsView {
  readonly inputs: readonly InputView[];
  readonly outputs: readonly OutputView[];
}

/** The group a node stands for, if it is one and the definition is there. */
export function findGroupDefinition(
  document: NetworkDocument,
  node: NodeInstance,
): GroupDefinition | undefined {
  return node.type === 'group' && node.group !== undefined
    ? own(document.groups, node.group)
    : undefined;
}

/** What a node is called: by its own name, else its group's, else its type's. */
export const getNodeTitle = (
  document: Pick<NetworkDocument, 'groups'>,
  node: NodeInstance,
): string =>
  node.name ??
  (node.group === undefined ? undefined : own(document.groups, node.group)?.name) ??
  findNodeDefinition(node)?.title ??
  node.type;

/**
 * An open stop of a ramp by the id of the input it makes, `stops.s2.colour`; null for any other id.
 */
export function findStop(
  node: NodeInstance,
  id: string,
): { readonly input: string; readonly id: string; readonly aspect: StopAspect } | null {
  const match = /^([^.]+)\.(.+)\.(position|colour|alpha)$/.exec(id);
  const [, input, stop, aspect] = match ?? [];
  const ramp = input === undefined ? undefined : own(node.values, input);
  if (
    input === undefined ||
    stop === undefined ||
    !isRamp(ramp) ||
    !ramp.stops.some((each) => each.id === stop && each.open?.includes(aspect as StopAspect))
  )
    return null;
  return { input, id: stop, aspect: aspect as StopAspect };
}

/** The inputs that open stops make, in the order of the stops. */
function stopPorts(node: NodeInstance): [string, InputPort][] {
  return Object.entries(node.values).flatMap(([input, value]) =>
    !isRamp(value)
      ? []
      : [...value.stops]
          .sort((a, b) => a.position - b.position)
          .flatMap((stop, k) =>
            STOP_ASPECTS.filter((aspect) => stop.open?.includes(aspect)).map(
              (aspect): [string, InputPort] => {
                const text = {
                  title: `Stop ${String(k + 1)} ${aspect}`,
                  help: `The ${aspect} of this stop; a strand or a dial takes its place.`,
                };
                return [
                  `${input}.${stop.id}.${aspect}`,
                  aspect === 'colour'
                    ? makeInput.colour({ ...text, default: stop.colour })
                    : makeInput.scalar({
                        ...text,
                        default: stop[aspect],
                        ...(aspect === 'alpha' ? { hard: [0, 1] as const } : {}),
                      }),
                ];
              },
            ),
          ),
  );
}

/** All inputs of a node of the catalogue, those of open stops included. */
export const inputPorts = (
  node: NodeInstance,
  definition: NodeDefinition,
): readonly (readonly [string, InputPort])[] => [
  ...Object.entries(definition.inputs),
  ...stopPorts(node),
];
/** One of them by its id. */
export const inputPort = (node: NodeInstance, id: string): InputPort | undefined =>
  own(findNodeDefinition(node)?.inputs, id) ?? stopPorts(node).find(([each]) => each === id)?.[1];

/** The ports of a node; null when its type or group is unknown. */
export const describePorts = (document: NetworkDocument, node: NodeInstance): PortsView | null =>
  describeNode(node, findGroupDefinition(document, node) ?? null);

/** The same by the node and the group it stands for. */
export function describeNode(node: NodeInstance, group: GroupDefinition | null): PortsView | null {
  if (group) return groupPorts(group);
  const definition = findNodeDefinition(node);
  if (!definition) return null;
  return {
    inputs: inputPorts(node, definition).map(([id, port]) => ({
      id,
      title: port.title,
      kind: port.kind,
      port,
      dial: null,
    })),
    outputs: Object.entries(definition.outputs).map(([id, port]) => ({
      id,
      title: port.title,
      kind: port.kind,
    })),
  };
}

/** The port of the first value that a dial drives, where that is of the catalogue. */
function likeOf(group: GroupDefinition, { drives: [first] }: Dial): Pick<InputView, 'like'> {
  const node = group.network.nodes.find(({ id }) => id === first?.node);
  const like = node && first ? inputPort(node, first.input) : undefined;
  return like ? { like } : {};
}

function groupPorts(group: GroupDefinition): PortsView {
  return {
    inputs: [
      ...group.inputs.map((port) => ({
        id: port.id,
        title: port.name,
        kind: port.many ? ('scalars' as const) : port.kind,
        port: null,
        dial: null,
        ...(port.hidden ? { isHidden: true } : {}),
      })),
      ...group.dials.map((dial) => ({
        id: dial.id,
        title: dial.name,
        kind: dial.kind,
        port: null,
        dial,
        ...likeOf(group, dial),
      })),
    ],
    outputs: group.outputs.map((port) => ({ id: port.id, title: port.name, kind: port.kind })),
  };
}

/**
 * Whether what leaves an output may enter an input. Surfaces never convert; some inputs are typed
 * only.
 */
export function mayConnect(from: PortKind | ValueKind, to: PortKind | ValueKind): boolean {
  if (TYPED_ONLY.has(to)) return false;
  return (from === 'surface') === (to === 'surface');
}

/** Whether an input takes several strands. */
export const takesMany = (kind: PortKind): boolean => kind === 'scalars';

/** Inputs that mean nothing under the node's present options. */
export function idleInputs(node: NodeInstance): readonly string[] {
  const definition = findNodeDefinition(node);
  return definition ? definition.idle(chosenOptions(definition, node)) : [];
}

/** The node's options, with defaults for those it does not state. */
export function chosenOptions(
  definition: NodeDefinition,
  node: NodeInstance,
): Record<string, string> {
  return Object.fromEntries(
    Object.entries(definition.options).map(([id, entry]) => [
      id,
      own(node.options, id) ?? entry.default,
    ]),
  );
}

/** Whether the neutral value of an input changes nothing to the bit, whatever else arrives. */
export function isNeutralExact(node: NodeInstance, input: string): boolean {
  const definition = findNodeDefinition(node);
  const chosen = definition ? Object.values(chosenOptions(definition, node)) : [];
  return chosen.some((choice) => {
    const mode = own(definition?.neutral, choice);
    return mode?.input === input && mode.isExact === true;
  });
}

/** The value at which an input changes nothing under the options chosen; undefined without one. */
export function neutralValue(node: NodeInstance, input: string): number | undefined {
  const definition = findNodeDefinition(node);
  const chosen = definition ? Object.values(chosenOptions(definition, node)) : [];
  const byMode = chosen
    .map((choice) => own(definition?.neutral, choice))
    .find((each) => each?.input === input);
  return byMode?.value ?? own(definition?.inputs, input)?.neutral;
}
