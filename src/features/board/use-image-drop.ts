import { useReactFlow } from '@xyflow/react';
import { useCallback } from 'react';
import { toast } from 'sonner';
import { dropImages, isImageFile } from '@/state/drop-images';
import { tellProblem } from '@/ui/tell-problem';

const CARD = '[data-testid^="card-"]';

/** Takes images that are dropped on the board, or on a card; other files are left to the editor. */
export function useImageDrop(): (event: React.DragEvent) => void {
  const flow = useReactFlow();
  return useCallback(
    (event) => {
      const files = [...event.dataTransfer.files];
      const images = files.filter(isImageFile);
      if (images.length === 0) return;
      event.preventDefault();
      event.stopPropagation();
      const target = event.target instanceof Element ? event.target.closest(CARD) : null;
      const node = target?.closest('.react-flow__node')?.getAttribute('data-id');
      const { x, y } = flow.screenToFlowPosition({ x: event.clientX, y: event.clientY });
      if (images.length < files.length)
        toast('Only the images were taken. Drop a model on the stage, alone.');
      void dropImages(
        images,
        node == null ? { on: 'board', at: [Math.round(x), Math.round(y)] } : { on: 'card', node },
      ).then((problems) => {
        problems.forEach(tellProblem);
      });
    },
    [flow],
  );
}
