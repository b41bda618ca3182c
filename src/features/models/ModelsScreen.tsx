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
  const model = models.find(({ id }) => id === chosen) ?? models[0];
  const upload = useModelUpload(projects[0]?.id ?? '');
  return (
    <div
      className="scaled flex min-h-0 flex-1"
      onDragOver={(event) => {
        event.preventDefault();
      }}
      onDrop={(event) => {
        event.preventDefault();
        const file = event.dataTransfer.files[0];
        if (file) void upload.take(file);
      }}
    >
      <nav
        aria-label="Models"
        className="w-[236px] shrink-0 overflow-auto border-r border-line bg-panel p-3"
      >
        <h1 className="mb-2 text-[18px] font-semibold">Models</h1>
        {[{ id: null, name: 'For everyone' }, ...projects].map(({ id, name }) => (
          <ModelSection
            key={id ?? ''}
            title={name}
            models={models.filter((each) => each.projectId === id && !each.isArchived)}
            chosen={model?.id}
          />
        ))}
        <ModelSection
          title="Archive"
          models={models.filter(({ isArchived }) => isArchived)}
          chosen={model?.id}
        />
        <UploadFields upload={upload} projects={projects} />
      </nav>
      <main className="min-w-0 flex-1 overflow-auto p-4">
        {model ? (
          <ModelPage key={model.id} model={model} projects={projects} />
        ) : (
          <p>There is no model yet.</p>
        )}
      </main>
    </div>
  );
}

/** The models of a project, or of everyone. */
function ModelSection({
  title,
  models,
  chosen,
}: {
  readonly title: string;
  readonly models: readonly ModelRow[];
  readonly chosen: string | undefined;
}) {
  const router = useRouter();
  // An empty one would only say so.
  if (models.length === 0) return null;
  return (
    <section className="mb-3">
      <h2 className="text-[12px] text-soft">{title}</h2>
      <ul>
        {models.map(({ id, name }) => (
          <li key={id}>
            <button
              type="button"
              aria-current={id === chosen ? 'page' : undefined}
              className={
                'w-full truncate border-l-2 px-1.5 py-1 text-left hover:bg-raised ' +
                (id === chosen ? 'border-weld bg-raised' : 'border-transparent')
              }
              onClick={() => {
                router.push(`/models?model=${id}`);
              }}
            >
              {name}
            </button>
          </li>
        ))}
      </ul>
    </section>
  );
}

/** Uploading a model into a project, and what is said meanwhile. */
function useModelUpload(first: string) {
  const router = useRouter();
  const [project, setProject] = useState(first);
  const [message, setMessage] = useState('');
  const [problem, setProblem] = useState<Problem | null>(null);
  const take = async (file: File): Promise<void> => {
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
  return { project, setProject, message, problem, take };
}

function UploadFields({
  upload: { project, setProject, message, problem, take },
  projects,
}: Pick<Props, 'projects'> & { readonly upload: ReturnType<typeof useModelUpload> }) {
  return (
    <div className="border-t border-line pt-2 text-[12px]">
      <p className="mb-1">
        Upload one to{' '}
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
            if (file) void take(file);
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
  );
}
