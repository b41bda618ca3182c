import type { NodeId } from '@/core/base/ids';
import { own } from '@/core/base/own';
import { findNodeDefinition } from '@/core/compile/catalogue';
import { getNetwork } from '@/core/edit/board';
import { INPUT_EDGE } from '@/core/graph/document';
import type { Triple } from '@/core/graph/document';
import { keyOnBoard } from '@/state/editing';
import { boardAt } from '@/core/edit/board';
import { pickColour } from '@/state/picks';
import { stores } from '@/state/stores';
import type { ColourSource } from '@/ui/ColourPanel';
import { titleInList } from '@/core/compile/told-apart';

type Take = (colour: Triple) => void;

/** Takes a colour from the stage as it is shown. */
export const fromStage = (label: string): ColourSource => ({
  name: 'From the stage',
  ask: (take: Take) => {
    pickColour(label, null, take);
  },
});

/** Takes a colour from the stage, or what arrives at one of the node's inputs there. */
export function colourSources(label: string, nodeId: NodeId): readonly ColourSource[] {
  const { document } = stores.document.getState();
  const { path } = stores.view.getState();
  const network = getNetwork(document, boardAt(document, path));
  const { nodes, strands } = network;
  const node = nodes.find(({ id }) => id === nodeId);
  const arriving = strands.flatMap(({ from, to }) => {
    const source = nodes.find(({ id }) => id === from.node);
    if (to.node !== nodeId || from.node === INPUT_EDGE || !source) return [];
    const name = titleInList(document, network, source);
    const input = (node && own(findNodeDefinition(node)?.inputs, to.input))?.title ?? to.input;
    const key = keyOnBoard(path, from.node, from.output);
    const ask = (take: Take): void => {
      pickColour(label, { key, name }, take);
    };
    return [{ name: `From its ${input.toLowerCase()}`, ask }];
  });
  return [fromStage(label), ...arriving];
}
