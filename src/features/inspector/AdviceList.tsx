'use client';
import { cureAdvice } from '@/core/edit/advice-cures';
import type { NodeInstance } from '@/core/graph/document';
import type { Advice } from '@/core/nodes/advice';
import { useAdvice } from '@/state/use-advice';
import { commit } from '@/state/editing';

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
                const { cure } = each;
                if (cure)
                  commit(cure.title, (document, board) =>
                    cureAdvice(document, board, node.id, cure),
                  );
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
