import { and, eq, exists, sql } from 'drizzle-orm';
import { database } from '../client';
import { projectMember } from '../schema/index';
import type { material, materialSet, model } from '../schema/index';

/** That a person belongs to the project a row names. */
export const isMember = (
  userId: string,
  projectId: typeof material.projectId | typeof model.projectId | typeof materialSet.projectId,
) =>
  exists(
    database()
      .select({ one: sql`1` })
      .from(projectMember)
      .where(and(eq(projectMember.projectId, projectId), eq(projectMember.userId, userId))),
  );
