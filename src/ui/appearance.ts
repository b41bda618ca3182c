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

/** The cookie it is kept in, so that the server draws the first page as it was chosen. */
export const APPEARANCE_COOKIE = 'bright-loom-appearance';
const ONE_YEAR = 365 * 24 * 3600;
/** From here on, pixels across, a window has room for larger text. */
const WIDE = 2200;

const isOneOf = <T extends string>(
  value: unknown,
  among: Readonly<Record<T, string>>,
): value is T => typeof value === 'string' && Object.hasOwn(among, value);

/** What a cookie says, as far as it can be read. */
export function parseAppearance(kept: string | undefined): Partial<Appearance> {
  const [theme, density] = (kept ?? '').split('.');
  return {
    ...(isOneOf(theme, THEMES) ? { theme } : {}),
    ...(isOneOf(density, DENSITIES) ? { density } : {}),
  };
}

/** What was chosen in this browser; else what suits the window. */
export function readAppearance(): Appearance {
  const kept = new RegExp(`(?:^|; )${APPEARANCE_COOKIE}=([^;]*)`).exec(document.cookie)?.[1];
  return {
    theme: 'basalt',
    density: window.innerWidth >= WIDE ? 'large' : 'normal',
    ...parseAppearance(kept),
  };
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
  const kept = `${APPEARANCE_COOKIE}=${next.theme}.${next.density}`;
  document.cookie = `${kept}; path=/; max-age=${String(ONE_YEAR)}; samesite=lax`;
}
