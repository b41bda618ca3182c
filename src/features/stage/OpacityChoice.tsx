'use client';
import { OPACITY_MODES } from '@/core/graph/document';
import type { OpacityMode } from '@/core/graph/document';
import { Choose } from '@/ui/Choose';
import { commit } from '@/state/editing';
import { useDocument, useResults } from '@/state/use-stores';

const TITLES: Record<OpacityMode, readonly [string, string]> = {
  opaque: ['Opaque', 'Opacity is not shown.'],
  'cut-off': ['Cut off at one half', 'Holes with a hard border.'],
  blend: ['Blended', 'What lies behind shines through.'],
  dithered: ['Dithered', 'A fine pattern of dots; nothing needs sorting.'],
};

/**
 * How opacity is shown: chosen by the values unless someone chose. To be seen only where it
 * matters.
 */
export function OpacityChoice() {
  const chosen = useDocument((state) => state.document.opacityMode);
  const found = useResults((state) => state.appearance?.opacityMode ?? 'opaque');
  if (chosen === undefined && found === 'opaque') return null;
  const change = (mode: string): void => {
    commit('Chose how opacity is shown', ({ opacityMode: _old, ...document }) =>
      mode === 'automatic' ? document : { ...document, opacityMode: mode as OpacityMode },
    );
  };
  const automatic = {
    value: 'automatic',
    title: `Automatic: ${TITLES[found][0].toLowerCase()}`,
    help: 'By the values of the surface.',
  };
  return (
    <span
      className="absolute bottom-7 left-1 flex items-center gap-1 text-[11px] text-ink"
      data-testid="opacity-mode"
    >
      Opacity{' '}
      <Choose
        label="How opacity is shown"
        value={chosen ?? 'automatic'}
        onChange={change}
        items={[
          automatic,
          ...OPACITY_MODES.map((mode) => ({
            value: mode,
            title: TITLES[mode][0],
            help: TITLES[mode][1],
          })),
        ]}
      />
    </span>
  );
}
