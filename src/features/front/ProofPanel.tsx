'use client';
import { useEffect, useState } from 'react';
import type { ReactNode } from 'react';
import type { Proof } from '@/core/evaluate/proof';
import type { GroupDefinition, NetworkDocument } from '@/core/graph/document';
import { openRevision } from '@/contract/materials';
import { describeError, problemText } from '@/core/base/problem';
import { read } from '@/state/query-client';
import type { Evaluation } from '@/state/evaluation';
import { tellFound } from '@/state/inspection';
import { unwrap } from '@/workers/answer';
import { sentenceFor } from './proof-text';
import { STUDY } from '@/state/reference-models';
import { stores } from '@/state/stores';
import { useDocument } from '@/state/use-stores';

const sources = new Map<string, Promise<NetworkDocument>>();

function sourceOf(materialId: string, revision: number): Promise<NetworkDocument> {
  const key = `${materialId}/${String(revision)}`;
  let known = sources.get(key);
  if (!known) {
    known = read(openRevision, { params: { id: materialId, number: String(revision) } }).then(
      (opened) => opened.document,
    );
    known.catch(() => sources.delete(key));
    sources.set(key, known);
  }
  return known;
}

type State =
  | { readonly at: 'running' }
  | { readonly at: 'done'; readonly proof: Proof }
  | { readonly at: 'failed'; readonly message: string };

/**
 * Repeats the proof by itself whenever the group changes, on the current model and the study form.
 */
export function ProofPanel({
  evaluation,
  group,
}: {
  readonly evaluation: Evaluation;
  readonly group: GroupDefinition;
}) {
  const state = useProof(evaluation, group);
  if (state.at === 'failed')
    return <ProofLine isFault>The proof could not run: {state.message}</ProofLine>;
  if (state.at === 'running') return <ProofLine>Proof is running …</ProofLine>;
  const { proof } = state;
  return (
    <div
      className={`border p-2 text-[12px] ${proof.identical ? 'border-seam' : 'border-madder'}`}
      data-testid="proof"
    >
      <strong>{proof.identical ? 'Proof: identical' : 'Proof: different'}</strong>
      <p className="text-soft">{sentenceFor(proof)}</p>
      {proof.changes.slice(0, 3).map((change) => (
        <p key={`${change.node}${change.what}`} className="figures text-[11px]">
          {change.node} {change.what}: {change.before} → {change.after}
        </p>
      ))}
    </div>
  );
}

function ProofLine({
  isFault = false,
  children,
}: {
  readonly isFault?: boolean;
  readonly children: ReactNode;
}) {
  return (
    <p className={`text-[12px] ${isFault ? 'text-madder' : 'text-soft'}`} data-testid="proof">
      {children}
    </p>
  );
}

/** The proof of a group, run again shortly after each change. */
function useProof(evaluation: Evaluation, { origin, id }: GroupDefinition): State {
  const groups = useDocument((state) => state.document.groups);
  const modelId = useDocument((state) => state.modelId);
  const [state, setState] = useState<State>({ at: 'running' });
  const originKey = origin ? `${origin.materialId}/${String(origin.revision)}` : '';
  useEffect(() => {
    let live = true;
    const [materialId, revision] = originKey.split('/') as [string, string];
    const run = async (): Promise<void> => {
      const [source] = await Promise.all([
        // One that was built from inside is compared with its own inside.
        originKey === ''
          ? stores.document.getState().document
          : sourceOf(materialId, Number(revision)),
        evaluation.models.load(STUDY.id, STUDY.name),
      ]);
      const proof = await unwrap(
        evaluation.pool.evaluator.prove(source, stores.document.getState().document, id, [
          ...new Set([modelId, STUDY.id]),
        ]),
      );
      if (!live) return;
      setState({ at: 'done', proof });
      tellFound(id, { proof });
    };
    const timer = setTimeout(() => {
      run().catch((error: unknown) => {
        if (live) setState({ at: 'failed', message: problemText(describeError(error)) });
      });
    }, 350);
    return () => {
      live = false;
      clearTimeout(timer);
    };
  }, [evaluation, groups, originKey, id, modelId]);
  return state;
}
