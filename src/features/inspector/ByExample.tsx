'use client';
import { useEffect, useState } from 'react';
import { chosenOptions, findNodeDefinition, getNodeTitle } from '@/core/compile/catalogue';
import { getInputValue } from '@/core/compile/uniforms';
import { complementInput } from '@/core/edit/complement';
import { setValue } from '@/core/edit/nodes';
import type { Example, Fitted, FittedValues } from '@/core/explain/example';
import { fitExample, inputsOf } from '@/core/explain/fit-example';
import type { ExampleFit } from '@/core/nodes/define';
import { isRamp, isTriple } from '@/core/graph/document';
import type { InputValue, NodeInstance } from '@/core/graph/document';
import { arrivingKey } from '@/core/graph/result-key';
import { commit } from '@/state/editing';
import type { Evaluation } from '@/state/evaluation';
import { readRays } from '@/state/figures';
import { stores } from '@/state/stores';
import { useView } from '@/state/use-stores';
import { Button } from '@/ui/Button';
import { tellProblem } from '@/ui/tell-problem';

interface Props {
  readonly node: NodeInstance;
  readonly evaluation: Evaluation | null;
}
const NOTHING: Example = { inside: [], outside: [] };
const SORTS = { inside: 'In here', outside: 'Not there' } as const;

/** Fits the mask of a node to strokes on the model: what it is to hold, and what not. */
export function ByExample({ node, evaluation }: Props) {
  const definition = findNodeDefinition(node);
  if (!definition?.fits || !evaluation) return null;
  const chosen = chosenOptions(definition, node);
  const fit = definition.fits.find(({ when }) => !when || chosen[when[0]] === when[1]);
  if (!fit) return null;
  return <Fitting fit={fit} node={node} evaluation={evaluation} />;
}

interface FittingProps {
  readonly fit: ExampleFit;
  readonly node: NodeInstance;
  readonly evaluation: Evaluation;
}

/** Strokes that are gathered, and how the next ones are asked for. */
function useExample({ fit, node, evaluation }: FittingProps) {
  const path = useView((state) => state.path);
  const [example, setExample] = useState(NOTHING);
  useEffect(
    () => () => {
      stores.view.setState({ stroking: null });
    },
    [],
  );
  const mark = (sort: keyof Example): void => {
    const key = fit.kind === 'facing' ? null : arrivingKey([...path, node.id], fit.of);
    const title = getNodeTitle(stores.document.getState().document, node);
    const not = sort === 'inside' ? '' : 'not ';
    stores.view.setState({
      stroking: {
        asks: `${SORTS[sort]}: draw over the model what “${title}” is ${not}to hold.`,
        take: (rays) => {
          readRays(evaluation, key, rays).then((values) => {
            setExample((now) => ({ ...now, [sort]: [...now[sort], ...values] }));
          }, tellProblem);
        },
      },
    });
  };
  return {
    example,
    mark,
    clear: () => {
      setExample(NOTHING);
    },
  };
}

/** What the inputs of a fit hold. */
const heldBy = (node: NodeInstance, fit: ExampleFit): FittedValues =>
  Object.fromEntries(
    inputsOf(fit).flatMap((name) => {
      const value = getInputValue(node, name);
      return value === undefined ? [] : [[name, value] as const];
    }),
  );

function Fitting(props: FittingProps) {
  const { fit, node } = props;
  const { example, mark, clear } = useExample(props);
  return (
    <section className="mb-1 text-[12px]" aria-label="By example" data-testid="by-example">
      <p className="flex items-center gap-2">
        By example
        {(['inside', 'outside'] as const).map((sort) => (
          <Button
            key={sort}
            className="min-h-[24px] !py-0"
            title="Draw on the model; what arrives there is read"
            onClick={() => {
              mark(sort);
            }}
          >
            {SORTS[sort]} <span className="figures">{example[sort].length}</span>
          </Button>
        ))}
        {example === NOTHING ? null : (
          <Button look="quiet" className="min-h-[24px] !py-0" onClick={clear}>
            Begin anew
          </Button>
        )}
      </p>
      <Proposal
        found={fitExample(example, heldBy(node, fit), fit)}
        onTake={(found) => {
          take(node.id, fit, found);
          stores.view.setState({ stroking: null });
          clear();
        }}
      />
    </section>
  );
}

type Fits = Extract<Fitted, { kind: 'fits' }>;

function take(id: string, fit: ExampleFit, { values, isTurned }: Fits): void {
  commit('Fitted by example', (document, board) =>
    Object.entries(values).reduce(
      (now, [input, value]) => setValue(now, board, id, input, value),
      isTurned && 'of' in fit ? complementInput(document, board, id, fit.of) : document,
    ),
  );
}

/** A fitted value in words. */
function told(value: InputValue): string {
  if (isTriple(value)) return value.join(', ');
  if (isRamp(value)) return `at ${value.stops.map(({ position }) => position).join(', ')}`;
  return typeof value === 'number' ? String(value) : '';
}

/** What would be taken, and why; or that nothing separates the strokes. */
function Proposal({
  found,
  onTake,
}: {
  readonly found: Fitted | null;
  readonly onTake: (found: Fits) => void;
}) {
  if (!found) return null;
  if (found.kind === 'nothing separates')
    return <p className="text-madder">Nothing separates them. {found.because}</p>;
  const values = Object.entries(found.values).map(([name, value]) => `${name} ${told(value)}`);
  const words = [...(found.isTurned ? ['turned over'] : []), ...values].join(', ');
  return (
    <p>
      {found.because} {words === '' ? null : <b className="figures">{words}</b>}{' '}
      {words === '' ? null : (
        <Button
          look="strong"
          className="min-h-[24px] !py-0"
          onClick={() => {
            onTake(found);
          }}
        >
          Take
        </Button>
      )}
    </p>
  );
}
