import { sql } from 'drizzle-orm';
import { database, transaction } from '../client';
import { account, project, projectMember, user } from '../schema/index';

export async function isSeeded(): Promise<boolean> {
  const [row] = await database()
    .select({ count: sql<number>`count(*)::int` })
    .from(user);
  return (row?.count ?? 0) > 0;
}

export async function insertProject(given: { id: string; name: string }): Promise<void> {
  await database().insert(project).values(given).onConflictDoNothing();
}

/** A person with a password (already hashed) and memberships. */
export async function insertPerson(given: {
  id: string;
  name: string;
  email: string;
  role: string;
  passwordHash: string;
  projects: readonly string[];
}): Promise<void> {
  await transaction(async (tx) => {
    await tx.insert(user).values({
      id: given.id,
      name: given.name,
      email: given.email,
      role: given.role,
      emailVerified: true,
    });
    await tx.insert(account).values({
      id: `${given.id}-password`,
      accountId: given.id,
      providerId: 'credential',
      userId: given.id,
      password: given.passwordHash,
    });
    for (const projectId of given.projects)
      await tx.insert(projectMember).values({ projectId, userId: given.id });
  });
}
