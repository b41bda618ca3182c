import { AppError } from '@/core/base/diagnostic';
import { nameFault, namingRule } from '@/core/edit/naming-rule';
import { rulesForm } from '@/contract/people';
import type { StudioRules } from '@/contract/people';
import { keepRule, readRule } from '@/db/queries/staff';

const NAME = 'studio';
/** The rules of a studio that has set none. */
export const USUAL_RULES: StudioRules = {
  naming: null,
  studioRack: ['author', 'librarian'],
  projectRacks: ['artist', 'author', 'librarian'],
};

/** The rules as they are; the usual ones where none were set or they cannot be read. */
export async function readRules(): Promise<StudioRules> {
  const { error, value } = rulesForm.validate(await readRule(NAME)) as {
    error?: Error;
    value?: StudioRules;
  };
  return error || value === undefined ? USUAL_RULES : value;
}
export const keepRules = (rules: StudioRules): Promise<void> => keepRule(NAME, rules);

/** @throws AppError where a name on a rack that others see does not keep the studio's rule */
export async function assertName(rack: string, name: string, kept: string): Promise<void> {
  if (rack.startsWith('person:')) return;
  const { naming } = await readRules();
  const fault = naming && nameFault(name, namingRule(naming));
  if (fault)
    throw new AppError('name.rule', `“${name}” ${fault}.`, 'Choose another name.', {
      kept,
      status: 409,
    });
}

interface Named {
  readonly rack: string;
  readonly name: string;
}
/**
 * The same of something that is called another name, or put on another rack; what stays as it is
 * may have its name from before there was a rule.
 */
export async function assertNewName(
  { rack, name }: Named,
  next: { readonly rack?: string | undefined; readonly name?: string | undefined },
  kept: string,
): Promise<void> {
  const isSame = (next.rack ?? rack) === rack && (next.name ?? name) === name;
  if (!isSame) await assertName(next.rack ?? rack, next.name ?? name, kept);
}
