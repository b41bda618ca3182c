import { useEffect, useEffectEvent } from 'react';
import { toast } from 'sonner';
import { pasteMaterial } from '@/state/material-files';
import { refreshMaterials } from '@/state/material-list';
import { tellProblem } from '@/ui/tell-problem';

/** A network pasted as text becomes a material of a project, on a model. */
export function usePastedMaterial(project: string | undefined, model: string | undefined): void {
  const paste = useEffectEvent((event: ClipboardEvent) => {
    const { target } = event;
    if (target instanceof HTMLInputElement || target instanceof HTMLTextAreaElement) return;
    const text = event.clipboardData?.getData('text/plain') ?? '';
    if (text === '' || project === undefined || model === undefined) return;
    pasteMaterial(text, project, model).then((name) => {
      toast(name === null ? 'What is on the clipboard is no material.' : `Pasted “${name}”`);
      if (name !== null) void refreshMaterials();
    }, tellProblem);
  });
  useEffect(() => {
    const take = (event: ClipboardEvent): void => {
      paste(event);
    };
    window.addEventListener('paste', take);
    return () => {
      window.removeEventListener('paste', take);
    };
  }, []);
}
