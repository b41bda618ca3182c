import type { Diagnostic, DiagnosticCode } from '../base/diagnostic';
import { checkCompiled } from '../compile/compile';
import { INPUT_EDGE, OUTPUT_EDGE, SURFACE_OUTPUT } from '../graph/document';
import type { Dial, GroupDefinition, GroupPort, NetworkDocument } from '../graph/document';
import { pointer } from '../graph/pointer';

/** Outputs of a group that no strand inside leads to: they give nothing. */
export const openOutputs = ({ outputs, network }: GroupDefinition): readonly GroupPort[] =>
  outputs.filter(
    ({ id }) => !network.strands.some(({ to }) => to.node === OUTPUT_EDGE && to.input === id),
  );

const isRead = ({ network }: GroupDefinition, id: string): boolean =>
  network.strands.some(({ from }) => from.node === INPUT_EDGE && from.output === id);

/** Inputs of a group that nothing inside reads: what is wired to them does nothing. */
export const unreadInputs = (group: GroupDefinition): readonly GroupPort[] =>
  group.inputs.filter(({ id }) => !isRead(group, id));

/** Dials that drive nothing and that no strand inside carries on. */
export const idleDials = (group: GroupDefinition): readonly Dial[] =>
  group.dials.filter(({ id, drives }) => drives.length === 0 && !isRead(group, id));

/** What there is to say of an output that nothing leads to, the same everywhere. */
export const openOutputText = (name: string): string =>
  `Nothing inside leads to “${name}”: it gives nothing.`;
/** What there is to say of an input that nothing reads. */
export const unreadInputText = (name: string): string =>
  `Nothing inside reads “${name}”: what is wired to it does nothing.`;

/**
 * What leads nowhere and what nothing leads to, as notes: nothing is wrong with the document, but
 * somebody may be looking for the reason why nothing is seen.
 */
export function listOpenEnds(document: NetworkDocument): readonly Diagnostic[] {
  const found: Diagnostic[] = [];
  const note = (code: DiagnosticCode, at: readonly (string | number)[], message: string): void => {
    found.push({ code, severity: 'note', pointer: pointer(at), message });
  };
  const { nodes, strands } = document.network;
  const isEnded = strands.some(({ to }) => to.node === OUTPUT_EDGE && to.input === SURFACE_OUTPUT);
  if (nodes.length > 0 && !isEnded)
    note(
      'network.no-surface',
      ['network'],
      'Nothing is wired to the end of the material: the model is drawn in plain clay. Wire a ' +
        'surface to the right edge of the board.',
    );
  for (const [id, group] of Object.entries(document.groups)) {
    const inside = (message: string): string => `In “${group.name}”: ${message}`;
    for (const port of openOutputs(group))
      note(
        'group.open-output',
        ['groups', id, 'outputs', group.outputs.indexOf(port)],
        inside(openOutputText(port.name)),
      );
    for (const port of unreadInputs(group))
      note(
        'group.unread-input',
        ['groups', id, 'inputs', group.inputs.indexOf(port)],
        inside(unreadInputText(port.name)),
      );
    for (const dial of idleDials(group))
      note(
        'group.idle-dial',
        ['groups', id, 'dials', group.dials.indexOf(dial)],
        inside(`“${dial.name}” drives nothing.`),
      );
  }
  return found;
}

/** All that is to be said of a document without a model: what is wrong, then its open ends. */
export const inspectDocument = (document: NetworkDocument): readonly Diagnostic[] => [
  ...checkCompiled(document),
  ...listOpenEnds(document),
];
