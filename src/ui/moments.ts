/** A moment by day and minute, as `28/11/2026, 14:24`, in the place of whoever reads it. */
export const shortMoment = (moment: string): string =>
  new Date(moment).toLocaleString('en-GB', { dateStyle: 'short', timeStyle: 'short' });
