import fc from 'fast-check';
import { OUTPUT_EDGE, SURFACE_OUTPUT } from '@/core/graph/document';
import type { InputValue, NetworkDocument, Strand } from '@/core/graph/document';
import { findDefinition } from '@/core/compile/catalogue';
import { SURFACE_ENTRIES, SURFACE_LANES, laneNames } from '@/core/nodes/surface-parameters';
import { documentOf, node } from '../support/networks';
import { outputAt, valueAt } from '../support/evaluate';
import type { Lanes } from '../support/evaluate';

type Values = Record<string, InputValue>;
const UP: Lanes = { 'normal.x': [0], 'normal.y': [1], 'normal.z': [0] };

/** All parameters of a finished surface at one point, by lane name. */
function finished(
  document: NetworkDocument,
  key: string,
  lanes: Lanes = UP,
): Record<string, number> {
  const values = outputAt(document, key, lanes, 1);
  return Object.fromEntries(SURFACE_LANES.map((name, k) => [name, values[k]?.[0] ?? NaN]));
}
const surfaceOf = (values: Values): Record<string, number> =>
  finished(documentOf([node('s', 'surface.surface', values)]), 's:surface');
function layered(
  under: Values,
  over: Values,
  layer: Values,
  options: Record<string, string> = {},
): Record<string, number> {
  const document = documentOf(
    [
      node('u', 'surface.surface', under),
      node('o', 'surface.surface', over),
      node('l', 'surface.layer', layer, options),
    ],
    ['u:surface > l:under', 'o:surface > l:over'],
  );
  return finished(document, 'l:surface');
}
const close = (actual: number | undefined, expected: number, tolerance = 1e-6): void => {
  expect(Math.abs((actual ?? NaN) - expected)).toBeLessThanOrEqual(tolerance);
};

describe('a surface', () => {
  it('gives every parameter, limited where it is a share', () => {
    const made = surfaceOf({
      metalness: 0.3,
      coat: 0.7,
      coatRoughness: 0.2,
      sheen: 0.5,
      sheenColour: [1, 0.5, 0],
      transmission: 0.9,
      dispersion: 0.34,
      height: -3,
      emission: [1, 2, 3],
      emissionStrength: 2,
      refractiveIndex: 1.6,
    });
    expect(made['sheen.r']).toBeCloseTo(0.5, 6);
    expect(made['sheen.g']).toBeCloseTo(0.25, 6);
    expect([made['emission.r'], made['emission.g'], made['emission.b']]).toEqual([2, 4, 6]);
    expect(made['height']).toBe(-3);
    for (const [name, value] of [
      ['metalness', 0.3],
      ['coat', 0.7],
      ['coatRoughness', 0.2],
      ['transmission', 0.9],
      ['dispersion', 0.34],
      ['refractiveIndex', 1.6],
    ] as const)
      close(made[name], value);
  });
  it('keeps wired shares in 0–1, an index at 1 or above, colours at 0 or above', () => {
    const far = documentOf(
      [node('p', 'model.position'), node('s', 'surface.surface')],
      [
        'coat',
        'transmission',
        'roughness',
        'metalness',
        'opacity',
        'sheen',
        'specular',
        'refractiveIndex',
        'specularColour',
        'baseColour',
      ].map((input) => `p:x > s:${input}`),
    );
    const low = finished(far, 's:surface', { ...UP, 'position.x': [-5] });
    expect([
      low['coat'],
      low['transmission'],
      low['roughness'],
      low['opacity'],
      low['specular'],
      low['refractiveIndex'],
      low['baseColour.r'],
      low['specularColour.g'],
    ]).toEqual([0, 0, 0, 0, 0, 1, 0, 0]);
    const high = finished(far, 's:surface', { ...UP, 'position.x': [5] });
    expect([
      high['coat'],
      high['transmission'],
      high['roughness'],
      high['metalness'],
      high['opacity'],
      high['refractiveIndex'],
      high['baseColour.r'],
    ]).toEqual([1, 1, 1, 1, 1, 5, 5]);
  });
  it('without light is unlit, and nothing else', () => {
    const made = finished(
      documentOf([node('f', 'surface.flat', { colour: [0.2, 3, 0.1], opacity: 0.5 })]),
      'f:surface',
    );
    expect([
      made['unlit'],
      made['opacity'],
      made['baseColour.g'],
      made['metalness'],
      made['coat'],
    ]).toEqual([1, 0.5, 3, 0, 0]);
  });
});

describe('layers', () => {
  it('mix every parameter as the page of the node says', () => {
    const under = { sheenRoughness: 0.3, coat: 0.2, coatRoughness: 0.1, transmission: 0.4 };
    const over = {
      ...{ sheen: 1, sheenRoughness: 0.9, coat: 0.8, coatRoughness: 0.6, transmission: 0.1 },
      ...{ transmissionColour: [0.2, 0.4, 0.6], dispersion: 0.5, metalness: 1, roughness: 0.1 },
    } satisfies Values;
    const [u, o] = [surfaceOf(under), surfaceOf(over)];
    const t = 0.3;
    const made = layered(under, over, { where: t });
    for (const [name, { shareOf }] of SURFACE_ENTRIES) {
      if (name === 'normal') continue;
      const amount = (of: Record<string, number>): number =>
        (shareOf && of[laneNames(shareOf)[0] ?? '']) ?? 1;
      const upper = amount(o) * t;
      const share = shareOf ? upper / (amount(u) * (1 - t) + upper) : t;
      for (const lane of laneNames(name))
        close(made[lane], (u[lane] ?? NaN) * (1 - share) + (o[lane] ?? NaN) * share, 1e-5);
    }
    // As it is stated: what has no sheen lends its roughness all the same.
    close(made['sheenRoughness'], 0.3 + 0.6 * t, 1e-6);
    expect(findDefinition('surface.layer')?.help).toContain('coat roughness by coat');
  });
  const share = fc.float({ min: 0, max: 1, noNaN: true });
  it('mix every plain parameter by coverage, and end at either surface', () => {
    fc.assert(
      fc.property(share, share, share, (where, a, b) => {
        const made = layered(
          { roughness: a, baseColour: [a, 0, 1] },
          { roughness: b, baseColour: [b, 1, 0] },
          { where },
        );
        close(made['roughness'], a + (b - a) * where);
        close(made['baseColour.g'], where);
      }),
      { numRuns: 25, seed: 3 },
    );
    expect(layered({ coat: 0.2 }, { coat: 0.8 }, { where: 0 })).toEqual(surfaceOf({ coat: 0.2 }));
    expect(layered({ coat: 0.2 }, { coat: 0.8, height: 2, sheen: 1 }, { where: 1 })).toEqual(
      surfaceOf({ coat: 0.8, height: 2, sheen: 1 }),
    );
  });
  it('take part by part', () => {
    const made = layered(
      { roughness: 0.1, baseColour: [1, 0, 0], coat: 0 },
      { roughness: 0.9, baseColour: [0, 1, 0], coat: 1 },
      { where: 1, colour: 0, coat: 0.25 },
    );
    close(made['roughness'], 0.9);
    close(made['baseColour.r'], 1);
    close(made['coat'], 0.25);
  });
  it('lend no roughness from a side without coat', () => {
    close(
      layered({ coat: 0, coatRoughness: 1 }, { coat: 1, coatRoughness: 0.1 }, { where: 0.5 })[
        'coatRoughness'
      ],
      0.1,
    );
    // Where both are coated, by how much coat each brings.
    close(
      layered({ coat: 0.5, coatRoughness: 0.2 }, { coat: 1, coatRoughness: 0.8 }, { where: 0.5 })[
        'coatRoughness'
      ],
      (0.25 * 0.2 + 0.5 * 0.8) / 0.75,
    );
    close(
      layered({ coat: 0, coatRoughness: 0.2 }, { coat: 0, coatRoughness: 0.8 }, { where: 0.5 })[
        'coatRoughness'
      ],
      0.5,
    );
  });
  it('show coverage and what remains, which make one', () => {
    fc.assert(
      fc.property(
        fc.float({ min: -1, max: 2, noNaN: true }),
        fc.float({ min: 0, max: 2, noNaN: true }),
        (where, amount) => {
          const read = (output: string): number =>
            valueAt('surface.layer', output, { where, amount })[0] as number;
          close(read('coverage'), Math.min(1, Math.max(0, where * amount)));
          close(read('coverage') + read('remains'), 1);
        },
      ),
      { numRuns: 25, seed: 4 },
    );
  });
  it('keep the relief below where the upper follows', () => {
    const lean: Values = { normal: [0.6, 0.8, 0] };
    const own = layered(lean, {}, { where: 1 });
    const follows = layered(lean, {}, { where: 1 }, { relief: 'follows' });
    expect([own['normal.x'], own['normal.y']]).toEqual([0, 1]);
    close(follows['normal.x'], 0.6);
    close(follows['normal.y'], 0.8);
  });
  it('stack in order: the last one wins where it lies', () => {
    const chain: Strand[] = [];
    const nodes = [node('s0', 'surface.surface', { roughness: 0 })];
    for (let k = 1; k <= 5; k++) {
      nodes.push(
        node(`s${String(k)}`, 'surface.surface', { roughness: k / 10 }),
        node(`l${String(k)}`, 'surface.layer', { where: 0.5 }),
      );
      chain.push(
        {
          id: `u${String(k)}`,
          from: { node: k === 1 ? 's0' : `l${String(k - 1)}`, output: 'surface' },
          to: { node: `l${String(k)}`, input: 'under' },
          order: 0,
        },
        {
          id: `o${String(k)}`,
          from: { node: `s${String(k)}`, output: 'surface' },
          to: { node: `l${String(k)}`, input: 'over' },
          order: 0,
        },
      );
    }
    const made = finished(
      documentOf(nodes, [
        ...chain,
        {
          id: 'end',
          from: { node: 'l5', output: 'surface' },
          to: { node: OUTPUT_EDGE, input: SURFACE_OUTPUT },
          order: 0,
        },
      ]),
      'l5:surface',
    );
    close(
      made['roughness'],
      [0.1, 0.2, 0.3, 0.4, 0.5].reduce((sum, value) => (sum + value) / 2, 0),
    );
  });
});

describe('directions', () => {
  const SLOPES: Lanes = { ...UP, 'uv.x.dx': [2], 'uv.y.dz': [3] };
  const normalOf = (
    type: string,
    values: Values,
    options: Record<string, string> = {},
    lanes: Lanes = SLOPES,
    output = 'normal',
  ): number[] => valueAt(type, output, values, options, lanes);
  it('tangents point where u and v grow', () => {
    expect(normalOf('model.tangent', {}, {}, SLOPES, 'along').map((x) => x + 0)).toEqual([1, 0, 0]);
    expect(normalOf('model.tangent', {}, {}, SLOPES, 'across').map((x) => x + 0)).toEqual([
      0, 0, 1,
    ]);
    // Mirrored texture coordinates: u grows the other way, v as before.
    expect(
      normalOf('model.tangent', {}, {}, { ...UP, 'uv.x.dx': [-2], 'uv.y.dz': [3] }, 'along').map(
        (x) => x + 0,
      ),
    ).toEqual([-1, 0, 0]);
    const somewhere = normalOf('model.tangent', {}, {}, UP, 'along');
    close(Math.hypot(...somewhere), 1);
    close(somewhere[1], 0);
  });
  it('a flat map changes nothing; red leans along u, green up the picture', () => {
    normalOf('surface.normal-map', { map: [0.5, 0.5, 1] }).forEach((x, k) => {
      close(x, [0, 1, 0][k] as number);
    });
    const [x, y, z] = normalOf('surface.normal-map', { map: [0.8, 0.5, 0.9] }) as [
      number,
      number,
      number,
    ];
    const length = Math.hypot(0.6, 0.8);
    close(x, 0.6 / length);
    close(y, 0.8 / length);
    close(z, 0);
    close(normalOf('surface.normal-map', { map: [0.5, 0.8, 0.9] })[2], -0.6);
    close(normalOf('surface.normal-map', { map: [0.5, 0.8, 0.9] }, { green: 'down' })[2], 0.6);
    close(normalOf('surface.normal-map', { map: [0.8, 0.5, 0.9], strength: 0 })[0], 0);
    close(normalOf('surface.normal-map', { map: [1, 0.5, 0.5] }, { space: 'object' })[0], 1);
  });
  it('blended slopes add up; a flat detail changes nothing', () => {
    const lean = [0.6, 0.8, 0] as const;
    normalOf('surface.blend-normals', { base: lean }).forEach((x, k) => {
      close(x, lean[k] as number);
    });
    // Slopes of 3/4 each along x and along z.
    const [x, y, z] = normalOf('surface.blend-normals', { base: lean, detail: [0, 0.8, 0.6] }) as [
      number,
      number,
      number,
    ];
    close(x / y, 0.75, 1e-5);
    close(z / y, 0.75, 1e-5);
    close(normalOf('surface.blend-normals', { base: lean, detail: [-0.6, 0.8, 0] })[0], 0, 1e-6);
    close(
      normalOf(
        'surface.blend-normals',
        { base: lean, detail: [0, 1, 0], amount: 0.5 },
        { method: 'mix' },
      )[0],
      0.3 / Math.hypot(0.3, 0.9),
    );
  });
});
