'use client';
import { Trash2 } from 'lucide-react';
import NextImage from 'next/image';
import { useState } from 'react';
import { readImage } from '@/contract/images';
import {
  changeReference,
  listReferences,
  addReference,
  removeReference,
} from '@/core/edit/references';
import { LIMITS, REFERENCE_PLACES } from '@/core/graph/limits';
import type { SceneReference } from '@/core/graph/document';
import { routeAddress } from '@/state/api';
import { bringImage } from '@/state/bring-image';
import { commit, endGesture } from '@/state/editing';
import { useDocument } from '@/state/use-stores';
import { Choose } from '@/ui/Choose';
import { IconButton } from '@/ui/IconButton';
import { ValueSlider } from '@/ui/ValueSlider';
import { tellProblem } from '@/ui/tell-problem';
import { StageDock } from './StageDock';

/** Where a browser gets an image of the studio. */
export const imageAddress = (hash: string): string => routeAddress(readImage, { hash });

const PLACES: Readonly<Record<SceneReference['place'], string>> = {
  beside: 'beside the model',
  over: 'over it',
  behind: 'behind it',
  difference: 'over it, as difference',
  away: 'put away',
};

/** The pictures a material is judged against: saved with it, shown where each is wanted. */
export function ReferencesPanel() {
  const references = useDocument((state) => listReferences(state.document));
  return (
    <StageDock panel="references">
      <ul className="flex flex-col gap-1 pr-8">
        {references.map((reference) => (
          <ReferenceRow key={reference.id} reference={reference} />
        ))}
      </ul>
      {references.length < LIMITS.references ? <BringReference /> : null}
      <p className="text-soft">A click on a picture beside the model copies its colour there.</p>
    </StageDock>
  );
}

function ReferenceRow({ reference }: { readonly reference: SceneReference }) {
  const { id, image, place, opacity } = reference;
  const name = image.name || 'picture';
  const isThrough = place !== 'beside' && place !== 'away';
  return (
    <li className="flex items-center gap-2" data-reference={name}>
      <NextImage
        unoptimized
        src={imageAddress(image.image)}
        alt=""
        width={48}
        height={48}
        className="h-[24px] w-[36px] bg-stage object-contain"
      />
      <span className="min-w-0 flex-1 truncate" title={name}>
        {name}
      </span>
      <Choose
        label={`Where ${name} is shown`}
        value={place}
        items={REFERENCE_PLACES.map((value) => ({ value, title: PLACES[value] }))}
        onChange={(next) => {
          commit('Moved a reference', (document) =>
            changeReference(document, id, { place: next as SceneReference['place'] }),
          );
        }}
      />
      <span className="w-[80px]">
        {isThrough ? (
          <ValueSlider
            value={opacity}
            low={0}
            high={1}
            step={0.01}
            label={`Opacity of ${name}`}
            onChange={(next) => {
              commit(
                'Faded a reference',
                (document) => changeReference(document, id, { opacity: next }),
                'reference',
              );
            }}
            onDone={endGesture}
          />
        ) : null}
      </span>
      <IconButton
        name={`Take ${name} away`}
        onClick={() => {
          commit('Took a reference away', (document) => removeReference(document, id));
        }}
      >
        <Trash2 size={12} />
      </IconButton>
    </li>
  );
}

function BringReference() {
  const [isBusy, setBusy] = useState(false);
  const bring = async (file: File): Promise<void> => {
    setBusy(true);
    try {
      const image = await bringImage(file);
      commit('Added a reference', (document) => addReference(document, image));
    } catch (error) {
      tellProblem(error);
    } finally {
      setBusy(false);
    }
  };
  return (
    <label className="flex items-center gap-2">
      {isBusy ? 'Reading …' : 'Bring a picture'}
      <input
        type="file"
        accept=".png,.jpg,.jpeg,image/png,image/jpeg"
        disabled={isBusy}
        onChange={(event) => {
          const [file] = event.target.files ?? [];
          event.target.value = '';
          if (file) void bring(file);
        }}
      />
    </label>
  );
}
