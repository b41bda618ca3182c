'use client';
import type { ModelEntry } from '@/contract/models';
import { addCompanion, getCompanions, sizeCompanions } from '@/core/edit/companions';
import { LIMITS } from '@/core/graph/document';
import type { Companions } from '@/core/graph/document';
import { commit } from '@/state/editing';
import { useDocument } from '@/state/use-stores';
import { Choose } from '@/ui/Choose';
import { CompanionRows } from './CompanionRows';
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
  return (
    <StageDock panel="companions">
      <div className="grid grid-cols-[repeat(auto-fill,minmax(205px,1fr))] gap-x-4 pr-12">
        {beside.map((companion) => (
          <CompanionRows key={companion.id} companion={companion} />
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
      {beside.length < LIMITS.companions ? (
        <ModelChoice models={models} />
      ) : (
        <p className="text-soft">Up to {LIMITS.companions} models stand beside the current one.</p>
      )}
    </StageDock>
  );
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
