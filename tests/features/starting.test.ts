/** Starters, the guide's steps, walking along strands, models compared. */
import { existsSync } from 'node:fs';
import path from 'node:path';
import { checkCompiled } from '@/core/compile/compile';
import { addNode } from '@/core/edit/nodes';
import { connect } from '@/core/edit/strands';
import { walkStrand } from '@/core/edit/walk';
import { compareModels } from '@/core/evaluate/compare-models';
import { LoadedModel } from '@/core/evaluate/loaded-model';
import { emptyDocument } from '@/core/graph/document';
import { DEMO_MODELS } from '@/core/mesh/demo-models';
import { STARTERS } from '@/core/starters/starters';
import { FIRST_WEAVE, nextStep } from '@/features/guide/first-weave';
import { documentOf, node } from '../support/networks';
import { meshOfSketch } from '../support/meshes';

describe('starters', () => {
  it.each(STARTERS.map((starter) => [starter.id, starter] as const))(
    '%s compiles without a word, ends in a surface, and has its picture and its model',
    (id, { title, model, document }) => {
      const made = document();
      expect(checkCompiled(made)).toEqual([]);
      expect(made.name).toBe(title);
      expect(made.network.strands.some(({ to }) => to.node === '@out')).toBe(true);
      const picture = path.resolve(import.meta.dirname, `../../public/starters/${id}.png`);
      expect(existsSync(picture)).toBe(true);
      expect(DEMO_MODELS.map(({ name }) => `demo-${name}`)).toContain(model);
    },
  );
  it('are at least eight, each with an id of its own', () => {
    expect(STARTERS.length).toBeGreaterThanOrEqual(8);
    expect(new Set(STARTERS.map(({ id }) => id)).size).toBe(STARTERS.length);
  });
});

describe('the guide of first steps', () => {
  it('goes on by what the material shows, and never back behind what was reached', () => {
    const empty = emptyDocument('First');
    expect(nextStep({ document: empty, isPinned: false }, 0)).toBe(0);
    const noise = addNode(empty, null, 'patterns.noise', [0, 0]);
    expect(nextStep({ document: noise.document, isPinned: false }, 0)).toBe(1);
    expect(nextStep({ document: noise.document, isPinned: true }, 0)).toBe(2);
    const step = addNode(noise.document, null, 'ranges.smoothstep', [200, 0]);
    expect(nextStep({ document: step.document, isPinned: false }, 2)).toBe(2);
    const from = { node: noise.id, output: 'value' };
    const shaped = connect(step.document, null, from, { node: step.id, input: 'value' });
    expect(nextStep({ document: shaped, isPinned: false }, 2)).toBe(3);
    expect(FIRST_WEAVE).toHaveLength(6);
  });
});

describe('walking along strands', () => {
  const chain = documentOf(
    [node('n1', 'patterns.noise'), node('n2', 'ranges.levels'), node('n3', 'gradients.ramp')],
    ['n1:signed > n2:value', 'n2:value > n3:value'],
  );
  it('goes to what feeds and to what is fed, and stops at the ends', () => {
    expect(walkStrand(chain, null, 'n3:colour', 'up')).toBe('n2:value');
    expect(walkStrand(chain, null, 'n2:value', 'up')).toBe('n1:signed');
    expect(walkStrand(chain, null, 'n1:signed', 'up')).toBeNull();
    expect(walkStrand(chain, null, 'n1:value', 'down')).toBe('n2:value');
    expect(walkStrand(chain, null, 'n3:colour', 'down')).toBeNull();
    expect(walkStrand(chain, null, 'n9:value', 'up')).toBeNull();
  });
});

describe('models compared', () => {
  /** Texels along the side of a map: enough to tell a bell from a quay. */
  const TEXELS = 32;
  const loaded = (name: string): LoadedModel => {
    const sketch = DEMO_MODELS.find((each) => each.name === name)?.make();
    if (!sketch) throw new Error(`no model ${name}`);
    return new LoadedModel(meshOfSketch(sketch));
  };
  it('a model and itself differ in nothing', () => {
    const bell = loaded('bell');
    const { facts, masks } = compareModels(bell, loaded('bell'), TEXELS);
    expect(facts).toEqual([]);
    expect(masks.length).toBeGreaterThan(2);
    for (const { before, after } of masks) expect(after).toBeCloseTo(before, 6);
  });
  it('says of another which parts are gone and new, and how its masks differ', () => {
    const { facts, masks } = compareModels(loaded('bell'), loaded('quay'), TEXELS);
    expect(facts.join(' ')).toMatch(/Its size is .* times/);
    expect(facts.join(' ')).toMatch(/Gone: the part/);
    expect(facts.join(' ')).toMatch(/New: the part/);
    expect(masks.some(({ before, after }) => Math.abs(before - after) > 0.02)).toBe(true);
  });
});
