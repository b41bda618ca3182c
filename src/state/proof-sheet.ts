'use client';
import { useEffect, useState } from 'react';
import { describeError } from '../core/base/problem';
import type { Problem } from '../core/base/problem';
import type { Picture } from '../core/evaluate/picture';
import { beginSheet, sheetTasks, withPainted } from '../core/evaluate/proof-sheet';
import type { ProofSheet, SheetTask } from '../core/evaluate/proof-sheet';
import type { GroupDefinition } from '../core/graph/document';
import { unwrap } from '../workers/answer';
import type { RemoteWorker } from '../workers/pool';
import type { Evaluation } from './evaluation';
import { REFERENCES } from './reference-models';
import { stores } from './stores';
import { useDocument, useView } from './use-stores';

/** Of a picture, pixels a side. */
const SIZE = 128;
/** How long nothing must change before the sheet is painted, milliseconds. */
const REST = 400;
/** How many models a sheet shows. */
const MODELS = 3;

/** A proof sheet while it is painted. */
export interface PaintedSheet {
  readonly sheet: ProofSheet;
  /** By their numbers on the sheet. */
  readonly pictures: ReadonlyMap<number, Picture>;
  /** Pictures still to be painted. */
  readonly waiting: number;
  readonly problem: Problem | null;
  readonly isStopped: boolean;
  readonly stop: () => void;
  readonly resume: () => void;
}

type Painted = Pick<PaintedSheet, 'sheet' | 'pictures' | 'problem'>;

/** The models of a sheet: the current one first. */
async function sheetModels(evaluation: Evaluation, modelId: string) {
  const others = REFERENCES.filter(({ id }) => id !== modelId).slice(0, MODELS - 1);
  const own = evaluation.models.loader.find(modelId);
  for (const { id, name } of others) await evaluation.models.load(id, name);
  return [{ id: modelId, name: own?.facts.name ?? 'This model' }, ...others];
}

interface Painting {
  readonly tasks: SheetTask[];
  readonly models: readonly string[];
  readonly path: readonly string[];
  readonly isLive: () => boolean;
  readonly tell: (task: SheetTask, made: Awaited<ReturnType<typeof paintTask>>) => void;
}

function paintTask(
  evaluation: Evaluation,
  worker: RemoteWorker,
  { models, path }: Painting,
  { model, settings }: SheetTask,
) {
  const { document } = stores.document.getState();
  return unwrap(
    worker.paintGroup({
      document: evaluation.pool.documents.bring(worker, document),
      path,
      settings,
      model: models[model] ?? '',
      size: SIZE,
    }),
  );
}

/** Lets one worker paint task after task until none is left. */
async function paintWith(
  evaluation: Evaluation,
  worker: RemoteWorker,
  painting: Painting,
): Promise<void> {
  for (let task = painting.tasks.shift(); task; task = painting.tasks.shift()) {
    if (!painting.isLive()) return;
    const made = await paintTask(evaluation, worker, painting, task);
    if (painting.isLive()) painting.tell(task, made);
  }
}

/**
 * The proof sheet of the open group on the current model and two others, painted by the workers
 * line by line, and anew when the group changes.
 */
export function useProofSheet(evaluation: Evaluation, group: GroupDefinition): PaintedSheet {
  const modelId = useDocument((state) => state.modelId);
  const path = useView((state) => state.path);
  const [painted, setPainted] = useState<Painted>(() => ({
    sheet: beginSheet(group, [], SIZE),
    pictures: new Map(),
    problem: null,
  }));
  const [isStopped, setStopped] = useState(false);
  useEffect(() => {
    if (isStopped) return;
    let live = true;
    const run = async (): Promise<void> => {
      const models = await sheetModels(evaluation, modelId);
      const names = models.map(({ name }) => name);
      const sheet = beginSheet(group, names, SIZE);
      const painting: Painting = {
        tasks: [...sheetTasks(sheet)],
        models: models.map(({ id }) => id),
        path,
        isLive: () => live,
        tell: (task, made) => {
          setPainted((known) => ({
            ...known,
            sheet: withPainted(known.sheet, task, made),
            pictures: new Map([
              ...known.pictures,
              ...made.map(({ picture }, k) => [task.first + k, picture] as const),
            ]),
          }));
        },
      };
      if (live) setPainted({ sheet, pictures: new Map(), problem: null });
      const workers = evaluation.pool.backgrounds;
      await Promise.all(workers.map((worker) => paintWith(evaluation, worker, painting)));
    };
    const timer = setTimeout(() => {
      run().catch((error: unknown) => {
        if (live) setPainted((known) => ({ ...known, problem: describeError(error) }));
      });
    }, REST);
    return () => {
      live = false;
      clearTimeout(timer);
    };
  }, [evaluation, group, isStopped, modelId, path]);
  return {
    ...painted,
    waiting: painted.sheet.shares.filter((share) => share === null).length,
    isStopped,
    stop: () => {
      setStopped(true);
    },
    resume: () => {
      setStopped(false);
    },
  };
}
