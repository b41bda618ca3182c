'use client';
import { useMemo } from 'react';
import { toast } from 'sonner';
import type { ResultKey } from '@/core/base/ids';
import { getNodeTitle } from '@/core/compile/catalogue';
import { findNode } from '@/core/compile/uniforms';
import { boardAt } from '@/core/edit/board';
import { outputEquation } from '@/core/edit/equation';
import { parseResultKey } from '@/core/graph/result-key';
import { select } from '@/state/editing';
import type { Evaluation } from '@/state/evaluation';
import { readGlsl } from '@/state/figures';
import { useDocument } from '@/state/use-stores';
import { Button } from '@/ui/Button';
import { tellProblem } from '@/ui/tell-problem';

interface Props {
  readonly output: ResultKey;
  readonly evaluation: Evaluation;
}

async function copy(text: string, said: string): Promise<void> {
  await navigator.clipboard.writeText(text);
  toast(said);
}

/** An output as text, a line for each node it depends on; each line folds. */
export function Equation({ output, evaluation }: Props) {
  const document = useDocument((state) => state.document);
  const { path, port } = parseResultKey(output);
  const above = path.slice(0, -1);
  const lines = useMemo(() => {
    const { path: nodes, port: name } = parseResultKey(output);
    const board = boardAt(document, nodes.slice(0, -1));
    return outputEquation(document, board, { node: nodes.at(-1) ?? '', output: name });
  }, [document, output]);
  const titleOf = (id: string): string => {
    const node = findNode(document, [...above, id]);
    return node ? getNodeTitle(document, node) : id;
  };
  return (
    <section aria-label="Equation" data-testid="equation">
      <div className="mb-1 flex items-center gap-2">
        <h4 className="mr-auto font-semibold">Equation</h4>
        <Button
          onClick={() => {
            const text = lines.map((line) => line.text).join('\n');
            copy(`${text}\n`, 'Copied as text.').catch(tellProblem);
          }}
        >
          Copy as text
        </Button>
        <Button
          title={`${port} as a function of GLSL ES 3.00, its values as constants`}
          onClick={() => {
            readGlsl(evaluation, output)
              .then((text) => copy(text, 'Copied as a function of GLSL ES 3.00.'))
              .catch(tellProblem);
          }}
        >
          Copy as GLSL
        </Button>
      </div>
      {lines.map(({ node, text }) => (
        <details key={node} open className="border-t border-line">
          <summary className="min-h-[24px] cursor-pointer">{titleOf(node)}</summary>
          <code className="figures block pl-4 text-[11px] wrap-anywhere select-text">{text}</code>
          <button
            type="button"
            className="mb-1 ml-4 min-h-[24px] underline decoration-dotted"
            onClick={() => {
              select([node]);
            }}
          >
            Show {titleOf(node)}
          </button>
        </details>
      ))}
    </section>
  );
}
