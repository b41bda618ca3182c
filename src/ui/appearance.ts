/** How large text and controls are, with the words for each. */
export const DENSITIES = {
  compact: 'Compact',
  normal: 'Normal',
  large: 'Large',
} as const;
export type Density = keyof typeof DENSITIES;
export const THEMES = { basalt: 'Basalt, mid-dark', linen: 'Linen, light' } as const;
export type Theme = keyof typeof THEMES;

export interface Appearance {
  readonly theme: Theme;
  readonly density: Density;
}

const KEY = 'bright-loom appearance';
/** From here on, pixels across, a window has room for larger text. */
const WIDE = 2200;

const isOneOf = <T extends string>(
  value: unknown,
  among: Readonly<Record<T, string>>,
): value is T => typeof value === 'string' && Object.hasOwn(among, value);

/** What was chosen in this browser; else what suits the window. */
export function readAppearance(): Appearance {
  const usual: Appearance = {
    theme: 'basalt',
    density: window.innerWidth >= WIDE ? 'large' : 'normal',
  };
  try {
    const kept = JSON.parse(localStorage.getItem(KEY) ?? '{}') as Partial<Appearance>;
    return {
      theme: isOneOf(kept.theme, THEMES) ? kept.theme : usual.theme,
      density: isOneOf(kept.density, DENSITIES) ? kept.density : usual.density,
    };
  } catch {
    return usual;
  }
}

/** Puts it on the page. */
export function applyAppearance({ theme, density }: Appearance): void {
  const root = document.documentElement;
  root.dataset['theme'] = theme;
  root.dataset['density'] = density;
}

/** Puts it on the page and remembers it in this browser, where that may be. */
export function chooseAppearance(change: Partial<Appearance>): void {
  const next = { ...readAppearance(), ...change };
  applyAppearance(next);
  try {
    localStorage.setItem(KEY, JSON.stringify(next));
  } catch {
    // It stays for as long as the page does.
  }
}
