'use client';
import { findNodeDefinition } from '@/core/compile/catalogue';
import { getInputValue } from '@/core/compile/uniforms';
import { setValue } from '@/core/edit/nodes';
import type { NodeInstance } from '@/core/graph/document';
import { arrivingKey } from '@/core/graph/result-key';
import { commit } from '@/state/editing';
import { tellChange } from '@/state/tell-change';
import { useResults, useView } from '@/state/use-stores';
import { Button } from '@/ui/Button';
import { shortNumber } from '@/ui/NumberField';

/** Digits that are kept of what is measured. */
const tidy = (value: number): number => Number(value.toPrecision(6));

/** Measures what arrives on the model at hand, once, by a button. */
export function MeasureRow({ node }: { readonly node: NodeInstance }) {
  const measures = findNodeDefinition(node)?.measures;
  const path = useView((state) => state.path);
  const key = arrivingKey([...path, node.id], measures?.of ?? '');
  const statistics = useResults((state) => state.taps.get(key)?.statistics ?? null);
  if (!measures) return null;
  const held = [measures.least, measures.most].map((input) => getInputValue(node, input));
  const found = statistics ? [tidy(statistics.minimum), tidy(statistics.maximum)] : null;
  const isFresh = found?.every((value, k) => value === held[k]) ?? false;
  return (
    <p className="mb-1 flex items-center gap-2 text-[12px]" data-testid="measure">
      <Button
        disabled={!found || isFresh}
        onClick={() => {
          const [least, most] = found ?? [];
          commit('Measured a range', (document, board) =>
            setValue(
              setValue(document, board, node.id, measures.least, least),
              board,
              node.id,
              measures.most,
              most,
            ),
          );
          tellChange(`Measured ${shortNumber(least ?? 0)} to ${shortNumber(most ?? 0)}`);
        }}
      >
        Measure the range
      </Button>
      <span className="text-soft">
        {!found
          ? 'What arrives is not known yet.'
          : isFresh
            ? 'As measured on this model; it stays so until it is measured again.'
            : `What arrives runs from ${shortNumber(found[0] ?? 0)} to ` +
              `${shortNumber(found[1] ?? 0)}.`}
      </span>
    </p>
  );
}
