'use client';
import { useRouter } from 'next/navigation';
import { useEffect, useEffectEvent, useState } from 'react';
import { emptyDocument } from '@/core/graph/document';
import { ApiFailure, sendJson } from '@/state/api';
import type { ModelEntry } from '@/state/api';
import { uploadModelFile } from '@/state/upload';
import { Button } from '@/ui/Button';
import { Choose } from '@/ui/Choose';

interface Props { readonly projects: readonly { readonly id: string; readonly name: string }[]; readonly models: readonly ModelEntry[] }

/** Makes a material on one of the models, or on a GLB file. */
export function NewMaterial({ projects, models }: Props) {
  const router = useRouter();
  const [project, setProject] = useState(projects[0]?.id ?? '');
  const [model, setModel] = useState(models.find((each) => each.id === 'demo-buoy')?.id ?? models[0]?.id ?? '');
  const [name, setName] = useState('');
  const [message, setMessage] = useState('');
  const [busy, setBusy] = useState(false);
  const make = async (modelId: string, title: string): Promise<void> => {
    setBusy(true);
    setMessage('');
    try {
      const { id } = await sendJson<{ id: string }>('POST', '/api/materials', { projectId: project, modelId, document: emptyDocument(title) });
      router.push(`/materials/${id}`);
    } catch (error) {
      setMessage(error instanceof ApiFailure ? `${error.message} ${error.action}` : String(error));
      setBusy(false);
    }
  };
  const fromFile = async (file: File): Promise<void> => {
    setBusy(true);
    setMessage(`Reading ${file.name} …`);
    try {
      const { id } = await uploadModelFile(file, project);
      await make(id, name.trim() || file.name.replace(/\.(glb|obj)$/i, ''));
    } catch (error) {
      setMessage(error instanceof ApiFailure ? `${error.message} ${error.action}` : error instanceof Error ? error.message : String(error));
      setBusy(false);
    }
  };
  const dropped = useEffectEvent((event: DragEvent) => {
    event.preventDefault();
    const file = event.dataTransfer?.files[0];
    if (file && !busy) void fromFile(file);
  });
  // A file may be dropped anywhere in the window.
  useEffect(() => {
    const allow = (event: DragEvent): void => { event.preventDefault(); };
    const drop = (event: DragEvent): void => { dropped(event); };
    window.addEventListener('dragover', allow);
    window.addEventListener('drop', drop);
    return () => { window.removeEventListener('dragover', allow); window.removeEventListener('drop', drop); };
  }, []);
  return (
    <div className="mb-5 flex flex-wrap items-center gap-2 border border-line bg-panel p-3">
      <span className="font-semibold">New material</span>
      <input aria-label="Name of the new material" placeholder="Name" value={name} onChange={(event) => { setName(event.target.value); }} className="border border-line bg-ground px-2 py-0.5" />
      <span className="text-soft">on</span>
      <Choose label="Model" value={model} onChange={setModel} items={models.map((each) => ({ value: each.id, title: each.name }))} />
      <span className="text-soft">in</span>
      <Choose label="Project" value={project} onChange={setProject} items={projects.map((each) => ({ value: each.id, title: each.name }))} />
      <Button look="strong" disabled={busy || !project} onClick={() => { void make(model, name.trim() || 'New material'); }}>Make it</Button>
      <label className="ml-2 cursor-pointer text-soft underline">or drop a GLB or OBJ file onto the window<input type="file" accept=".glb,.obj" className="sr-only" onChange={(event) => { const file = event.target.files?.[0]; if (file) void fromFile(file); }} /></label>
      {message ? <p role="status" className="w-full">{message}</p> : null}
    </div>
  );
}
