'use client';
import { RotateCcw, Trash2 } from 'lucide-react';
import { toast } from 'sonner';
import type { StateView } from '@/contract/states';
import { readSide } from '@/state/compared-sides';
import type { Side } from '@/state/compared-sides';
import { commit } from '@/state/editing';
import { forgetStateHere } from '@/state/kept-states';
import { stores } from '@/state/stores';
import { IconButton } from '@/ui/IconButton';
import { Swatch } from '@/ui/Swatch';
import { tellProblem } from '@/ui/tell-problem';
import type { Sides } from './side-choices';

interface Props {
  readonly states: readonly StateView[];
  readonly sides: Sides;
  readonly onChoose: (place: keyof Sides, side: Side) => void;
  readonly onModel: (id: string) => Promise<void>;
}

/** The kept states by their pictures, the earliest first. */
export function StateStrip(given: Props) {
  const { states } = given;
  if (states.length === 0)
    return <p className="text-[12px] text-soft">No state of this material is kept yet.</p>;
  return (
    <ol className="flex gap-2 overflow-x-auto pb-1" aria-label="Kept states" tabIndex={0}>
      {states.map((state) => (
        <StateTile key={state.id} state={state} {...given} />
      ))}
    </ol>
  );
}

/** Opens a state as a step that can be undone: document, model and camera. */
async function goBackTo(
  state: StateView,
  states: readonly StateView[],
  onModel: Props['onModel'],
): Promise<void> {
  const seen = await readSide({ of: 'state', id: state.id }, states, true);
  if (!seen) return;
  commit(`Back to “${state.name}”`, ({ name }) => ({ ...seen.document, name }));
  if (seen.model !== stores.document.getState().modelId) await onModel(seen.model);
  stores.view.setState({ askedCamera: { ...state.camera } });
  toast(`“${state.name}” is open again. Ctrl+Z takes that back.`);
}

const percent = (amount: number): string => `${String(Math.round(amount * 100))} %`;

type TileProps = Props & { readonly state: StateView };

function StateTile({ state, ...given }: TileProps) {
  const { name, note, authorName, createdAt, about, amount, pictureHash } = state;
  const when = new Date(createdAt).toLocaleString('en-GB', {
    dateStyle: 'medium',
    timeStyle: 'short',
  });
  return (
    <li className="w-[104px] shrink-0 border border-line p-1 text-[11px]" data-state={name}>
      <Swatch hash={pictureHash} label={`State ${name}`} className="h-[72px] w-full" />
      <span className="block truncate text-[12px] font-semibold" title={name}>
        {name}
      </span>
      {about === null ? null : (
        <span className="block truncate" title={`${about}: ${note}`}>
          {about}
          {amount === null ? '' : `, ${percent(amount)}`}
        </span>
      )}
      <span className="block truncate text-soft" title={`${authorName}, ${when}. ${note}`}>
        {note || `${authorName}, ${when}`}
      </span>
      <TileActs {...given} state={state} />
    </li>
  );
}

/** Choosing a state as a side of the comparison, going back to it, forgetting it. */
function TileActs({ state, states, sides, onChoose, onModel }: TileProps) {
  const { id, name, mayEdit } = state;
  const isAt = (place: keyof Sides): boolean => {
    const side = sides[place];
    return side?.of === 'state' && side.id === id;
  };
  return (
    <span className="mt-0.5 flex gap-0.5">
      {(['before', 'after'] as const).map((place) => (
        <IconButton
          key={place}
          name={`Compare ${name} as ${place === 'before' ? 'A' : 'B'}`}
          isPressed={isAt(place)}
          onClick={() => {
            onChoose(place, { of: 'state', id });
          }}
        >
          {place === 'before' ? 'A' : 'B'}
        </IconButton>
      ))}
      <IconButton
        name={`Go back to ${name}`}
        onClick={() => {
          goBackTo(state, states, onModel).catch(tellProblem);
        }}
      >
        <RotateCcw size={12} />
      </IconButton>
      {mayEdit ? (
        <IconButton
          name={`Forget ${name}`}
          onClick={() => {
            forgetStateHere(id).then(
              () => toast(`Forgot “${name}”. Its revision stays in the history.`),
              tellProblem,
            );
          }}
        >
          <Trash2 size={12} />
        </IconButton>
      ) : null}
    </span>
  );
}
