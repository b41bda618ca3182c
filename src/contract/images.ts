import { IMAGE_LIMITS } from '@/core/exchange/image-types';
import { identifier, list, optional, record, sha256, text } from './forms';
import { RESPONSE, answers, defineRoute } from './route';

/** The images of the studio, the newest first. */
export const listImages = defineRoute('GET', '/api/images', {
  who: { audience: 'signed-in' },
  answer: answers(
    record({ images: list(record({ hash: sha256, name: text(200), mediaType: text(100) }), 500) }),
  ),
});

/** Takes a PNG, JPEG, OpenEXR or Radiance HDR file. */
export const uploadImage = defineRoute('POST', '/api/images', {
  who: { audience: 'signed-in' },
  /** The material it is brought into, whose project's room it takes. */
  query: record({ name: optional(text(400)), material: optional(identifier) }),
  body: { kind: 'file', limit: IMAGE_LIMITS.bytes },
  answer: answers(record({ image: sha256, name: text(200) })),
  status: 201,
});

/**
 * An image as it was uploaded; everyone in the studio may read it, as groups that use it travel
 * through the library.
 */
export const readImage = defineRoute('GET', '/api/images/:hash', {
  who: { audience: 'signed-in' },
  params: record({ hash: sha256 }),
  answer: RESPONSE,
});

/** The picture of a material or of a release that one may see. */
export const readPicture = defineRoute('GET', '/api/blobs/:hash', {
  who: { audience: 'readers' },
  params: record({ hash: sha256 }),
  answer: RESPONSE,
});
