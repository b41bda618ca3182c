'use client';
import { useEffect, useState } from 'react';
import { toast } from 'sonner';
import type { Proof } from '@/core/evaluate/proof';
import type { GroupDefinition } from '@/core/graph/document';
import { ApiFailure, getJson, sendJson } from '@/state/api';
import type { Me } from '@/state/api';
import { editorStore } from '@/state/editor-store';
import type { Saver } from '@/state/saving';
import { Button } from '@/ui/Button';
import { Choose } from '@/ui/Choose';
import { Sheet } from '@/ui/Sheet';

interface Publication { readonly state: 'waiting' | 'published' | 'refused'; readonly message: string; readonly proof: Proof | null; readonly entryId: string | null }
const POLL = 500;
const PATIENCE = 240;

async function awaitPublication(id: string): Promise<Publication> {
  for (let k = 0; k < PATIENCE; k++) {
    const found = await getJson<Publication>(`/api/publications/${id}`);
    if (found.state !== 'waiting') return found;
    await new Promise((resolve) => { setTimeout(resolve, POLL); });
  }
  throw new Error('No worker has taken the request within two minutes. It is kept and will be worked on; look into the library later.');
}

/** Names a group and sends it to a rack; the server repeats the proof. */
export function PublishSheet({ group, saver, onClose }: { readonly group: GroupDefinition | null; readonly saver: Saver | null; readonly onClose: () => void }) {
  return (
    <Sheet open={group !== null} onClose={onClose} title="Publish" description="The server repeats the proof from the revision it holds, makes a picture, and puts the group on a rack.">
      {group ? <PublishForm key={group.id} group={group} saver={saver} onClose={onClose} /> : null}
    </Sheet>
  );
}

function PublishForm({ group, saver, onClose }: { readonly group: GroupDefinition; readonly saver: Saver | null; readonly onClose: () => void }) {
  const [me, setMe] = useState<Me | null>(null);
  const [rack, setRack] = useState('');
  const [name, setName] = useState(group.name);
  const [version, setVersion] = useState('1.0.0');
  const [description, setDescription] = useState(group.description);
  const [tags, setTags] = useState('');
  const [busy, setBusy] = useState('');
  const [failure, setFailure] = useState('');
  useEffect(() => {
    void getJson<Me>('/api/session').then((found) => {
      setMe(found);
      setRack(found.user.role === 'artist' ? `project:${found.projects[0]?.id ?? ''}` : 'studio');
    }).catch((error: unknown) => { setFailure(error instanceof Error ? error.message : String(error)); });
  }, []);
  const publish = async (): Promise<void> => {
    setFailure('');
    setBusy('Saving the material');
    try {
      if (!(await saver?.flush())) throw new Error(editorStore.getState().saveMessage || 'The material could not be saved first.');
      const { materialId, revision } = editorStore.getState();
      setBusy('Repeating the proof on the server');
      const { id } = await sendJson<{ id: string }>('POST', '/api/library', {
        materialId, revision, groupId: group.id, rack, version, name: name.trim(), description, tags: tags.split(',').map((tag) => tag.trim()).filter(Boolean),
      });
      const outcome = await awaitPublication(id);
      if (outcome.state === 'refused') setFailure(outcome.message);
      else {
        toast(`Published ${name} ${version} to the ${rack === 'studio' ? 'studio' : 'project'} rack`);
        onClose();
      }
    } catch (error) {
      setFailure(error instanceof ApiFailure ? `${error.message} ${error.action}` : error instanceof Error ? error.message : String(error));
    } finally {
      setBusy('');
    }
  };
  const racks = me ? [...(me.user.role === 'artist' ? [] : [{ value: 'studio', title: 'Studio rack' }]), ...me.projects.map((project) => ({ value: `project:${project.id}`, title: `Rack of ${project.name}` }))] : [];
  const field = 'w-full border border-line bg-ground px-2 py-1';
  return (
    <form className="flex flex-col gap-3" onSubmit={(event) => { event.preventDefault(); void publish(); }}>
      <label>Name<input required minLength={2} maxLength={80} className={field} value={name} onChange={(event) => { setName(event.target.value); }} /></label>
      <div className="flex items-end gap-3"><label>Version<input required pattern="\d+\.\d+\.\d+" className={field} value={version} onChange={(event) => { setVersion(event.target.value); }} /></label>
        {racks.length > 0 ? <Choose label="Rack" value={rack} onChange={setRack} items={racks} /> : null}</div>
      <label>Description<textarea rows={3} maxLength={2000} className={field} value={description} onChange={(event) => { setDescription(event.target.value); }} /></label>
      <label>Tags, with commas between<input className={field} value={tags} onChange={(event) => { setTags(event.target.value); }} /></label>
      {failure ? <p role="alert" className="border border-madder p-2" data-testid="publish-failure">{failure}</p> : null}
      {busy ? <p role="status">{busy} …</p> : null}
      <div><Button look="strong" type="submit" disabled={busy !== '' || rack === ''}>Publish {version}</Button></div>
    </form>
  );
}
