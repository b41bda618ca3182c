import { listImages } from '@/db/queries/images';
import { route } from '@/server/http';
import { uploadImage } from '@/server/images';

export const GET = route(async () => Response.json({ images: await listImages() }));
export const POST = route(async (user, request) => Response.json(await uploadImage(user, request), { status: 201 }));
