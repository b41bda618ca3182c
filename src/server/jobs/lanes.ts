/** Kinds of jobs as those who ask for them see them; the worker's side is in `kinds.ts`. */
export const SWATCH = { kind: 'swatch', lane: 'prompt' } as const;
export const PRESET_SWATCH = { kind: 'preset swatch', lane: 'prompt' } as const;
export const STATE_PICTURE = { kind: 'state picture', lane: 'prompt' } as const;
export const PUBLICATION = { kind: 'publication', lane: 'prompt' } as const;
export const MESH_MAP = { kind: 'mesh map', lane: 'long' } as const;
export const SHEET = { kind: 'proof sheet', lane: 'long' } as const;
export const GROUP_FILE = { kind: 'group file', lane: 'prompt' } as const;
export const HOUSEKEEPING = { kind: 'housekeeping', lane: 'long' } as const;
/** Waited for, but many at once: what is waited for alone goes first. */
export const CONSEQUENCES = { kind: 'consequences', lane: 'prompt', priority: -1 } as const;
