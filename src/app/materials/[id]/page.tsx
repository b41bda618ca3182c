import { listModels } from '@/server/models';
import { listProjects } from '@/server/projects';
import { signedIn } from '../../signed-in';
import { EditorScreen } from './EditorScreen';

export default async function EditorPage({ params }: { params: Promise<{ id: string }> }) {
  const user = await signedIn();
  const { id } = await params;
  const [models, projects] = await Promise.all([listModels(user), listProjects(user)]);
  return (
    <EditorScreen
      materialId={id}
      models={models}
      projects={projects}
      user={{ id: user.id, name: user.name, role: user.role }}
    />
  );
}
