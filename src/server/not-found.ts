import { AppError } from '@/core/base/diagnostic';

/** What is answered about a material that one may not see, or that there is not. */
export const materialNotFound = (): AppError =>
  new AppError(
    'material.not-found',
    'There is no such material, or it belongs to a project you are not in.',
    'Go back to the list of materials.',
    { status: 404 },
  );
