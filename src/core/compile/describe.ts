import { TYPED_ONLY } from '../nodes/define';
import type { NodeDefinition, PortText } from '../nodes/define';
import { listDefinitions } from './catalogue';

const textOf = ({
  title,
  help,
  low,
  high,
  unit,
  quantity,
  section,
}: PortText): Record<string, unknown> => ({
  title,
  help,
  ...(low === undefined ? {} : { low }),
  ...(high === undefined ? {} : { high }),
  ...(unit === undefined ? {} : { unit }),
  ...(quantity === undefined ? {} : { quantity }),
  ...(section === undefined ? {} : { section }),
});

/** A node as data: inputs with defaults, ranges and the meaning of both ends, options, outputs. */
export function describeNode(definition: NodeDefinition): Record<string, unknown> {
  return {
    id: definition.id,
    version: definition.version,
    title: definition.title,
    family: definition.family,
    help: definition.help,
    formula: definition.formula,
    synonyms: definition.synonyms,
    inputs: Object.entries(definition.inputs).map(([id, port]) => ({
      id,
      kind: port.kind,
      ...textOf(port),
      default: port.default,
      soft: port.soft,
      hard: port.hard,
      step: port.step,
      wirable: !TYPED_ONLY.has(port.kind),
      many: port.kind === 'scalars',
    })),
    options: Object.entries(definition.options).map(([id, entry]) => ({
      id,
      title: entry.title,
      help: entry.help,
      default: entry.default,
      choices: entry.choices,
    })),
    outputs: Object.entries(definition.outputs).map(([id, port]) => ({
      id,
      kind: port.kind,
      ...textOf(port),
    })),
  };
}

/** The whole catalogue as data. */
export function describeCatalogue(): {
  format: string;
  version: number;
  nodes: readonly Record<string, unknown>[];
} {
  return {
    format: 'bright-loom/catalogue',
    version: 1,
    nodes: listDefinitions().map((definition) => describeNode(definition)),
  };
}
