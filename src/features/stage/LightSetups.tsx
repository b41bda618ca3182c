'use client';
import { Trash2 } from 'lucide-react';
import { useState } from 'react';
import { dropLights, keepLights, listLightSetups, takeLights } from '@/core/edit/light-setups';
import { LIMITS } from '@/core/graph/document';
import { commit } from '@/state/editing';
import { useDocument } from '@/state/use-stores';
import { Button } from '@/ui/Button';
import { IconButton } from '@/ui/IconButton';

/** Light set-ups kept with the material: taken by their names, and the present one kept. */
export function LightSetups() {
  const setups = useDocument((state) => listLightSetups(state.document));
  const [name, setName] = useState('');
  return (
    <div role="group" aria-label="Kept set-ups" className="mt-1 flex flex-wrap items-center gap-2">
      {setups.map((setup) => (
        <span key={setup.id} className="flex items-center">
          <Button
            className="min-h-[24px] !py-0"
            onClick={() => {
              commit(`Lit by “${setup.name}”`, (document) => takeLights(document, setup.id));
            }}
          >
            {setup.name}
          </Button>
          <IconButton
            name={`Forget the lights ${setup.name}`}
            onClick={() => {
              commit('Forgot kept lights', (document) => dropLights(document, setup.id));
            }}
          >
            <Trash2 size={11} />
          </IconButton>
        </span>
      ))}
      <form
        className="flex items-center gap-1"
        onSubmit={(event) => {
          event.preventDefault();
          const kept = name.trim();
          if (kept === '') return;
          commit(`Kept the lights as “${kept}”`, (document) => keepLights(document, kept));
          setName('');
        }}
      >
        <input
          aria-label="Name for these lights"
          placeholder="Keep these lights as …"
          className="w-[160px] border border-line bg-ground px-1.5 py-0.5"
          maxLength={LIMITS.name}
          value={name}
          onChange={(event) => {
            setName(event.target.value);
          }}
        />
        <Button
          type="submit"
          className="min-h-[24px] !py-0"
          disabled={name.trim() === '' || setups.length >= LIMITS.lightSetups}
        >
          Keep
        </Button>
      </form>
    </div>
  );
}
