import { toast } from 'sonner';
import { undo } from './editing';
import { stores } from './stores';

/** Says what the last step changed, and offers to take it back while it is the last. */
export function tellChange(text: string): void {
  const { document: made } = stores.document.getState();
  toast(text, {
    action: {
      label: 'Undo',
      onClick: () => {
        if (stores.document.getState().document === made) undo();
        else toast('Something was changed since. Ctrl+Z goes back step by step.');
      },
    },
  });
}
