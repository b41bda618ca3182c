'use client';
import { useEffect, useState } from 'react';
import { listMaterials } from '@/contract/materials';
import type { ModelEntry } from '@/contract/models';
import { describeError } from '@/core/base/problem';
import type { Problem } from '@/core/base/problem';
import { addCompanion, getCompanions, sizeCompanions } from '@/core/edit/companions';
import { LIMITS } from '@/core/graph/document';
import type { Companions } from '@/core/graph/document';
import { commit } from '@/state/editing';
import { read } from '@/state/query-client';
import { stores } from '@/state/stores';
import { useDocument, useView } from '@/state/use-stores';
import { Choose } from '@/ui/Choose';
import { ProblemNote } from '@/ui/ProblemNote';
import { CompanionRows } from './CompanionRows';
import type { MaterialChoice } from './CompanionRows';
import { StageDock } from './StageDock';

const SIZES = [
  { value: 'alike', title: 'Alike', help: 'Each as large as the current model.' },
  { value: 'true', title: 'True', help: 'Each as large as it is.' },
];

/**
 * The models beside the current one: what proves that a network holds on other shapes. Saved with
 * the material, undone like everything else.
 */
export function CompanionsPanel({ models }: { readonly models: readonly ModelEntry[] }) {
  const { models: beside, sizes } = useDocument((state) => getCompanions(state.document));
  const { materials, problem } = useOtherMaterials();
  return (
    <StageDock panel="companions">
      <div className="grid grid-cols-[repeat(auto-fill,minmax(205px,1fr))] gap-x-4 pr-12">
        {beside.map((companion) => (
          <CompanionRows key={companion.id} companion={companion} materials={materials} />
        ))}
      </div>
      {beside.length === 0 ? (
        <p className="mb-2 text-soft">
          The current model stands alone. Put others beside it to see whether the network holds on
          them, too.
        </p>
      ) : (
        <SizeChoice sizes={sizes} />
      )}
      {problem ? <ProblemNote problem={problem} /> : null}
      {beside.length < LIMITS.companions ? (
        <ModelChoice models={models} />
      ) : (
        <p className="text-soft">Up to {LIMITS.companions} models stand beside the current one.</p>
      )}
    </StageDock>
  );
}

/** The materials whose networks another model may wear, asked for when they are wanted. */
function useOtherMaterials() {
  const [materials, setMaterials] = useState<readonly MaterialChoice[]>([]);
  const [problem, setProblem] = useState<Problem | null>(null);
  const isOpen = useView((state) => state.stagePanel === 'companions');
  useEffect(() => {
    if (!isOpen) return;
    const { materialId } = stores.document.getState();
    read(listMaterials)
      .then(({ materials: all }) => {
        setMaterials(all.filter(({ id }) => id !== materialId));
        setProblem(null);
      })
      .catch((error: unknown) => {
        setProblem(describeError(error));
      });
  }, [isOpen]);
  return { materials, problem };
}

function SizeChoice({ sizes }: Pick<Companions, 'sizes'>) {
  return (
    <div className="mb-2 flex items-center gap-2">
      <span className="text-soft">Sizes</span>
      <Choose
        label="Sizes of the models"
        value={sizes}
        items={SIZES}
        onChange={(next) => {
          commit('Changed the sizes on the stage', (current) =>
            sizeCompanions(current, next as Companions['sizes']),
          );
        }}
      />
    </div>
  );
}

function ModelChoice({ models }: { readonly models: readonly ModelEntry[] }) {
  return (
    <Choose
      label="Put a model beside it"
      value=""
      items={[
        { value: '', title: 'Put a model beside it …' },
        ...models.map(({ id, name }) => ({ value: id, title: name })),
      ]}
      onChange={(id) => {
        const model = models.find((each) => each.id === id);
        if (model) commit('Put a model on the stage', (current) => addCompanion(current, model));
      }}
    />
  );
}
