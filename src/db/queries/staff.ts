import { and, desc, eq, gt, isNull, lt, sql } from 'drizzle-orm';
import { database, transaction } from '../client';
import { account, deed, invitation, project, projectMember, rule } from '../schema/index';
import { session, user } from '../schema/index';

/** Everybody with their projects and open sessions, by name. */
export async function listStaff() {
  const projects = sql<readonly string[]>`coalesce((select json_agg(m.project_id
    order by m.project_id) from project_member m where m.user_id = ${user.id}), '[]'::json)`;
  const open = sql`from session s where s.user_id = ${user.id} and s.expires_at > now()`;
  return database()
    .select({
      id: user.id,
      name: user.name,
      email: user.email,
      role: user.role,
      closedAt: user.closedAt,
      projects,
      sessions: sql<number>`(select count(*)::int ${open})`,
      lastSeen: sql<string | null>`(select to_char(max(s.updated_at),
        'YYYY-MM-DD"T"HH24:MI:SS"Z"') ${open})`,
    })
    .from(user)
    .orderBy(user.name, user.id);
}
export const listAllProjects = () =>
  database()
    .select({ id: project.id, name: project.name })
    .from(project)
    .orderBy(project.name, project.id);

/** @returns whether there is such a project */
export async function renameProject({ id, name }: { id: string; name: string }): Promise<boolean> {
  const done = await database().update(project).set({ name }).where(eq(project.id, id));
  return done.rowCount === 1;
}

const isOpen = () => and(isNull(invitation.usedAt), gt(invitation.expiresAt, sql`now()`));
/** Links that were neither used nor are too old, the newest first. */
export const listInvitations = () =>
  database().select().from(invitation).where(isOpen()).orderBy(desc(invitation.createdAt));

export type NewInvitation = Omit<typeof invitation.$inferInsert, 'createdAt' | 'usedAt'>;
/** Keeps a link; earlier ones for the same address are of no use any more. */
export async function keepInvitation(given: NewInvitation): Promise<void> {
  await transaction(async (tx) => {
    await tx
      .delete(invitation)
      .where(and(eq(invitation.email, given.email), isNull(invitation.usedAt)));
    await tx.insert(invitation).values(given);
  });
}
/** @returns whether there was one that could still be used */
export async function dropInvitation(id: string): Promise<string | null> {
  const [gone] = await database()
    .delete(invitation)
    .where(and(eq(invitation.id, id), isNull(invitation.usedAt)))
    .returning({ email: invitation.email });
  return gone?.email ?? null;
}
/** The link of a secret, used and old ones, too; undefined for none. */
export async function findInvitation(secretHash: string) {
  const [found] = await database()
    .select()
    .from(invitation)
    .where(eq(invitation.secretHash, secretHash));
  return found;
}

/**
 * Takes a link up once: makes the person, or sets their password and ends their sessions.
 * @returns false where somebody else was first, or it is too old
 */
export async function takeInvitation(
  secretHash: string,
  given: { readonly id: string; readonly name: string; readonly passwordHash: string },
): Promise<boolean> {
  return transaction(async (tx) => {
    const [taken] = await tx
      .update(invitation)
      .set({ usedAt: new Date() })
      .where(and(eq(invitation.secretHash, secretHash), isOpen()))
      .returning();
    if (!taken) return false;
    const { userId, email, role, projects } = taken;
    if (userId !== null) {
      await tx
        .update(account)
        .set({ password: given.passwordHash, updatedAt: new Date() })
        .where(eq(account.userId, userId));
      await tx.delete(session).where(eq(session.userId, userId));
      return true;
    }
    const { id, name, passwordHash } = given;
    await tx.insert(user).values({ id, name, email, role, emailVerified: true });
    await tx.insert(account).values({
      id: `${id}-password`,
      accountId: id,
      providerId: 'credential',
      userId: id,
      password: passwordHash,
    });
    // A project that went meanwhile is left out.
    for (const projectId of projects)
      await tx.execute(sql`insert into project_member (project_id, user_id)
        select id, ${id} from project where id = ${projectId} on conflict do nothing`);
    return true;
  });
}

export interface PersonChange {
  readonly role?: string | undefined;
  readonly projects?: readonly string[] | undefined;
  readonly isActive?: boolean | undefined;
}
/**
 * Changes what somebody may do; a closed account is signed out everywhere.
 * @returns why not: nobody of that id, or the last librarian would be gone
 */
export async function changeStaff(
  id: string,
  { role, projects, isActive }: PersonChange,
): Promise<'done' | 'not found' | 'last librarian'> {
  return transaction(async (tx) => {
    // All librarians are held: of two that leave at once, one is the last.
    const librarians = await tx
      .select({ id: user.id })
      .from(user)
      .where(and(eq(user.role, 'librarian'), isNull(user.closedAt)))
      .orderBy(user.id)
      .for('update');
    const leaves = isActive === false || (role !== undefined && role !== 'librarian');
    if (leaves && librarians.length === 1 && librarians[0]?.id === id) return 'last librarian';
    const [changed] = await tx
      .update(user)
      .set({
        updatedAt: new Date(),
        ...(role === undefined ? {} : { role }),
        ...(isActive === undefined ? {} : { closedAt: isActive ? null : new Date() }),
      })
      .where(eq(user.id, id))
      .returning({ id: user.id });
    if (!changed) return 'not found';
    if (isActive === false) await tx.delete(session).where(eq(session.userId, id));
    if (projects) {
      await tx.delete(projectMember).where(eq(projectMember.userId, id));
      for (const projectId of new Set(projects))
        await tx.execute(sql`insert into project_member (project_id, user_id)
          select id, ${id} from project where id = ${projectId}`);
    }
    return 'done';
  });
}

/** Signs somebody out everywhere. @returns how many sessions that were */
export async function dropSessions(id: string): Promise<number> {
  const gone = await database().delete(session).where(eq(session.userId, id)).returning();
  return gone.length;
}
/** Whether the account of an address is closed; its id then. */
export async function findClosed(email: string): Promise<string | null> {
  const [found] = await database()
    .select({ id: user.id, closedAt: user.closedAt })
    .from(user)
    .where(eq(user.email, email));
  return found?.closedAt ? found.id : null;
}
export async function findByEmail(email: string) {
  const [found] = await database()
    .select({ id: user.id, name: user.name, role: user.role })
    .from(user)
    .where(eq(user.email, email));
  return found;
}

/** Writes down what was done. */
export async function noteDeed(actor: string, what: string, about: string): Promise<void> {
  await database()
    .insert(deed)
    .values({ actor, what, about: about.slice(0, 500) });
}
export const listDeeds = (before: number | null, count: number) =>
  database()
    .select()
    .from(deed)
    .where(before === null ? undefined : lt(deed.id, before))
    .orderBy(desc(deed.id))
    .limit(count);

/** A rule of the studio; undefined where none was set. */
export async function readRule(name: string): Promise<unknown> {
  const [found] = await database()
    .select({ value: rule.value })
    .from(rule)
    .where(eq(rule.name, name));
  return found?.value;
}
export async function keepRule(name: string, value: unknown): Promise<void> {
  const updatedAt = new Date();
  await database()
    .insert(rule)
    .values({ name, value, updatedAt })
    .onConflictDoUpdate({ target: rule.name, set: { value, updatedAt } });
}
