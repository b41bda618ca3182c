import { findPicture as readPicture } from '@/db/queries/pictures';
import type { SignedIn } from './authentication';

/**
 * A picture the user may see: of a material of their projects, or of a release on a rack they see.
 */
export const findPicture = (user: SignedIn, hash: string): ReturnType<typeof readPicture> =>
  readPicture(user.id, hash);
