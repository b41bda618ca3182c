import { findBlob } from '@/db/queries/blobs';
import { listEntries } from '@/db/queries/library';
import { listMaterials, listProjects } from '@/db/queries/materials';
import type { SignedIn } from './authentication';
import { STUDIO_RACK, projectRack } from './rights';

/** A picture the user may see: of a material of their projects, or of a release on a rack they see. */
export async function findPicture(user: SignedIn, hash: string): Promise<{ mediaType: string; bytes: Buffer } | undefined> {
  const [materials, projects] = await Promise.all([listMaterials(user.id), listProjects(user.id)]);
  const shown = materials.some((material) => material.swatchHash === hash)
    || (await listEntries([STUDIO_RACK, ...projects.map((project) => projectRack(project.id))])).some((entry) => entry.swatchHash === hash);
  const file = shown ? await findBlob(hash) : undefined;
  return file?.mediaType.startsWith('image/') ? file : undefined;
}
