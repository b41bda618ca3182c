import { AppError } from '@/core/base/diagnostic';
import { route } from '@/server/http';
import { openMaterial } from '@/server/materials';

export const GET = route<{ id: string; number: string }>(async (user, _request, { id, number }) => {
  if (!/^\d{1,9}$/.test(number)) throw new AppError('revision.not-found', 'That is not a revision.', '', { status: 404 });
  return Response.json(await openMaterial(user, id, Number(number)));
});
