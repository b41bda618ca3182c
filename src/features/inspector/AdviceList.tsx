'use client';
import { describePorts } from '@/core/compile/catalogue';
import { changeNode, getNetwork } from '@/core/edit/board';
import { connect } from '@/core/edit/strands';
import { addNode, setOption, setValue } from '@/core/edit/nodes';
import type { NodeInstance } from '@/core/graph/document';
import type { Advice, Cure } from '@/core/nodes/advice';
import { useAdvice } from '@/state/use-advice';
import { commit } from '@/state/editing';

function apply(node: NodeInstance, cure: Cure): void {
  commit(cure.title, (document, board) => {
    if ('limit' in cure)
      return changeNode(document, board, node.id, (each) => ({ ...each, limited: true }));
    if ('source' in cure) {
      const [x, y] = node.at;
      const added = addNode(document, board, cure.source, [x - 200, y]);
      const made = getNetwork(added.document, board).nodes.find(({ id }) => id === added.id);
      const [output] = (made && describePorts(added.document, made)?.outputs) ?? [];
      const from = { node: added.id, output: output?.id ?? '' };
      return connect(added.document, board, from, { node: node.id, input: cure.into });
    }
    return 'option' in cure
      ? setOption(document, board, node.id, cure.option, cure.choice)
      : setValue(document, board, node.id, cure.input, cure.value);
  });
}

/**
 * What there is to say about a node's values on this model, each with its cure where there is one.
 */
export function AdviceList({ node }: { readonly node: NodeInstance }) {
  const advice: readonly Advice[] = useAdvice(node);
  if (advice.length === 0) return null;
  return (
    <ul className="mb-1 max-w-[760px]" data-testid="advice">
      {advice.map((each) => (
        <li key={each.code} className="flex items-baseline gap-2 text-[11.5px]">
          <span
            className={
              'figures w-[44px] shrink-0 text-right ' +
              (each.tone === 'fact' ? 'text-soft' : 'text-madder')
            }
          >
            {each.mark}
          </span>
          <span>{each.message}</span>
          {each.cure ? (
            <button
              type="button"
              className="shrink-0 border-b border-weld"
              onClick={() => {
                if (each.cure) apply(node, each.cure);
              }}
            >
              {each.cure.title}
            </button>
          ) : null}
        </li>
      ))}
    </ul>
  );
}
