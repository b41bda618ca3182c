'use client';
import { Shapes, Trash2 } from 'lucide-react';
import { Popover } from 'radix-ui';
import { useState } from 'react';
import {
  addCompanion,
  changeCompanion,
  companionsOf,
  removeCompanion,
  sizeCompanions,
} from '@/core/edit/companions';
import { LIMITS, SURROUNDINGS_LIMITS } from '@/core/graph/document';
import type { Companion, Companions } from '@/core/graph/document';
import { listMaterials } from '@/contract/materials';
import { describeError } from '@/core/base/problem';
import type { Problem } from '@/core/base/problem';
import { read } from '@/state/query-client';
import type { ModelEntry } from '@/contract/models';
import { Button } from '@/ui/Button';
import { Choose } from '@/ui/Choose';
import { NumberField } from '@/ui/NumberField';
import { ProblemNote } from '@/ui/ProblemNote';
import { ValueSlider } from '@/ui/ValueSlider';
import { commit, endGesture } from '@/state/editing';
import { stores } from '@/state/stores';
import { useDocument, useStage } from '@/state/use-stores';

interface MaterialChoice {
  readonly id: string;
  readonly name: string;
}
const SIZES = [
  { value: 'alike', title: 'Alike', help: 'Each as large as the current model.' },
  { value: 'true', title: 'True', help: 'Each as large as it is.' },
];
const OWN = 'own';

/**
 * The models beside the current one: what proves that a network holds on other shapes. Saved with
 * the material, undone like everything else.
 */
export function CompanionsPanel({ models }: { readonly models: readonly ModelEntry[] }) {
  const { models: beside, sizes } = useDocument((state) => companionsOf(state.document));
  const [materials, setMaterials] = useState<readonly MaterialChoice[]>([]);
  const [problem, setProblem] = useState<Problem | null>(null);
  const [low, high] = SURROUNDINGS_LIMITS.turn;
  const opened = (isOpen: boolean): void => {
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
  };
  const change = (
    label: string,
    { id }: Companion,
    to: Parameters<typeof changeCompanion>[2],
    gesture: string | null = null,
  ): void => {
    commit(label, (current) => changeCompanion(current, id, to), gesture);
  };
  return (
    <Popover.Root onOpenChange={opened}>
      <Popover.Trigger asChild>
        <Button look="quiet" aria-label="Models on the stage" title="Models on the stage">
          <Shapes size={14} />
        </Button>
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          side="right"
          align="end"
          sideOffset={6}
          className={
            'z-40 w-[330px] rounded-[2px] border border-seam bg-panel p-2 text-[12px] ' +
            'text-ink shadow-lg'
          }
          aria-label="Models on the stage"
          onKeyDown={(event) => {
            if (event.key !== 'Escape') event.stopPropagation();
          }}
        >
          {beside.map((companion) => (
            <fieldset
              key={companion.id}
              className="mb-2 border-b border-line pb-1.5"
              data-testid={companion.id}
            >
              <div className="mb-1 flex items-center gap-1.5">
                <span className="w-[120px] truncate font-semibold">{companion.name}</span>
                <Choose
                  label={`Network on ${companion.name}`}
                  value={companion.material ?? OWN}
                  items={choicesFor(companion, materials)}
                  onChange={(next) => {
                    change('Changed the network of a model', companion, {
                      material: next === OWN ? null : next,
                    });
                  }}
                />
                <button
                  type="button"
                  className="ml-auto p-1 text-soft hover:text-ink"
                  aria-label={`Take ${companion.name} from the stage`}
                  onClick={() => {
                    commit('Took a model from the stage', (current) =>
                      removeCompanion(current, companion.id),
                    );
                  }}
                >
                  <Trash2 size={12} />
                </button>
              </div>
              <div className="grid grid-cols-[60px_1fr] items-center gap-2 py-[1px]">
                <span className="text-soft">Turn</span>
                <span className="flex items-center gap-1.5">
                  <ValueSlider
                    label={`Turn of ${companion.name}`}
                    value={companion.turn}
                    low={low}
                    high={high}
                    step={1}
                    onChange={(turn) => {
                      change('Turned a model', companion, { turn }, `turn ${companion.id}`);
                    }}
                    onDone={endGesture}
                  />
                  <NumberField
                    label={`Turn of ${companion.name}, degrees`}
                    value={Math.round(companion.turn)}
                    low={low}
                    high={high}
                    step={1}
                    className="!w-[48px]"
                    onCommit={(turn) => {
                      change('Turned a model', companion, { turn });
                    }}
                  />
                </span>
              </div>
              <CompanionProblem id={companion.id} />
            </fieldset>
          ))}
          {beside.length === 0 ? (
            <p className="mb-2 text-soft">
              The current model stands alone. Put others beside it to see whether the network holds
              on them, too.
            </p>
          ) : (
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
          )}
          {problem ? <ProblemNote problem={problem} /> : null}
          {beside.length < LIMITS.companions ? (
            <Choose
              label="Put a model beside it"
              value=""
              items={[
                { value: '', title: 'Put a model beside it …' },
                ...models.map(({ id, name }) => ({ value: id, title: name })),
              ]}
              onChange={(id) => {
                const model = models.find((each) => each.id === id);
                if (model)
                  commit('Put a model on the stage', (current) => addCompanion(current, model));
              }}
            />
          ) : (
            <p className="text-soft">
              Up to {LIMITS.companions} models stand beside the current one.
            </p>
          )}
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}

/**
 * This network first; a material that cannot be listed any more stays a choice, so that it is seen.
 */
function choicesFor(
  { material }: Companion,
  materials: readonly MaterialChoice[],
): { value: string; title: string }[] {
  const isListed = material === undefined || materials.some(({ id }) => id === material);
  return [
    { value: OWN, title: 'This network' },
    ...materials.map(({ id, name }) => ({ value: id, title: name })),
    ...(isListed ? [] : [{ value: material, title: 'Another material' }]),
  ];
}

function CompanionProblem({ id }: { readonly id: string }) {
  const state = useStage((store) => store.companionStates.get(id));
  if (state?.state === 'loading')
    return (
      <p role="status" className="text-soft">
        Coming …
      </p>
    );
  return state?.state === 'failed' ? (
    <p role="alert" className="text-madder">
      {state.message}
    </p>
  ) : null;
}
