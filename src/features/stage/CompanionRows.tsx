import { Trash2 } from 'lucide-react';
import { changeCompanion, removeCompanion } from '@/core/edit/companions';
import { SURROUNDINGS_LIMITS } from '@/core/graph/document';
import type { Companion } from '@/core/graph/document';
import { commit } from '@/state/editing';
import { useStage } from '@/state/use-stores';
import { Choose } from '@/ui/Choose';
import { NumberRow } from './PanelRow';

export interface MaterialChoice {
  readonly id: string;
  readonly name: string;
}
const OWN = 'own';

/** A model beside the current one: which network it wears, how it is turned. */
export function CompanionRows({
  companion,
  materials,
}: {
  readonly companion: Companion;
  readonly materials: readonly MaterialChoice[];
}) {
  const { id, name, turn } = companion;
  const [low, high] = SURROUNDINGS_LIMITS.turn;
  return (
    <fieldset className="mb-2 border-b border-line pb-1.5" data-testid={id}>
      <div className="mb-1 flex items-center gap-1.5">
        <span className="w-[120px] truncate font-semibold">{name}</span>
        <Choose
          label={`Network on ${name}`}
          value={companion.material ?? OWN}
          items={choicesFor(companion, materials)}
          onChange={(next) => {
            const material = next === OWN ? null : next;
            commit('Changed the network of a model', (current) =>
              changeCompanion(current, id, { material }),
            );
          }}
        />
        <button
          type="button"
          className="ml-auto grid h-[24px] w-[24px] place-items-center text-soft hover:text-ink"
          aria-label={`Take ${name} from the stage`}
          onClick={() => {
            commit('Took a model from the stage', (current) => removeCompanion(current, id));
          }}
        >
          <Trash2 size={12} />
        </button>
      </div>
      <NumberRow
        title="Turn"
        of={name}
        unit="degrees"
        value={turn}
        low={low}
        high={high}
        step={1}
        onChange={(next, isDrag) => {
          commit(
            'Turned a model',
            (current) => changeCompanion(current, id, { turn: next }),
            isDrag ? `turn ${id}` : null,
          );
        }}
      />
      <CompanionProblem id={id} />
    </fieldset>
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
        Loading …
      </p>
    );
  return state?.state === 'failed' ? (
    <p role="alert" className="text-madder">
      {state.message}
    </p>
  ) : null;
}
