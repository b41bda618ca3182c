import { AppError } from '../base/diagnostic';
import { parsePointer, pointer } from './pointer';

/** One step of a JSON Patch (RFC 6902); of its operations, the three that say what is new. */
export type PatchStep =
  | { readonly op: 'add' | 'replace'; readonly path: string; readonly value: unknown }
  | { readonly op: 'remove'; readonly path: string };
/** Steps that are taken in their order. */
export type JsonPatch = readonly PatchStep[];

type Tokens = readonly (string | number)[];
type Members = Readonly<Record<string, unknown>>;

const isMembers = (value: unknown): value is Members =>
  typeof value === 'object' && value !== null && !Array.isArray(value);
const idOf = (value: unknown): unknown => (isMembers(value) ? value['id'] : undefined);

function diffMembers(before: Members, after: Members, at: Tokens, steps: PatchStep[]): void {
  for (const key of Object.keys(before))
    if (!Object.hasOwn(after, key) || after[key] === undefined)
      if (before[key] !== undefined) steps.push({ op: 'remove', path: pointer([...at, key]) });
  for (const [key, value] of Object.entries(after)) {
    if (value === undefined) continue;
    if (Object.hasOwn(before, key) && before[key] !== undefined)
      diff(before[key], value, [...at, key], steps);
    else steps.push({ op: 'add', path: pointer([...at, key]), value });
  }
}

/** Lists whose entries have ids: those that stay are compared, the others come and go. */
function diffEntries(
  before: readonly unknown[],
  after: readonly unknown[],
  at: Tokens,
  steps: PatchStep[],
): void {
  const kept = new Set(after.map(idOf));
  for (let k = before.length - 1; k >= 0; k--)
    if (!kept.has(idOf(before[k]))) steps.push({ op: 'remove', path: pointer([...at, k]) });
  const list = before.filter((each) => kept.has(idOf(each)));
  const known = new Set(list.map(idOf));
  let from = 0;
  after.forEach((value, k) => {
    if (known.has(idOf(value))) {
      const old = list[from++];
      if (old !== value) diff(old, value, [...at, k], steps);
    } else steps.push({ op: 'add', path: pointer([...at, k]), value });
  });
}

/** Whether two lists have the same entries in the same places, however these changed. */
const isSameOrder = (before: readonly unknown[], after: readonly unknown[]): boolean =>
  before.length === after.length &&
  after.every((each, k) => each === before[k] || idOf(each) === idOf(before[k]));

function diffLists(
  before: readonly unknown[],
  after: readonly unknown[],
  at: Tokens,
  steps: PatchStep[],
): void {
  if (isSameOrder(before, after)) {
    after.forEach((value, k) => {
      if (value !== before[k]) diff(before[k], value, [...at, k], steps);
    });
    return;
  }
  const ids = (list: readonly unknown[]): Set<unknown> => new Set(list.map(idOf));
  const [old, now] = [ids(before), ids(after)];
  const hasIds =
    old.size === before.length &&
    now.size === after.length &&
    !old.has(undefined) &&
    !now.has(undefined);
  const stay = (list: readonly unknown[], other: ReadonlySet<unknown>): unknown[] =>
    list.map(idOf).filter((each) => other.has(each));
  const isInOrder = hasIds && stay(before, now).join() === stay(after, old).join();
  if (isInOrder) diffEntries(before, after, at, steps);
  else steps.push({ op: 'replace', path: pointer(at), value: after });
}

function diff(before: unknown, after: unknown, at: Tokens, steps: PatchStep[]): void {
  if (before === after) return;
  if (Array.isArray(before) && Array.isArray(after)) {
    if (before.length === after.length && before.every((each, k) => each === after[k])) return;
    diffLists(before, after, at, steps);
  } else if (isMembers(before) && isMembers(after)) diffMembers(before, after, at, steps);
  else steps.push({ op: 'replace', path: pointer(at), value: after });
}

/**
 * What makes one JSON value of another. Parts that both share as objects are not looked into, so
 * that after an edit it costs a look at each node and what was edited.
 */
export function diffJson(before: unknown, after: unknown): JsonPatch {
  const steps: PatchStep[] = [];
  diff(before, after, [], steps);
  return steps;
}

const unfit = (path: string): AppError =>
  new AppError(
    'patch.unfit',
    `The change at ${path || 'the whole'} does not fit what it is made to.`,
    'Send the whole document instead.',
    { status: 422, kept: 'Nothing was changed.' },
  );

/** Copies a part once; what was copied already is changed in place. */
function owned<T extends object>(part: T, copies: Set<object>): T {
  if (copies.has(part)) return part;
  const copy = (Array.isArray(part) ? [...(part as unknown[])] : { ...part }) as T;
  copies.add(copy);
  return copy;
}

function stepOnList(list: unknown[], token: string, step: PatchStep): void {
  const most = step.op === 'add' ? list.length : list.length - 1;
  const k = token === '-' && step.op === 'add' ? list.length : Number(token);
  if (!Number.isInteger(k) || k < 0 || k > most || token.trim() !== token) throw unfit(step.path);
  if (step.op === 'remove') list.splice(k, 1);
  else if (step.op === 'add') list.splice(k, 0, step.value);
  else list[k] = step.value;
}

function stepOnMembers(members: Record<string, unknown>, token: string, step: PatchStep): void {
  if (step.op !== 'add' && !Object.hasOwn(members, token)) throw unfit(step.path);
  if (step.op === 'remove') Reflect.deleteProperty(members, token);
  else members[token] = step.value;
}

function take(root: unknown, step: PatchStep, copies: Set<object>): unknown {
  const tokens = parsePointer(step.path);
  const last = tokens.at(-1);
  if (last === undefined) {
    if (step.op === 'remove') throw unfit(step.path);
    return step.value;
  }
  // The name of no member: it would change what the object is.
  if (tokens.includes('__proto__') || typeof root !== 'object' || root === null)
    throw unfit(step.path);
  const top = owned(root, copies);
  let part = top as Record<string, unknown> | unknown[];
  for (const token of tokens.slice(0, -1)) {
    const next: unknown = Object.hasOwn(part, token) ? Reflect.get(part, token) : undefined;
    if (typeof next !== 'object' || next === null) throw unfit(step.path);
    const copy = owned(next, copies);
    Reflect.set(part, token, copy);
    part = copy as typeof part;
  }
  if (Array.isArray(part)) stepOnList(part, last, step);
  else stepOnMembers(part, last, step);
  return top;
}

/**
 * Takes the steps of a patch. The value given stays as it is; what no step touches is shared.
 * @throws AppError `patch.unfit` when a step leads nowhere
 */
export function applyPatch(value: unknown, patch: JsonPatch): unknown {
  const copies = new Set<object>();
  return patch.reduce((made, step) => take(made, step, copies), value);
}
