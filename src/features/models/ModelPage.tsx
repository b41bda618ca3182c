'use client';
import { useEffect, useState } from 'react';
import { listCures, withCure, withUnitAndAxis, withoutCure } from '@/core/exchange/prepare';
import type { ModelPreparation } from '@/core/exchange/prepare';
import { MODEL_LOOKS } from '@/core/evaluate/model-looks';
import type { Picture } from '@/core/evaluate/picture';
import type { Cure } from '@/core/mesh/finding';
import { mendModel } from '@/contract/models';
import { describeError } from '@/core/base/problem';
import type { Problem } from '@/core/base/problem';
import { ApiFailure, call } from '@/state/api';
import { examine } from '@/state/model-examination';
import type { Examination, ModelDrawings } from '@/state/model-examination';
import { PictureCanvas } from '@/ui/PictureCanvas';
import { ProblemNote } from '@/ui/ProblemNote';
import { WorkerPool } from '@/workers/pool';
import { ModelActs } from './ModelActs';
import type { ProjectRow } from './ModelActs';
import { FindingList } from './FindingList';
import { ModelFactsTable } from './ModelFactsTable';
import type { ModelRow } from './model-row';

const PICTURE = 256;

interface Props {
  readonly model: ModelRow;
  readonly projects: readonly ProjectRow[];
}

/** A model looked over: what it is, what masks will make of it, and what corrects that. */
export function ModelPage({ model, projects }: Props) {
  const { examination, looks, drawFault, failure, busy, look } = useExamination(model.id);
  const { message, problem, correct, cure, uncure } = useCorrections(model.id, examination, look);
  return (
    <>
      <ModelActs model={model} projects={projects} onChanged={look} />
      <p className="mb-2 text-soft">
        {model.ownerName ? `Uploaded by ${model.ownerName}` : 'Comes with Bright Loom'}
        {model.mayMend ? '' : '; only librarians change it'}
      </p>
      {failure ? <ProblemNote problem={failure} className="mb-2" /> : null}
      {problem ? <ProblemNote problem={problem} className="mb-2" /> : null}
      <p role="status" className="min-h-5" data-testid="model-status">
        {busy || message}
      </p>
      <Looks model={model} looks={looks} />
      {examination ? (
        <div className="mt-4 grid gap-5 lg:grid-cols-[minmax(240px,320px)_1fr]">
          <ModelFactsTable
            examination={examination}
            mayMend={model.mayMend}
            onPlace={(next) => {
              void correct(
                withUnitAndAxis(examination.preparation, next),
                'Read again with that unit and axis.',
              );
            }}
          />
          <FindingList
            diagnosis={examination.diagnosis}
            notes={examination.notes}
            applied={listCures(examination.preparation)}
            mayMend={model.mayMend && busy === ''}
            onCure={cure}
            onTakeBack={uncure}
            drawFault={drawFault}
          />
        </div>
      ) : null}
    </>
  );
}

const LOOKS = 'grid grid-cols-[repeat(auto-fill,minmax(clamp(136px,12vw,300px),1fr))] gap-2';

/** What masks will see, in pictures. */
function Looks({
  model,
  looks,
}: {
  readonly model: ModelRow;
  readonly looks: ReadonlyMap<string, Picture>;
}) {
  return (
    <div className={LOOKS}>
      {MODEL_LOOKS.map(({ id, title, description }) => (
        <figure key={id}>
          <div className="aspect-square bg-stage">
            {looks.get(id) ? (
              <PictureCanvas
                picture={looks.get(id)}
                label={`${title}: ${model.name}`}
                className="h-full w-full"
              />
            ) : null}
          </div>
          <figcaption className="text-[12px]">
            <strong>{title}</strong> <span className="text-soft">{description}</span>
          </figcaption>
        </figure>
      ))}
    </div>
  );
}

/** Changes how the file is read, and says what came of it. */
function useCorrections(id: string, examination: Examination | null, look: () => void) {
  const [message, setMessage] = useState('');
  const [problem, setProblem] = useState<Problem | null>(null);
  const correct = async (next: ModelPreparation, done: string): Promise<void> => {
    if (!examination) return;
    setMessage('');
    setProblem(null);
    try {
      await call(mendModel, {
        params: { id },
        body: { before: examination.preparation, preparation: next },
      });
      look();
      setMessage(done);
    } catch (error) {
      if (error instanceof ApiFailure && error.code === 'model.clash') look();
      setProblem(describeError(error));
    }
  };
  const cure = (asked: Cure): void => {
    if (examination)
      void correct(
        withCure(examination.preparation, asked),
        `Fixed: ${CURE_DONE[asked]}. The file itself is unchanged.`,
      );
  };
  const uncure = (asked: Cure): void => {
    if (examination)
      void correct(
        withoutCure(examination.preparation, asked),
        `No longer applied: ${CURE_DONE[asked]}.`,
      );
  };
  return { message, problem, correct, cure, uncure };
}

const CURE_DONE: Readonly<Record<Cure, string>> = {
  smooth: 'normals are made smooth by angle',
  weld: 'near vertices are put in one place',
  unwrap: 'maps use an automatic atlas',
  flip: 'all triangles face the other way',
};

/**
 * Every look takes workers of its own, which end with it: leaving the page or correcting the model
 * stops what is under way.
 */
function useExamination(id: string) {
  const [round, setRound] = useState(0);
  const [examination, setExamination] = useState<Examination | null>(null);
  const [looks, setLooks] = useState<ReadonlyMap<string, Picture>>(new Map());
  const [failure, setFailure] = useState<Problem | null>(null);
  const [drawFault, setDrawFault] = useState<ModelDrawings['drawFault'] | null>(null);
  const [busy, setBusy] = useState('Reading the model …');
  useEffect(() => {
    const pool = new WorkerPool(2);
    let live = true;
    const run = async (): Promise<void> => {
      const { draw, drawFault: places, ...found } = await examine(pool, id);
      if (live) {
        setExamination(found);
        setDrawFault(() => places);
      }
      for (const { id: each, title } of MODEL_LOOKS) {
        if (live) setBusy(`Measuring for ${title.toLowerCase()} …`);
        const picture = await draw(each, PICTURE);
        if (live) setLooks((old) => new Map([...old, [each, picture]]));
      }
    };
    run()
      .catch((error: unknown) => {
        if (live) setFailure(describeError(error));
      })
      .finally(() => {
        if (live) setBusy('');
      });
    return () => {
      live = false;
      setDrawFault(null);
      pool.close();
    };
  }, [id, round]);
  const look = (): void => {
    setBusy('Reading the model …');
    setFailure(null);
    setRound((before) => before + 1);
  };
  return { examination, looks, drawFault, failure, busy, look };
}
