import { readFileSync, readdirSync } from 'node:fs';
import path from 'node:path';
import { listDefinitions } from '@/core/compile/catalogue';
import { checkCompiled } from '@/core/compile/compile';
import { makeExample } from '@/core/compile/example';
import { isShare } from '@/core/nodes/quantities';
import { readyGroupsPage } from '@/core/edit/ready-page';
import { handbookPages } from '@/core/compile/handbook';

const root = path.resolve(import.meta.dirname, '../..');
const folder = path.join(root, 'docs/nodes');

describe('the handbook of nodes', () => {
  it('is what the nodes themselves say', () => {
    const pages = handbookPages(listDefinitions());
    expect(
      readdirSync(folder)
        .filter((file) => file.endsWith('.md'))
        .sort(),
    ).toEqual([...pages.keys()].sort());
    for (const [file, text] of pages)
      expect(readFileSync(path.join(folder, file), 'utf8')).toBe(text);
  });
  it('has the papers of the ready groups', () => {
    const file = path.join(root, 'docs/ready-groups.md');
    expect(readFileSync(file, 'utf8')).toBe(readyGroupsPage());
  });
  it('has a picture of every node, and no other', () => {
    expect(readdirSync(path.join(folder, 'pictures')).sort()).toEqual(
      listDefinitions()
        .map(({ id }) => `${id}.png`)
        .sort(),
    );
  });
  it.each(listDefinitions().map((definition) => [definition.id, definition] as const))(
    'the example of %s has nothing wrong with it',
    (_id, definition) => {
      expect(checkCompiled(makeExample(definition).document)).toEqual([]);
    },
  );
  it('tries an index over indices and an angle over angles, never from 0 to 1', () => {
    let tried = 0;
    for (const definition of listDefinitions()) {
      const { nodes, strands } = makeExample(definition).document.network;
      for (const { from, to } of strands) {
        const port = to.node === 'shown' ? definition.inputs[to.input] : undefined;
        if (port?.kind !== 'scalar' || isShare(port.quantity)) continue;
        const over = nodes.find(({ id }) => id === from.node);
        expect([definition.id, to.input, over?.values['outLow'], over?.values['outHigh']]).toEqual([
          definition.id,
          to.input,
          port.soft?.[0],
          port.soft?.[1],
        ]);
        tried++;
      }
    }
    expect(tried).toBeGreaterThan(0);
  });
  it('shows of Index and reflectance what it makes of an index', () => {
    const definition = listDefinitions().find(({ id }) => id === 'optics.reflectance');
    expect(definition && makeExample(definition).shown).toBe('shown:reflectance');
  });
});
