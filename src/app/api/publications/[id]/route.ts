import { AppError } from '@/core/base/diagnostic';
import { findPublication } from '@/db/queries/library';
import { route } from '@/server/http';

export const GET = route<{ id: string }>(async (user, _request, { id }) => {
  const found = await findPublication(id);
  if (found?.userId !== user.id) throw new AppError('publication.not-found', 'There is no such request.', '', { status: 404 });
  return Response.json({ state: found.state, message: found.message, proof: found.proof, entryId: found.entryId });
});
