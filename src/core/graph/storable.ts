/**
 * Text that neither PostgreSQL nor JSON tools can hold, and lists no reader of ours should walk.
 */
import { LIMITS } from './document';
import { pointer } from './pointer';

/** A value that cannot be stored, and why. */
export interface Unstorable {
  /** JSON Pointer (RFC 6901) to the value. */
  readonly pointer: string;
  readonly message: string;
}

/** How deep JSON may nest, and how long any list or object in it may be. */
export const JSON_LIMITS = { depth: 64, members: LIMITS.strands } as const;

/** What is wrong with a text, in words; null for text that can be stored. */
export function textFault(text: string): string | null {
  if (text.includes('\0')) return 'holds the character NUL, which cannot be stored';
  if (!text.isWellFormed()) return 'holds half of a character (a lone surrogate)';
  return null;
}

/** A value on the way, with what led to it; its path is only put together when it is at fault. */
interface Step {
  readonly value: unknown;
  readonly key: string | number | null;
  readonly parent: Step | null;
  readonly depth: number;
}

function pathTo(step: Step): (string | number)[] {
  const path: (string | number)[] = [];
  for (let at: Step | null = step; at; at = at.parent) if (at.key !== null) path.unshift(at.key);
  return path;
}

function faultOf(step: Step): Unstorable | null {
  const { value, depth } = step;
  if (typeof value === 'string') {
    const fault = textFault(value);
    return fault ? { pointer: pointer(pathTo(step)), message: `The text ${fault}.` } : null;
  }
  if (typeof value !== 'object' || value === null) return null;
  if (depth > JSON_LIMITS.depth) {
    const message = `It nests deeper than ${String(JSON_LIMITS.depth)} levels.`;
    return { pointer: pointer(pathTo(step).slice(0, 4)), message };
  }
  const count = Array.isArray(value) ? value.length : Object.keys(value).length;
  if (count <= JSON_LIMITS.members) return null;
  const most = JSON_LIMITS.members.toLocaleString('en');
  const message = `It has ${count.toLocaleString('en')} members; the limit is ${most}.`;
  return { pointer: pointer(pathTo(step)), message };
}

function pushMembers(waiting: Step[], step: Step): void {
  const { value } = step;
  if (typeof value !== 'object' || value === null) return;
  const depth = step.depth + 1;
  if (Array.isArray(value)) {
    value.forEach((item: unknown, key) => waiting.push({ value: item, key, parent: step, depth }));
    return;
  }
  for (const [key, member] of Object.entries(value)) {
    if (textFault(key)) waiting.push({ value: key, key, parent: step, depth });
    waiting.push({ value: member as unknown, key, parent: step, depth });
  }
}

/**
 * Looks through parsed JSON for what cannot be stored or must not be walked: NUL and lone
 * surrogates in any text or key, lists and objects beyond `JSON_LIMITS`. Without recursion, so that
 * nesting cannot exhaust the stack.
 * @returns the first fault with its place; null where there is none
 */
export function findUnstorable(raw: unknown): Unstorable | null {
  const waiting: Step[] = [{ value: raw, key: null, parent: null, depth: 0 }];
  for (let step = waiting.pop(); step; step = waiting.pop()) {
    const fault = faultOf(step);
    if (fault) return fault;
    pushMembers(waiting, step);
  }
  return null;
}
