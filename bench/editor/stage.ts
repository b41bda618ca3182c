/**
 * Times of the stage in Chromium, each beside one plain frame of the same scene. Needs the
 * application.
 */
import type { NodeInstance } from '@/core/graph/document';
import { median } from '../core/evaluate';
import { openStudio, untilIdle } from '../studio/own-studio';

export interface StageFigures {
  readonly plainFrame: number;
  readonly editToPicture: number;
  readonly dragToPicture: number;
  readonly dragToFinePicture: number;
  readonly compilationsWhileDragging: number;
}

export async function measureStage(rounds: number): Promise<StageFigures> {
  const studio = await openStudio();
  const { browser, page, base } = studio;
  try {
    await page.goto(`${base}/materials/demo-painted-tin`);
    await untilIdle(page);
    const figures = await page.evaluate(timeStage, rounds);
    return {
      plainFrame: median(figures.plain),
      editToPicture: median(figures.edits),
      dragToPicture: median(figures.dragFirst),
      dragToFinePicture: median(figures.dragLast),
      compilationsWhileDragging: figures.compiled,
    };
  } finally {
    await browser.close();
  }
}

/**
 * Runs in the page: `count` plain frames, steps of a dragged value (to the first and to the fine
 * picture) and structural edits, milliseconds each.
 */
async function timeStage(count: number) {
  const [stage, evaluation, store] = [
    window.brightLoomStage,
    window.brightLoomEvaluation,
    window.brightLoomStores?.document,
  ];
  if (!stage || !evaluation || !store) throw new Error('no stage');
  const pause = (ms: number): Promise<void> =>
    new Promise((resolve) => {
      setTimeout(resolve, ms);
    });
  const idle = async (): Promise<void> => {
    while (!evaluation.isIdle) await pause(1);
  };
  const original = store.getState().document;
  const timed = async (
    change: (k: number) => typeof original,
    until: 'first' | 'last',
  ): Promise<number[]> => {
    const times: number[] = [];
    for (let k = 0; k < count; k++) {
      await idle();
      await pause(60);
      const { frames } = await stage.timing();
      const began = performance.now();
      store.setState({ document: change(k) });
      if (until === 'first') while ((await stage.timing()).frames === frames) await pause(1);
      else await idle();
      await stage.finish();
      times.push(performance.now() - began);
    }
    return times;
  };
  const changed = (change: (node: NodeInstance) => NodeInstance): typeof original => {
    const nodes = original.network.nodes.map((node) =>
      node.id === 'blotches' ? change(node) : node,
    );
    return { ...original, network: { ...original.network, nodes } };
  };
  const drag = (k: number): typeof original =>
    changed((node) => ({
      ...node,
      values: { ...node.values, scale: 6 + k * 0.1, octaves: 3 + (k % 4) },
    }));
  const edit = (k: number): typeof original =>
    changed((node) => ({
      ...node,
      options: { ...node.options, fold: k % 2 ? 'ridged' : 'billow' },
    }));
  const plain: number[] = [];
  for (let k = 0; k < count; k++) plain.push(await stage.drawAndWait());
  const { compilations } = evaluation.counts;
  const dragFirst = await timed(drag, 'first'),
    dragLast = await timed(drag, 'last');
  const compiled = evaluation.counts.compilations - compilations;
  const edits = await timed(edit, 'first');
  store.setState({ document: original });
  return { plain, dragFirst, dragLast, edits, compiled };
}
