import { AppError } from '@/core/base/diagnostic';
import type { Project } from '@/contract/session';
import { listProjects as readProjects } from '@/db/queries/materials';
import type { SignedIn } from './authentication';

/** The projects a person is a member of. */
export const listProjects = (user: SignedIn): Promise<Project[]> => readProjects(user.id);

/** @throws AppError where the person is no member of the project */
export async function assertMember(user: SignedIn, projectId: string, kept: string): Promise<void> {
  const projects = await readProjects(user.id);
  if (!projects.some((project) => project.id === projectId))
    throw new AppError(
      'project.not-member',
      'You are not a member of that project.',
      'Choose one of your projects.',
      { kept, status: 403 },
    );
}
