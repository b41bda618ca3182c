import { listModels } from '@/server/models';
import { signedIn } from '../../signed-in';
import { EditorScreen } from './EditorScreen';

export default async function EditorPage({ params }: { params: Promise<{ id: string }> }) {
  const user = await signedIn();
  const { id } = await params;
  return (
    <EditorScreen
      materialId={id}
      models={await listModels(user)}
      user={{ id: user.id, name: user.name, role: user.role }}
    />
  );
}
