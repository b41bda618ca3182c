import { defineExport } from './define';

export const png = defineExport({
  title: 'PNG maps',
  help: 'A file for each map: base colour, tints, sheen and emission in sRGB, the others linear.',
  needs: 'maps',
  depth: (asked) => asked,
  write: ({ stem, plan, picture }) =>
    Promise.resolve(
      plan.images.flatMap((image) =>
        'map' in image
          ? [
              {
                name: `${stem}-${image.map}.png`,
                mediaType: 'image/png',
                bytes: picture(image),
              },
            ]
          : [],
      ),
    ),
});
