import { defineNode, option, output } from '../define';

interface Clear {
  readonly title: string;
  readonly source: string;
  readonly index: number;
}
/** Refractive indices at the sodium line, 589 nm, near 20 °C. */
const CLEAR = {
  water: {
    title: 'Water',
    source: 'A. Harvey et al., J. Phys. Chem. Ref. Data 27 (1998)',
    index: 1.333,
  },
  ice: {
    title: 'Ice',
    source: 'S. Warren and R. Brandt, J. Geophys. Res. 113 (2008)',
    index: 1.309,
  },
  silica: {
    title: 'Fused silica',
    source: 'I. Malitson, J. Opt. Soc. Am. 55 (1965)',
    index: 1.4584,
  },
  crown: { title: 'Crown glass', source: 'borosilicate crown, public data sheets', index: 1.5168 },
  acrylic: {
    title: 'Acrylic',
    source: 'N. Sultanova et al., Acta Phys. Pol. A 116 (2009)',
    index: 1.491,
  },
  sapphire: {
    title: 'Sapphire',
    source: 'I. Malitson, J. Opt. Soc. Am. 52 (1962), ordinary ray',
    index: 1.768,
  },
  diamond: { title: 'Diamond', source: 'F. Peter, Z. Phys. 15 (1923)', index: 2.417 },
} as const satisfies Record<string, Clear>;

type Triple = readonly [number, number, number];
interface Metal {
  readonly title: string;
  readonly source: string;
  readonly index: Triple;
  readonly extinction: Triple;
}
/** Refractive index and extinction near 660, 549 and 451 nm. */
const METALS = {
  gold: {
    title: 'Gold',
    source: 'P. Johnson and R. Christy, Phys. Rev. B 6 (1972)',
    index: [0.14, 0.43, 1.38],
    extinction: [3.697, 2.455, 1.914],
  },
  silver: {
    title: 'Silver',
    source: 'P. Johnson and R. Christy, Phys. Rev. B 6 (1972)',
    index: [0.05, 0.06, 0.04],
    extinction: [4.483, 3.586, 2.657],
  },
  copper: {
    title: 'Copper',
    source: 'P. Johnson and R. Christy, Phys. Rev. B 6 (1972)',
    index: [0.22, 1.02, 1.17],
    extinction: [3.747, 2.577, 2.397],
  },
  aluminium: {
    title: 'Aluminium',
    source: 'A. Rakić, Appl. Opt. 34 (1995)',
    index: [1.49, 0.96, 0.63],
    extinction: [7.82, 6.69, 5.47],
  },
} as const satisfies Record<string, Metal>;
type Name = keyof typeof CLEAR | keyof typeof METALS;

const metalOf = (name: Name): Metal | null =>
  name in METALS ? METALS[name as keyof typeof METALS] : null;
const clearOf = (name: Name): Clear => CLEAR[name as keyof typeof CLEAR];
const straightOn = (n: number, k: number): number =>
  ((n - 1) ** 2 + k * k) / ((n + 1) ** 2 + k * k);
const CHOICES = Object.fromEntries([
  ...Object.entries(CLEAR).map(([name, { title, source, index }]) => [
    name,
    [title, `n = ${String(index)}; ${source}`],
  ]),
  ...Object.entries(METALS).map(([name, { title, source }]) => [
    name,
    [title, `a metal; ${source}`],
  ]),
]) as Record<Name, readonly [string, string]>;

export const measured = defineNode({
  id: 'optics.measured',
  version: 1,
  title: 'Measured',
  family: 'optics',
  synonyms: [
    'material table',
    'real values',
    'water',
    'glass',
    'gold',
    'copper',
    'silver',
    'aluminium',
    'ice',
    'diamond',
  ],
  help:
    'Measured optical values with their sources. Clear bodies have an index and a grey ' +
    'reflectance; metals have a coloured reflectance, and an index of 1.',
  formula: 'F0 = ((n − 1)² + k²)/((n + 1)² + k²) of the measured n and k',
  inputs: {},
  options: { material: option('Material', 'What was measured.', CHOICES) },
  outputs: {
    index: output.scalar('Refractive index', 'Of a clear body; 1 for a metal.', {
      quantity: 'refractive index',
    }),
    colour: output.colour('Reflectance', 'Share reflected straight on.'),
    metalness: output.scalar('Metalness', '1 for a metal.', { low: 'clear', high: 'metal' }),
  },
  lower: (b, _inputs, { material }) => {
    const found = metalOf(material);
    if (!found) {
      const grey = b.f(straightOn(clearOf(material).index, 0));
      return { index: b.f(clearOf(material).index), colour: [grey, grey, grey], metalness: b.f(0) };
    }
    const [red, green, blue] = found.index.map((n, k) =>
      b.f(straightOn(n, found.extinction[k as 0])),
    );
    return {
      index: b.f(1),
      colour: [red ?? b.f(0), green ?? b.f(0), blue ?? b.f(0)],
      metalness: b.f(1),
    };
  },
});
