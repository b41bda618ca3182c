import { eq } from 'drizzle-orm';
import { database } from '../client';
import { user } from '../schema/index';

/** The name and the role of a person; undefined where there is nobody of that id. */
export async function findPerson(id: string) {
  const [row] = await database()
    .select({ id: user.id, name: user.name, email: user.email, role: user.role })
    .from(user)
    .where(eq(user.id, id));
  return row;
}
