import { createContext } from 'react';
import type { ReactNode } from 'react';
import type { Triple } from '@/core/graph/document';

/** Shows palettes of the racks in the editor of a colour, each colour to be taken. */
export type ShowPalettes = (onTake: (colour: Triple) => void) => ReactNode;

/** What shows palettes in every editor of a colour; nothing where there is no library. */
export const PaletteSlot = createContext<ShowPalettes>(() => null);
