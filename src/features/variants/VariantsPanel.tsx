'use client';
import { ArrowDown, ArrowUp, RefreshCw, Trash2 } from 'lucide-react';
import { useState } from 'react';
import { findNode } from '@/core/compile/uniforms';
import { keepVariant, moveVariant, removeVariant, renameVariant } from '@/core/edit/variants';
import type { GroupDefinition, NodeInstance, Variant } from '@/core/graph/document';
import { commit } from '@/state/editing';
import type { Evaluation } from '@/state/evaluation';
import { useDocument, useView } from '@/state/use-stores';
import { Button } from '@/ui/Button';
import { IconButton } from '@/ui/IconButton';
import { CompareVariants } from './CompareVariants';
import { VariantStrip } from './VariantStrip';

interface Props {
  readonly group: GroupDefinition;
  readonly evaluation: Evaluation;
}

/** The variants of the open group: kept from its dials, ordered, compared, blended. */
export function VariantsPanel({ group, evaluation }: Props) {
  const path = useView((state) => state.path);
  const card = useDocument((state) => findNode(state.document, path));
  if (!card) return null;
  const count = group.variants?.length ?? 0;
  return (
    <details className="mb-2 border border-line p-1.5 text-[12px]" data-testid="variants-panel">
      <summary className="min-h-[24px] cursor-pointer">
        <strong>Variants</strong> <span className="text-soft">{count || 'none'}</span>
      </summary>
      <VariantStrip {...{ group, card, path, evaluation }} />
      <KeepVariant group={group} card={card} />
      <ul>
        {(group.variants ?? []).map((variant, k) => (
          <VariantRow key={variant.id} {...{ group, card, variant }} place={k} />
        ))}
      </ul>
      <CompareVariants {...{ group, card, path, evaluation }} />
    </details>
  );
}

/** Keeps the dials as they stand under a name. */
function KeepVariant({ group, card }: Pick<Props, 'group'> & { readonly card: NodeInstance }) {
  const [name, setName] = useState('');
  const keep = (): void => {
    const given = name.trim();
    if (given === '') return;
    commit(`Kept the variant “${given}”`, (current) => keepVariant(current, group.id, card, given));
    setName('');
  };
  return (
    <div className="mb-1 flex gap-1">
      <input
        aria-label="Name of the new variant"
        placeholder="Keep the dials as they stand, as …"
        value={name}
        maxLength={200}
        className="min-w-0 flex-1 border border-line bg-ground px-1"
        onChange={(event) => {
          setName(event.target.value);
        }}
        onKeyDown={(event) => {
          if (event.key === 'Enter') keep();
          event.stopPropagation();
        }}
      />
      <Button disabled={name.trim() === ''} onClick={keep}>
        Keep
      </Button>
    </div>
  );
}

interface RowProps {
  readonly group: GroupDefinition;
  readonly card: NodeInstance;
  readonly variant: Variant;
  readonly place: number;
}

function VariantRow({ group, card, variant: { id, name }, place }: RowProps) {
  const last = (group.variants?.length ?? 1) - 1;
  const move = (to: number): void => {
    commit('Ordered the variants', (current) => moveVariant(current, group.id, id, to));
  };
  return (
    <li className="flex items-center gap-0.5 py-0.5">
      <VariantName group={group} id={id} name={name} />
      <IconButton
        name={`Keep the dials as they stand as ${name}`}
        onClick={() => {
          commit(`Kept the variant “${name}” anew`, (current) =>
            keepVariant(current, group.id, card, name),
          );
        }}
      >
        <RefreshCw size={11} />
      </IconButton>
      <IconButton
        name={`Move ${name} up`}
        isDisabled={place === 0}
        onClick={() => {
          move(place - 1);
        }}
      >
        <ArrowUp size={11} />
      </IconButton>
      <IconButton
        name={`Move ${name} down`}
        isDisabled={place === last}
        onClick={() => {
          move(place + 1);
        }}
      >
        <ArrowDown size={11} />
      </IconButton>
      <IconButton
        name={`Forget ${name}`}
        onClick={() => {
          commit(`Forgot the variant “${name}”`, (current) => removeVariant(current, group.id, id));
        }}
      >
        <Trash2 size={11} />
      </IconButton>
    </li>
  );
}

interface NameProps {
  readonly group: GroupDefinition;
  readonly id: string;
  readonly name: string;
}

/** The name of a variant, changed in place. */
function VariantName({ group, id, name }: NameProps) {
  return (
    <input
      key={name}
      aria-label={`Name of the variant ${name}`}
      defaultValue={name}
      className="min-w-0 flex-1 border border-transparent bg-transparent px-1 hover:border-line"
      onKeyDown={(event) => {
        if (event.key === 'Enter') event.currentTarget.blur();
        event.stopPropagation();
      }}
      onBlur={(event) => {
        const given = event.target.value.trim();
        if (given && given !== name)
          commit('Named a variant', (current) => renameVariant(current, group.id, id, given));
      }}
    />
  );
}
