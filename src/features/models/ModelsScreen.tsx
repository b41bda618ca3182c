'use client';
import { useRouter } from 'next/navigation';
import { useState } from 'react';
import { describeError } from '@/core/base/problem';
import type { Problem } from '@/core/base/problem';
import { uploadModelFile } from '@/state/upload';
import { Choose } from '@/ui/Choose';
import { ProblemNote } from '@/ui/ProblemNote';
import { ModelPage } from './ModelPage';
import type { ModelRow } from './model-row';

const CHOOSE = 'cursor-pointer underline focus-within:outline-2 focus-within:outline-weld';

interface Props {
  readonly models: readonly ModelRow[];
  readonly projects: readonly { readonly id: string; readonly name: string }[];
  readonly chosen: string;
}

/** The models at hand on the left, the one chosen on the right. */
export function ModelsScreen({ models, projects, chosen }: Props) {
  const router = useRouter();
  const [project, setProject] = useState(projects[0]?.id ?? '');
  const [message, setMessage] = useState('');
  const [problem, setProblem] = useState<Problem | null>(null);
  const model = models.find(({ id }) => id === chosen) ?? models[0];
  const bringIn = async (file: File): Promise<void> => {
    setMessage(`Reading ${file.name} …`);
    setProblem(null);
    try {
      const { id, name } = await uploadModelFile(file, project);
      setMessage(`${name} was uploaded.`);
      router.push(`/models?model=${id}`);
      router.refresh();
    } catch (error) {
      setMessage('');
      setProblem(describeError(error));
    }
  };
  return (
    <div
      className="flex min-h-0 flex-1"
      onDragOver={(event) => {
        event.preventDefault();
      }}
      onDrop={(event) => {
        event.preventDefault();
        const file = event.dataTransfer.files[0];
        if (file) void bringIn(file);
      }}
    >
      <nav
        aria-label="Models"
        className="w-[236px] shrink-0 overflow-auto border-r border-line bg-panel p-3"
      >
        <h1 className="mb-2 text-[18px] font-semibold">Models</h1>
        {[{ id: null, name: 'For everyone' }, ...projects].map((each) => (
          <section key={each.id ?? ''} className="mb-3">
            <h2 className="text-[12px] text-soft">{each.name}</h2>
            <ul>
              {models
                .filter(({ projectId }) => projectId === each.id)
                .map(({ id, name }) => (
                  <li key={id}>
                    <button
                      type="button"
                      aria-current={id === model?.id ? 'page' : undefined}
                      className={
                        'w-full truncate px-1.5 py-1 text-left hover:bg-raised ' +
                        (id === model?.id
                          ? 'border-l-2 border-weld bg-raised'
                          : 'border-l-2 border-transparent')
                      }
                      onClick={() => {
                        router.push(`/models?model=${id}`);
                      }}
                    >
                      {name}
                    </button>
                  </li>
                ))}
              {models.every(({ projectId }) => projectId !== each.id) ? (
                <li className="px-1.5 text-[12px] text-soft">none yet</li>
              ) : null}
            </ul>
          </section>
        ))}
        <div className="border-t border-line pt-2 text-[12px]">
          <p className="mb-1">
            Bring one into{' '}
            <Choose
              label="Project for a new model"
              value={project}
              onChange={setProject}
              items={projects.map(({ id, name }) => ({ value: id, title: name }))}
            />
          </p>
          <label className={CHOOSE}>
            choose or drop a GLB or OBJ
            <input
              type="file"
              accept=".glb,.obj"
              aria-label="Model file"
              className="sr-only"
              onChange={(event) => {
                const file = event.target.files?.[0];
                if (file) void bringIn(file);
              }}
            />
          </label>
          {message ? (
            <p role="status" className="mt-2">
              {message}
            </p>
          ) : null}
          {problem ? <ProblemNote problem={problem} className="mt-2" /> : null}
        </div>
      </nav>
      <main className="min-w-0 flex-1 overflow-auto p-4">
        {model ? <ModelPage key={model.id} model={model} /> : <p>There is no model yet.</p>}
      </main>
    </div>
  );
}
