import { AppError } from '@/core/base/diagnostic';
import type { StudioRules } from '@/contract/people';
import type { Role, SignedIn } from './authentication';

export const STUDIO_RACK = 'studio';
export const projectRack = (projectId: string): string => `project:${projectId}`;
export const personRack = (userId: string): string => `person:${userId}`;
export const findProject = (rack: string): string | null =>
  rack.startsWith('project:') ? rack.slice(8) : null;

type PublishRules = Pick<StudioRules, 'studioRack' | 'projectRacks'>;

/**
 * Whether a person may publish on a rack: everybody on their own, on those of their projects and
 * on the studio's the roles that the rules name.
 */
export function mayPublish(
  { id, role }: Pick<SignedIn, 'id' | 'role'>,
  rack: string,
  projects: readonly string[],
  { studioRack, projectRacks }: PublishRules,
): boolean {
  const project = findProject(rack);
  if (project !== null) return projects.includes(project) && projectRacks.includes(role);
  return rack === personRack(id) || (rack === STUDIO_RACK && studioRack.includes(role));
}

/** On the studio rack a next release waits for a librarian, unless it is a librarian's own. */
export const needsReview = (role: Role, rack: string): boolean =>
  rack === STUDIO_RACK && role !== 'librarian';

/** Whoever published an entry changes it, and so do authors and librarians who see it. */
export const mayEdit = ({ id, role }: Pick<SignedIn, 'id' | 'role'>, authorId: string): boolean =>
  id === authorId || role !== 'artist';

export const mayWithdraw = (role: Role): boolean => role === 'librarian';

const among = (roles: readonly Role[]): string =>
  roles.length === 0 ? 'nobody at the moment' : roles.map((role) => `${role}s`).join(' and ');

export function assertMayPublish(
  user: SignedIn,
  rack: string,
  projects: readonly string[],
  rules: PublishRules,
): void {
  if (mayPublish(user, rack, projects, rules)) return;
  const isProjects = projects.includes(findProject(rack) ?? '');
  throw new AppError(
    'rights.publish',
    rack === STUDIO_RACK
      ? `Publishing to the studio rack is for ${among(rules.studioRack)}.`
      : isProjects
        ? `Publishing to a project’s rack is for ${among(rules.projectRacks)}.`
        : 'You are not a member of that project.',
    'Publish to a project rack, or ask an author.',
    { kept: 'Nothing was published.', status: 403 },
  );
}

export function assertMayWithdraw(user: SignedIn): void {
  if (!mayWithdraw(user.role))
    throw new AppError(
      'rights.withdraw',
      'Withdrawing a release is for librarians.',
      'Ask a librarian.',
      { kept: 'Nothing was changed.', status: 403 },
    );
}

/**
 * Members correct their projects' models; those that belong to everybody are a librarian's. Reading
 * was checked before.
 */
export const mayMend = (role: Role, projectId: string | null): boolean =>
  projectId !== null || role === 'librarian';

export function assertMayMend(user: SignedIn, projectId: string | null): void {
  if (!mayMend(user.role, projectId))
    throw new AppError(
      'rights.mend',
      'This model belongs to the whole studio; only librarians change it.',
      'Ask a librarian, or bring the model into your project.',
      { kept: 'Nothing was changed.', status: 403 },
    );
}
