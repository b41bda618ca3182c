import { useEffect, useMemo, useState } from 'react';
import { makeExample } from '../core/compile/example';
import { findUses, similarNodes } from '../core/compile/node-uses';
import type { NodeUses } from '../core/compile/node-uses';
import { squareCamera } from '../core/evaluate/camera';
import type { Picture } from '../core/evaluate/picture';
import type { Transfer } from '../core/evaluate/transfer';
import { READY_GROUPS } from '../core/edit/ready-groups';
import { emptyDocument } from '../core/graph/document';
import type { NetworkDocument } from '../core/graph/document';
import { outputKey } from '../core/graph/result-key';
import type { NodeDefinition } from '../core/nodes/define';
import { STARTERS } from '../core/starters/starters';
import { unwrap } from '../workers/answer';
import type { Evaluation } from './evaluation';
import { stores } from './stores';

/** Of the example's picture, pixels a side. */
const SIDE = 200;

let finished: readonly NetworkDocument[] | null = null;
/** Starters and ready chains: networks that are made to be learnt from. */
const finishedNetworks = (): readonly NetworkDocument[] =>
  (finished ??= [
    ...STARTERS.map((starter) => ({ ...starter.document(), name: starter.title })),
    ...READY_GROUPS.map(({ name, definition }) => ({
      ...emptyDocument(name),
      network: definition.network,
    })),
  ]);

/** What is told of a node beyond its own words. */
export interface NodeHelpFacts {
  readonly uses: NodeUses;
  readonly similar: readonly NodeDefinition[];
  /** Its worked example on the model at hand; null until it is drawn. */
  readonly picture: Picture | null;
  /** What its first output is for what arrives, in the example; null where it has no such curve. */
  readonly transfer: Transfer | null;
}

/** Looks a node up in finished networks, and has its worked example drawn and plotted. */
export function useNodeHelp(definition: NodeDefinition, evaluation: Evaluation): NodeHelpFacts {
  const [drawn, setDrawn] = useState<Pick<NodeHelpFacts, 'picture' | 'transfer'>>({
    picture: null,
    transfer: null,
  });
  useEffect(() => {
    let isLate = false;
    const { modelId } = stores.document.getState();
    const { camera } = stores.view.getState();
    const { background } = evaluation.pool;
    const { document, shown } = makeExample(definition);
    const feed = document.network.strands.find(({ to }) => to.node === 'shown')?.from;
    const draw = async (): Promise<void> => {
      if (!camera) return;
      const asked = background.picture(modelId, document, shown, squareCamera(camera), SIDE);
      const picture = await unwrap(asked);
      if (!isLate) setDrawn({ picture, transfer: null });
      if (!feed || shown === 'surface') return;
      const from = outputKey([feed.node], feed.output);
      const transfer = await unwrap(background.transfer(modelId, document, from, shown));
      if (!isLate) setDrawn({ picture, transfer });
    };
    // An example that cannot be drawn on this model is left out.
    draw().catch(() => undefined);
    return () => {
      isLate = true;
    };
  }, [definition, evaluation]);
  const told = useMemo(
    () => ({
      uses: findUses(definition.id, finishedNetworks()),
      similar: similarNodes(definition, finishedNetworks()),
    }),
    [definition],
  );
  return { ...told, ...drawn };
}
