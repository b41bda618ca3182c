/** An object of parsed JSON whose members are not known yet. */
export type JsonRecord = Readonly<Record<string, unknown>>;

/** Whether parsed JSON is an object, not a list and not null. */
export const isRecord = (value: unknown): value is JsonRecord =>
  typeof value === 'object' && value !== null && !Array.isArray(value);
