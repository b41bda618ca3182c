/** A group of the demo studio: which nodes of which starter, and what its dials are. */
export interface DemoGroup {
  readonly name: string;
  readonly description: string;
  readonly tags: readonly string[];
  /** The starter it is packaged from. */
  readonly from: string;
  readonly nodes: readonly string[];
  /** Nodes among them that are a group of their own first: then the group is nested. */
  readonly inner?: { readonly name: string; readonly nodes: readonly string[] };
  readonly dials: readonly DemoDial[];
}
interface DemoDial {
  readonly node: string;
  readonly input: string;
  readonly law: 'times' | 'lift' | 'as is';
  readonly name: string;
  readonly help: string;
  readonly section?: string;
}

const dial = (
  place: `${string}.${string}`,
  law: DemoDial['law'],
  name: string,
  help: string,
): DemoDial => {
  const [node = '', input = ''] = place.split('.');
  return { node, input, law, name, help };
};

/** The groups on the racks of the demo studio. */
export const DEMO_GROUPS: readonly DemoGroup[] = [
  {
    name: 'Damp places',
    description: 'Hollows and patches where damp settles, as one soft mask.',
    tags: ['mask', 'dirt', 'damp'],
    from: 'bell-bronze',
    nodes: ['hollows', 'patches', 'both', 'green'],
    dials: [
      dial('patches.scale', 'times', 'Patch size', 'Lower: large patches. Higher: fine speckle.'),
      dial('green.edge', 'lift', 'Spread', 'Lower: damp everywhere. Higher: the deepest hollows.'),
      dial('green.width', 'times', 'Softness', 'Lower: hard borders. Higher: soft ones.'),
    ],
  },
  {
    name: 'Crackle',
    description: 'A net of fine cracks, 0 in the crack and 1 between.',
    tags: ['mask', 'crackle', 'glaze'],
    from: 'stoneware',
    nodes: ['cells', 'cracks'],
    dials: [
      dial('cells.scale', 'times', 'Fineness', 'Lower: few large fields. Higher: many small ones.'),
      dial('cracks.edge', 'times', 'Crack width', 'Lower: hairlines. Higher: gaping.'),
    ],
  },
  {
    name: 'Worn edges',
    description: 'Where edges lost their paint: convex places, broken into flakes.',
    tags: ['mask', 'edges', 'wear'],
    from: 'painted-tin',
    nodes: ['edges', 'flakes', 'broken', 'chips'],
    inner: { name: 'Broken edges', nodes: ['edges', 'flakes', 'broken'] },
    dials: [
      dial('chips.edge', 'lift', 'Wear', 'Lower: chips everywhere. Higher: only sharp edges.'),
      dial('chips.width', 'times', 'Softness', 'Lower: crisp flakes. Higher: rubbed edges.'),
    ],
  },
  {
    name: 'Salt in crevices',
    description: 'A crust that collects in hollows and corners.',
    tags: ['mask', 'salt', 'crevices'],
    from: 'painted-tin',
    nodes: ['crevices', 'salt'],
    dials: [dial('salt.inBlack', 'lift', 'Amount', 'Lower: more salt. Higher: only deep corners.')],
  },
  {
    name: 'Waterline',
    description: 'Below and above a level, with a soft border.',
    tags: ['mask', 'height', 'water'],
    from: 'painted-tin',
    nodes: ['height', 'line'],
    dials: [
      dial('line.edge', 'lift', 'Level', 'Lower: a deep line. Higher: a high one.'),
      dial('line.width', 'times', 'Softness', 'Lower: a hard line. Higher: a broad passage.'),
    ],
  },
  {
    name: 'Moss on tops',
    description: 'Growth in patches where the surface looks up.',
    tags: ['mask', 'moss', 'slope'],
    from: 'quay-stone',
    nodes: ['tops', 'mossy', 'growth', 'moss'],
    inner: { name: 'Where it grows', nodes: ['tops', 'mossy', 'growth'] },
    dials: [
      dial('moss.edge', 'lift', 'Coverage', 'Lower: a carpet. Higher: a few tufts.'),
      dial('moss.width', 'times', 'Softness', 'Lower: cut borders. Higher: thinning out.'),
    ],
  },
  {
    name: 'Rope lay',
    description: 'Twisted strands with their fibres, as a height.',
    tags: ['pattern', 'rope', 'height'],
    from: 'tarred-rope',
    nodes: ['wander', 'strands', 'fibres', 'twist'],
    dials: [
      dial('strands.scale', 'times', 'Thickness', 'Lower: a hawser. Higher: a thin line.'),
      dial('wander.amount', 'times', 'Looseness', 'Lower: tightly laid. Higher: worn and loose.'),
      dial('twist.amount', 'times', 'Fibres', 'Lower: smooth strands. Higher: frayed ones.'),
    ],
  },
  {
    name: 'Bright rim',
    description: 'A ramp of colour from what faces the camera to its rim.',
    tags: ['colour', 'rim', 'glass'],
    from: 'sea-glass',
    nodes: ['rim', 'depth'],
    dials: [dial('rim.exponent', 'times', 'Rim width', 'Lower: a broad glow. Higher: a thin rim.')],
  },
  {
    name: 'Two-tone light',
    description: 'Lit or in shade, with a border drawn by hand.',
    tags: ['mask', 'light', 'storybook'],
    from: 'storybook',
    nodes: ['light', 'wobble', 'edge', 'lit'],
    inner: { name: 'Hand-drawn light', nodes: ['light', 'wobble', 'edge'] },
    dials: [
      dial('lit.level', 'lift', 'Shade', 'Lower: mostly lit. Higher: mostly in shade.'),
      dial('lit.width', 'times', 'Softness', 'Lower: a cut border. Higher: a soft one.'),
    ],
  },
  {
    name: 'Tide from beacons',
    description: 'Distance to the water that beacons place, lapping along its line.',
    tags: ['mask', 'beacon', 'water'],
    from: 'tide-line',
    nodes: ['calm', 'corner', 'near', 'edge', 'rough', 'wet'],
    inner: { name: 'Nearest water', nodes: ['calm', 'corner', 'near'] },
    dials: [
      dial('edge.scale', 'times', 'Lapping', 'Lower: broad swells. Higher: small waves.'),
      dial('wet.edge', 'lift', 'Height', 'Lower: low water. Higher: high water.'),
    ],
  },
  {
    name: 'Part palette',
    description: 'A colour of one harmony for each part of a model.',
    tags: ['colour', 'palette', 'parts'],
    from: 'float-set',
    nodes: ['part', 'palette'],
    dials: [
      dial('palette.base', 'as is', 'First colour', 'The others follow from it.'),
      dial('palette.spread', 'times', 'Spread', 'Lower: all alike. Higher: far apart.'),
    ],
  },
  {
    name: 'Lamp soot',
    description: 'Soot that collects in hollows, puff by puff.',
    tags: ['mask', 'soot', 'dirt'],
    from: 'lantern-brass',
    nodes: ['hollows', 'puffs', 'collects', 'soot'],
    dials: [
      dial('puffs.scale', 'times', 'Puff size', 'Lower: large clouds. Higher: fine specks.'),
      dial('soot.edge', 'lift', 'Amount', 'Lower: black all over. Higher: a trace.'),
    ],
  },
  {
    name: 'Planked boards',
    description: 'Boards with grain, each shaded on its own.',
    tags: ['pattern', 'wood', 'planks'],
    from: 'deck-planks',
    nodes: ['planks', 'along', 'grain', 'shade'],
    dials: [
      dial('planks.scale', 'times', 'Board width', 'Lower: wide boards. Higher: narrow ones.'),
      dial('shade.amount', 'times', 'Difference', 'Lower: all alike. Higher: each its own.'),
    ],
  },
];
