import { inflateSync } from 'node:zlib';
import { WebIO } from '@gltf-transform/core';
import { ALL_EXTENSIONS } from '@gltf-transform/extensions';
import type {
  Clearcoat,
  EmissiveStrength,
  IOR,
  Sheen,
  Specular,
  Transmission,
} from '@gltf-transform/extensions';
import { decode } from 'fast-png';
import fc from 'fast-check';
import validator from 'gltf-validator';
import { bakeRows, makeBakeSession, pictureRows, planBake, planStrips } from '@/core/evaluate/bake';
import { bakeFiles } from '@/core/handoff/packaging';
import { joinStrips, packRows } from '@/core/exchange/png-strips';
import { unitTile } from '../support/meshes';
import { documentOf, node } from '../support/networks';

const none = (): undefined => undefined;

describe('a PNG written in strips', () => {
  it('is read back as it was, whatever its size, depth, channels and strips', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 40 }),
        fc.integer({ min: 1, max: 40 }),
        fc.constantFrom<1 | 3 | 4>(1, 3, 4),
        fc.constantFrom<8 | 16>(8, 16),
        fc.array(fc.integer({ min: 1, max: 39 }), { maxLength: 4 }),
        fc.integer(),
        (width, height, channels, depth, cuts, seed) => {
          const layout = {
            width,
            height,
            channels,
            depth,
            meaning: channels === 3 ? 'sRGB' : 'linear',
          } as const;
          const top = depth === 8 ? 255 : 65535;
          const whole = Array.from(
            { length: width * height * channels },
            (_, k) => Math.imul(k + seed, 0x9e3779b1) >>> 0,
          ).map((word) => word % (top + 1));
          const values = Float32Array.from(whole, (value) => value / top);
          const edges = [...new Set([0, ...cuts.filter((cut) => cut < height), height])].sort(
            (a, b) => a - b,
          );
          const strips = edges
            .slice(1)
            .map((until, k) =>
              packRows(
                layout,
                values.subarray((edges[k] ?? 0) * width * channels, until * width * channels),
                { isFirst: k === 0, isLast: until === height },
              ),
            );
          const file = joinStrips(layout, strips);
          const read = decode(file, { checkCrc: true });
          expect([read.width, read.height, read.channels, read.depth]).toEqual([
            width,
            height,
            channels,
            depth,
          ]);
          expect(Array.from(read.data)).toEqual(whole);
        },
      ),
      { numRuns: 60 },
    );
  });
  it('carries the checksum of the whole', () => {
    const layout = { width: 300, height: 200, channels: 3, depth: 8, meaning: 'linear' } as const;
    const values = Float32Array.from({ length: 300 * 200 * 3 }, (_, k) => (k % 251) / 250);
    const strips = [
      packRows(layout, values.subarray(0, 90000), { isFirst: true, isLast: false }),
      packRows(layout, values.subarray(90000), { isFirst: false, isLast: true }),
    ];
    const file = joinStrips(layout, strips);
    const data: Uint8Array[] = [];
    const view = new DataView(file.buffer);
    for (let at = 8; at < file.length; at += view.getUint32(at) + 12)
      if (String.fromCharCode(...file.subarray(at + 4, at + 8)) === 'IDAT')
        data.push(file.subarray(at + 8, at + 8 + view.getUint32(at)));
    expect(inflateSync(Buffer.concat(data))).toHaveLength(200 * 901);
  });
});

describe('a bake', () => {
  const glazed = documentOf(
    [
      node('n', 'patterns.noise', { scale: 9 }),
      node('s', 'surface.surface', {
        coat: 0.75,
        coatRoughness: 0.25,
        sheen: 0.5,
        sheenColour: [1, 1, 1],
        sheenRoughness: 0.6,
        transmission: 1,
        transmissionColour: [1, 0.25, 0],
        baseColour: [0, 0, 1],
        refractiveIndex: 1.7,
        dispersion: 0.5,
        specular: 0.5,
        emission: [1, 0.5, 0],
        emissionStrength: 4,
      }),
    ],
    ['n:value > s:roughness', 'n:value > s:height', 's:surface > @out:surface'],
  );
  const mesh = unitTile();

  it('is the same in strips as in one piece, gutters included', () => {
    const session = makeBakeSession(),
      size = 128;
    const plan = planBake(session, glazed, mesh, none, { size: size, maps: 16, textures: 8 });
    const whole = bakeRows(session, glazed, mesh, plan, none, [0, size]);
    const strips = [
      [0, 20],
      [20, 50],
      [50, 126],
      [126, 128],
    ].map((rows) => bakeRows(session, glazed, mesh, plan, none, rows as [number, number]));
    for (const image of plan.images) {
      const parts = Buffer.concat(
        strips.map((strip) =>
          Uint8Array.from(new Uint8Array(pictureRows(strip, image).slice().buffer)),
        ),
      );
      expect(parts.equals(new Uint8Array(pictureRows(whole, image).slice().buffer))).toBe(true);
    }
    expect(
      planStrips(1024)
        .flat()
        .filter((row, k, rows) => k > 0 && k < rows.length - 1 && !rows.includes(row)),
    ).toEqual([]);
    expect(planStrips(4096).at(-1)?.[1]).toBe(4096);
  });

  it('writes a map for what is used and nothing for what is not', () => {
    const session = makeBakeSession();
    const names = (document: typeof glazed): readonly string[] =>
      planBake(session, document, mesh, none, { size: 64, maps: 8, textures: 8 }).images.flatMap(
        (image) => ('map' in image ? [image.map] : []),
      );
    expect(names(documentOf([node('s', 'surface.surface')], ['s:surface > @out:surface']))).toEqual(
      ['base-colour', 'metalness', 'roughness', 'emission', 'opacity', 'normal'],
    );
    expect(names(glazed)).toEqual([
      'base-colour',
      'metalness',
      'roughness',
      'emission',
      'opacity',
      'normal',
      'specular',
      'transmission',
      'transmission-colour',
      'coat',
      'coat-roughness',
      'sheen-colour',
      'sheen-roughness',
      'height',
    ]);
  });

  it('gives the model everything, by the extensions of glTF', async () => {
    const { files, notes } = await bakeFiles({ ...glazed, name: 'Sea glass' }, mesh, none, {
      size: 64,
      depth: 8,
      formats: ['png', 'glb'],
    });
    expect(notes).toEqual([
      'Emission reaches 4.00: the map is limited to 1, the model holds all of it.',
    ]);
    const bytes = files.find(({ name }) => name === 'sea-glass.glb')
      ?.bytes as Uint8Array<ArrayBuffer>;
    const { issues } = await validator.validateBytes(bytes);
    expect(issues.messages.filter(({ severity }) => severity === 0)).toEqual([]);
    const glb = await new WebIO().registerExtensions(ALL_EXTENSIONS).readBinary(bytes);
    const [material] = glb.getRoot().listMaterials();
    const middle = (
      texture: { getImage: () => Uint8Array | null } | null | undefined,
    ): number[] => {
      const { data, channels, width } = decode(texture?.getImage() as Uint8Array);
      return Array.from(data.slice((32 * width + 32) * channels, (32 * width + 33) * channels));
    };
    const [ior, strength, coat, sheen, specular, transmission] = [
      'ior',
      'emissive_strength',
      'clearcoat',
      'sheen',
      'specular',
      'transmission',
    ].map((name) => material?.getExtension(`KHR_materials_${name}`)) as [
      IOR,
      EmissiveStrength,
      Clearcoat,
      Sheen,
      Specular,
      Transmission,
    ];
    expect(ior.getIOR()).toBeCloseTo(1.7, 5);
    expect(strength.getEmissiveStrength()).toBe(4);
    expect(middle(coat.getClearcoatTexture())).toEqual([191, 64, 255]);
    expect(middle(sheen.getSheenColorTexture())).toEqual([188, 188, 188, 153]);
    expect(middle(specular.getSpecularTexture())).toEqual([255, 255, 255, 128]);
    expect(middle(transmission.getTransmissionTexture())).toEqual([255]);
    expect(middle(material?.getBaseColorTexture())).toEqual([255, 137, 0, 255]);
    expect(middle(material?.getEmissiveTexture())).toEqual([255, 188, 0]);
    expect(
      glb
        .getRoot()
        .listExtensionsUsed()
        .map(({ extensionName }) => extensionName),
    ).toContain('KHR_materials_dispersion');
  });

  it(
    'says in each PNG what its numbers mean, and brings the frame that a normal map is ' +
      'read in',
    async () => {
      const bumpy = {
        ...documentOf(
          [
            node('n', 'patterns.noise', { scale: 9 }),
            node('b', 'surface.bump'),
            node('s', 'surface.surface'),
          ],
          ['n:value > b:height', 'b:normal > s:normal', 's:surface > @out:surface'],
        ),
        name: 'Bumpy',
      };
      const { files } = await bakeFiles(bumpy, mesh, none, {
        size: 64,
        depth: 8,
        formats: ['png', 'glb'],
      });
      const chunks = (name: string): Record<string, number> => {
        const bytes = files.find((file) => file.name === name)?.bytes ?? new Uint8Array();
        const view = new DataView(bytes.buffer),
          found: Record<string, number> = {};
        for (let at = 8; at < bytes.length; at += view.getUint32(at) + 12)
          found[String.fromCharCode(...bytes.subarray(at + 4, at + 8))] =
            view.getUint8(at + 8) * 2 ** 24 +
            (view.getUint32(at) >= 4 ? view.getUint32(at + 8) & 0xffffff : 0);
        return found;
      };
      expect(chunks('bumpy-base-colour.png')).toMatchObject({ sRGB: 0, gAMA: 45455, cHRM: 31270 });
      expect(chunks('bumpy-normal.png')).toMatchObject({ gAMA: 100000, cHRM: 31270 });
      expect(chunks('bumpy-roughness.png')).not.toHaveProperty('sRGB');
      const bytes = files.find(({ name }) => name === 'bumpy.glb')
        ?.bytes as Uint8Array<ArrayBuffer>;
      const { issues } = await validator.validateBytes(bytes);
      expect(issues.messages.filter(({ severity }) => severity <= 1)).toEqual([]);
      const glb = await new WebIO().registerExtensions(ALL_EXTENSIONS).readBinary(bytes);
      const tangents = glb
        .getRoot()
        .listMeshes()[0]
        ?.listPrimitives()[0]
        ?.getAttribute('TANGENT')
        ?.getArray();
      // On the tile u runs along x and v, down the picture, along z: the bitangent runs up it.
      expect([...(tangents ?? [])].slice(0, 4)).toEqual([1, 0, 0, 1]);
    },
  );

  it('says what an open format holds only in part', () => {
    const session = makeBakeSession();
    const document = documentOf(
      [
        node('n', 'patterns.noise'),
        node('m', 'math.math', { b: 1.2 }, { operation: 'add' }),
        node('s', 'surface.surface'),
      ],
      [
        'n:value > m:a',
        'm:value > s:refractiveIndex',
        'm:value > s:height',
        's:surface > @out:surface',
      ],
    );
    const { notes } = planBake(session, document, mesh, none, { size: 64, maps: 8, textures: 8 });
    expect(notes[0]).toMatch(
      /^The refractive index varies over the surface; the model holds its mean, 1\.\d\d\.$/,
    );
    expect(notes[1]).toBe(
      'Height leaves 0 to 1 on 100 % of the surface; the map is limited there.',
    );
  });
});
