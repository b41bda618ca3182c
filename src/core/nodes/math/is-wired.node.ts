import { defineNode, input, output } from '../define';

const watched = (title: string) =>
  input.flex({
    title,
    help: 'Whether a strand brings something here; what it brings does not matter.',
    default: 0,
  });

export const isWired = defineNode({
  id: 'math.is-wired',
  version: 1,
  title: 'Is wired',
  family: 'math',
  synonyms: ['connected', 'plugged', 'optional', 'has input', 'unwired', 'author'],
  help:
    'Says 1 where a strand is wired and 0 where none is. A strand from an input of the group ' +
    'counts only where that input is wired outside, so a group can tell what it was given.',
  formula: 'first: 1 if wired, else 0; either: 1 if one of both is',
  inputs: { first: watched('First'), second: watched('Second') },
  outputs: {
    first: output.scalar('First', '1 where the first is wired, else 0.'),
    second: output.scalar('Second', '1 where the second is wired, else 0.'),
    either: output.scalar('Either', '1 where one of both is wired, else 0.'),
  },
  lower: (b, _inputs, _options, model) => {
    const [first, second] = [model.isFed('first'), model.isFed('second')];
    const share = (isTrue: boolean) => b.f(isTrue ? 1 : 0);
    return { first: share(first), second: share(second), either: share(first || second) };
  },
});
