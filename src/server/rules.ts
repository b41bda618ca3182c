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

/** @throws AppError where a name does not keep the studio's rule */
export async function assertName(name: string, kept: string): Promise<void> {
  const { naming } = await readRules();
  const fault = naming && nameFault(name, namingRule(naming));
  if (fault)
    throw new AppError('name.rule', `“${name}” ${fault}.`, 'Choose another name.', {
      kept,
      status: 409,
    });
}
