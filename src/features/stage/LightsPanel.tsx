'use client';
import { Plus } from 'lucide-react';
import { listLights } from '@/core/compile/lights';
import { addLight } from '@/core/edit/lights';
import { DEFAULT_SURROUNDINGS, LIMITS } from '@/core/graph/document';
import { commit } from '@/state/editing';
import { useDocument } from '@/state/use-stores';
import { Button } from '@/ui/Button';
import { LightSetups } from './LightSetups';
import { LightRows } from './LightRows';
import { StageDock } from './StageDock';
import { SurroundingsRows } from './SurroundingsRows';

/** The lights of the scene: saved with the material, undone like everything else. */
export function LightsPanel() {
  const lights = useDocument((state) => listLights(state.document));
  const surroundings = useDocument((state) => state.document.surroundings ?? DEFAULT_SURROUNDINGS);
  return (
    <StageDock panel="lights">
      <div className="grid grid-cols-[repeat(auto-fill,minmax(205px,1fr))] gap-x-4 pr-12">
        {lights.map((light) => (
          <LightRows key={light.id} light={light} />
        ))}
        <SurroundingsRows />
      </div>
      {lights.every(({ intensity }) => intensity === 0) ? (
        <p role="status" className="mb-1 text-madder">
          {surroundings.strength === 0
            ? 'No light is on and the surroundings are dark: the model is black.'
            : 'No light is on: only the surroundings are seen.'}
        </p>
      ) : null}
      <div className="flex flex-wrap items-center gap-2">
        <Button
          disabled={lights.length >= LIMITS.lights}
          onClick={() => {
            commit('Added a light', (current) => addLight(current).document);
          }}
        >
          <Plus size={12} />
          Add a light
        </Button>
        <span className="text-soft">Or take a light by its mark on the stage.</span>
      </div>
      <LightSetups />
    </StageDock>
  );
}
