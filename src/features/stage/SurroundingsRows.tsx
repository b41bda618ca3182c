import { changeSurroundings } from '@/core/edit/lights';
import { DEFAULT_SURROUNDINGS, SURROUNDINGS_LIMITS } from '@/core/graph/document';
import { commit } from '@/state/editing';
import { useDocument } from '@/state/use-stores';
import { NumberRow } from './PanelRow';

const THEM = 'the surroundings';
function change(
  label: string,
  to: Parameters<typeof changeSurroundings>[1],
  gesture: string | null,
) {
  commit(label, (current) => changeSurroundings(current, to), gesture);
}

/**
 * The studio around the model: turned to see its windows glide over the surface, dimmed to judge a
 * light alone.
 */
export function SurroundingsRows() {
  const { turn, strength } = useDocument(
    (state) => state.document.surroundings ?? DEFAULT_SURROUNDINGS,
  );
  const [low, high] = SURROUNDINGS_LIMITS.turn;
  return (
    <fieldset className="mb-2 border-b border-line pb-1.5">
      <legend className="font-semibold">Surroundings</legend>
      <NumberRow
        title="Azimuth"
        of={THEM}
        unit="degrees"
        value={turn}
        low={low}
        high={high}
        step={1}
        onChange={(next, isDrag) => {
          change('Turned the surroundings', { turn: next }, isDrag ? 'surroundings turn' : null);
        }}
      />
      <NumberRow
        title="Strength"
        of={THEM}
        unit="number"
        value={strength}
        low={0}
        high={3}
        most={SURROUNDINGS_LIMITS.strength[1]}
        step={0.05}
        onChange={(next, isDrag) => {
          const gesture = isDrag ? 'surroundings strength' : null;
          change('Dimmed the surroundings', { strength: next }, gesture);
        }}
      />
    </fieldset>
  );
}
