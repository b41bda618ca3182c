'use client';
import { useCallback, useState } from 'react';
import { own } from '@/core/base/own';
import { describeNode, findNodeDefinition } from '@/core/compile/catalogue';
import { boardAt } from '@/core/edit/board';
import type { GroupDefinition, NodeInstance } from '@/core/graph/document';
import type { Evaluation } from '@/state/evaluation';
import { stores } from '@/state/stores';
import { useCard } from '@/state/use-card';
import { CompareSheet } from './CompareSheet';
import { NodeHelp } from './NodeHelp';
import type { NodeQuestion } from './NodeMenu';
import { optionTrials, orderTrials, valueTrials } from './trials';
import type { Trials } from './trials';

/** What is asked of a node: to be told of, or seen with an option, a value or the order changed. */
type Asked =
  | { readonly of: NodeQuestion }
  | { readonly of: 'option'; readonly option: string }
  | { readonly of: 'input'; readonly input: string };

/** What is asked at the moment; the functions stay the same. */
export function useAsked() {
  const [asked, setAsked] = useState<Asked | null>(null);
  const compareOption = useCallback((option: string) => {
    setAsked({ of: 'option', option });
  }, []);
  const compareValue = useCallback((input: string) => {
    setAsked({ of: 'input', input });
  }, []);
  const ask = useCallback((of: NodeQuestion) => {
    setAsked({ of });
  }, []);
  const close = useCallback(() => {
    setAsked(null);
  }, []);
  return { asked, compareOption, compareValue, ask, close };
}

interface Props {
  readonly node: NodeInstance;
  readonly asked: Asked | null;
  readonly evaluation: Evaluation | null;
  readonly onClose: () => void;
}

function trialsOf(node: NodeInstance, group: GroupDefinition | null, asked: Asked): Trials | null {
  if (asked.of === 'order') {
    const { document } = stores.document.getState();
    return orderTrials(document, boardAt(document, stores.view.getState().path), node);
  }
  if (asked.of === 'option') {
    const definition = own(findNodeDefinition(node)?.options, asked.option);
    return definition ? optionTrials(node, asked.option, definition) : null;
  }
  if (asked.of !== 'input') return null;
  const view = describeNode(node, group)?.inputs.find(({ id }) => id === asked.input);
  return view ? valueTrials(node, view) : null;
}

/** What is told of a node, or seen of it in pictures, while it is asked for. */
export function NodeSheets({ node, asked, evaluation, onClose }: Props) {
  const { group } = useCard(node.id);
  const definition = findNodeDefinition(node);
  if (!asked || !evaluation) return null;
  if (asked.of === 'help')
    return definition ? <NodeHelp {...{ definition, evaluation, onClose }} /> : null;
  const trials = trialsOf(node, group, asked);
  const [first] = describeNode(node, group)?.outputs ?? [];
  if (!trials || !first) return null;
  return (
    <CompareSheet
      node={node}
      compared={trials}
      output={first.id}
      evaluation={evaluation}
      onChoose={({ take }) => {
        take();
      }}
      onClose={onClose}
    />
  );
}
