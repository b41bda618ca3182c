/** The model that every group is tried and proved on beside the current one. */
export const STUDY = { id: 'demo-study', name: 'Study form' } as const;

/** The models a group is shown on beside the current one, as far as there is room. */
export const REFERENCES = [
  STUDY,
  { id: 'demo-buoy', name: 'Channel buoy' },
  { id: 'demo-bell', name: 'Mooring bell' },
] as const;
