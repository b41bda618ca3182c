import { readFile } from 'node:fs/promises';
import path from 'node:path';
import { hashPassword } from 'better-auth/crypto';
import type { NetworkDocument, RampValue } from '@/core/graph/document';
import { storeBlob } from '@/db/queries/blobs';
import { insertModel } from '@/db/queries/models';
import type { SignedIn } from '@/server/authentication';
import { createMaterial } from '@/server/materials';
import { documentOf, node } from '../support/networks';
import { makePerson, startStudio } from './studio';

/** A noise through a mask into a surface. */
export const painted = (): NetworkDocument => ({
  ...documentOf(
    [
      node('n1', 'patterns.noise', { scale: 9 }),
      node('n2', 'ranges.smoothstep'),
      node('n3', 'surface.surface'),
    ],
    ['n1:value > n2:value', 'n2:mask > n3:roughness', 'n3:surface > @out:surface'],
  ),
  name: 'Painted',
});

/** From black to white. */
export const GREY_RAMP: RampValue = {
  stops: [0, 1].map((position) => ({
    id: `s${String(position)}`,
    position,
    colour: [position, position, position],
    alpha: 1,
    segment: 'linear',
  })),
};

/**
 * A studio with two projects, an author, two artists and a librarian, and three of the demo's
 * models. The author's password is `correct horse`.
 */
export async function startFerryStudio() {
  const studio = await startStudio();
  const author = await makePerson(
    'author',
    'author',
    ['ferry'],
    await hashPassword('correct horse'),
  );
  const artist = await makePerson('artist', 'artist', ['ferry', 'heron']);
  const stranger = await makePerson('stranger', 'artist', ['heron']);
  const librarian = await makePerson('librarian', 'librarian', ['ferry', 'heron']);
  for (const name of ['study', 'buoy', 'tile']) {
    const bytes = await readFile(
      path.resolve(import.meta.dirname, `../../assets/models/${name}.glb`),
    );
    await insertModel({
      id: `demo-${name}`,
      name,
      projectId: null,
      blobHash: await storeBlob(bytes, 'model/gltf-binary'),
      ownerId: null,
    });
  }
  return { studio, author, artist, stranger, librarian };
}

/** A material of somebody's on the tile. */
export const make = (
  user: SignedIn,
  document: NetworkDocument = painted(),
  projectId = 'ferry',
): Promise<{ id: string }> => createMaterial(user, { projectId, modelId: 'demo-tile', document });
