import { PLAIN_CHOICES, nameFault, namingRule } from './naming-rule';

const marks = Array.from({ length: 0x7f - 0x20 }, (_, k) => String.fromCharCode(0x20 + k));

it.each([...marks, 'é', '漢', '–', '😀'])(
  'takes “%s” in front of every name as it stands',
  (mark) => {
    const rule = namingRule({ ...PLAIN_CHOICES, prefix: `Hv${mark}` });
    expect(nameFault(`Hv${mark}Edge wear`, rule)).toBeNull();
    expect(nameFault('Hv', rule)).not.toBeNull();
    expect(nameFault('Edge wear', rule)).not.toBeNull();
  },
);

it('lets no mark in front stand for others', () => {
  expect(nameFault('HvxEdge wear', namingRule({ ...PLAIN_CHOICES, prefix: 'Hv.' }))).not.toBeNull();
});

it('says what a name breaks', () => {
  const rule = namingRule({ ...PLAIN_CHOICES, longest: 9, digits: false });
  expect(nameFault('Edge wear', rule)).toBeNull();
  expect(nameFault('Edge wears', rule)).toBe('has more than 9 characters');
  expect(nameFault('edge wear', rule)).toContain('a capital first');
  expect(nameFault('Rust 2', rule)).toContain('no digits');
  expect(nameFault('Edge_wear', rule)).toContain('no underscores');
});
