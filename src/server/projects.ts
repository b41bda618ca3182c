import type { Project } from '@/contract/session';
import { listProjects as readProjects } from '@/db/queries/materials';
import type { SignedIn } from './authentication';

/** The projects a person is a member of. */
export const listProjects = (user: SignedIn): Promise<Project[]> => readProjects(user.id);
