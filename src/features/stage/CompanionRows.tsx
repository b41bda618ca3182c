import { Trash2 } from 'lucide-react';
import { changeCompanion, removeCompanion } from '@/core/edit/companions';
import { SURROUNDINGS_LIMITS } from '@/core/graph/document';
import type { Companion } from '@/core/graph/document';
import { commit } from '@/state/editing';
import { useMaterialName, useMaterialSearch } from '@/state/material-list';
import { useDocument, useStage } from '@/state/use-stores';
import { MaterialChoice } from '@/ui/MaterialChoice';
import { NumberRow } from './PanelRow';

interface Props {
  readonly companion: Companion;
}
const THIS = 'This network';

/** A model beside the current one: which network it wears, how it is turned. */
export function CompanionRows({ companion }: Props) {
  const { id, name, turn } = companion;
  const [low, high] = SURROUNDINGS_LIMITS.turn;
  return (
    <fieldset className="mb-2 border-b border-line pb-1.5" data-testid={id}>
      <div className="mb-1 flex items-center gap-1.5">
        <span className="w-[120px] truncate font-semibold">{name}</span>
        <NetworkChoice companion={companion} />
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

/** This network, or that of a material; one that cannot be seen is named as another. */
function NetworkChoice({ companion: { id, name, material } }: Props) {
  const given = useMaterialName(material);
  const open = useDocument((state) => state.materialId);
  const search = useMaterialSearch(open);
  const choose = (next: string | null): void => {
    commit('Changed the network of a model', (current) =>
      changeCompanion(current, id, { material: next }),
    );
  };
  return (
    <MaterialChoice
      label={`Network on ${name}`}
      title={material === undefined ? THIS : (given ?? 'Another material')}
      search={search}
      instead={{
        title: THIS,
        onChoose: () => {
          choose(null);
        },
      }}
      onChoose={(chosen) => {
        choose(chosen.id);
      }}
    />
  );
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
