/** What inspecting and painting a group costs, beside evaluating and painting it once. */
import { readFileSync } from 'node:fs';
import { addDial } from '@/core/edit/dials';
import { offerDial } from '@/core/edit/dial-offers';
import { groupSelection } from '@/core/edit/group';
import { planSheet } from '@/core/edit/sheet-plan';
import { measureDial } from '@/core/notes/dial-measures';
import { measurePairs, measureUnplugging, rankInfluence } from '@/core/notes/group-measures';
import { listNotes } from '@/core/notes/group-notes';
import { GroupPainter } from '@/core/notes/group-painter';
import { GroupTrial } from '@/core/notes/group-trial';
import { LoadedModel } from '@/core/evaluate/loaded-model';
import type { ProofModel } from '@/core/evaluate/proof';
import { beginSheet, sheetTasks } from '@/core/evaluate/proof-sheet';
import { EvaluationSession } from '@/core/evaluate/session';
import { readModel } from '@/core/exchange/read-model';
import { outputKey } from '@/core/graph/result-key';
import type { NetworkDocument } from '@/core/graph/document';
import { uniformPoints } from '@/core/mesh/sample-points';
import { median, timed } from './evaluate';
import { largeNetwork } from './network';
import { sized } from '../size';

const MODELS = sized(['study', 'buoy', 'bell'], ['tile']);
const NODES = sized(60, 16);
const DIALS = sized(12, 2);
/** Of a picture; evaluated on a grid twice as fine: 256². */
const SIZE = sized(128, 16);
/** Pictures painted one by one on each model, to compare with. */
const ALONE = sized(10, 1);
const POINTS = 4096;

interface Packed {
  readonly document: NetworkDocument;
  readonly card: string;
  readonly groupId: string;
}

/** About sixty nodes packaged, with the first twelve numbers as dials. */
function packed(): Packed {
  const source = largeNetwork(NODES);
  const ids = source.network.nodes.map(({ id }) => id);
  const made = groupSelection(source, { board: null, ids, name: 'Bench', path: [] });
  const { groupId } = made;
  let { document } = made;
  let count = 0;
  for (const { id, values } of source.network.nodes)
    for (const input of Object.keys(values)) {
      const law = offerDial(document, groupId, id, input)?.laws.find((each) => each === 'times');
      const next = law && count < DIALS && addDial(document, groupId, id, input, law, `Dial ${id}`);
      if (!next) continue;
      document = next.document;
      count++;
    }
  const card = document.network.nodes.find(({ group }) => group === groupId)?.id ?? '';
  return { document, card, groupId };
}

async function loadModels(): Promise<readonly ProofModel[]> {
  const models: ProofModel[] = [];
  for (const name of MODELS) {
    const bytes = new Uint8Array(readFileSync(`assets/models/${name}.glb`));
    const { analysis, measured } = new LoadedModel((await readModel(bytes, name)).mesh);
    models.push({ name, analysis, maps: measured });
  }
  return models;
}

/** Milliseconds of one evaluation of all that goes out, at all points of all models. */
function timeEvaluation({ document, card, groupId }: Packed, models: readonly ProofModel[]) {
  const taps = document.groups[groupId]?.outputs.map(({ id }) => outputKey([card], id)) ?? [];
  const session = new EvaluationSession({ surface: false, taps });
  const all = models.map(({ analysis, maps }) => ({
    mesh: analysis.mesh,
    maps,
    points: uniformPoints(analysis.mesh, POINTS),
  }));
  const once = (): void => {
    for (const { mesh, maps, points } of all) session.evaluate(document, mesh, points, maps);
  };
  once();
  return median(Array.from({ length: 15 }, () => timed(once)));
}

/** Figures of the inspector's notes, one thread. */
export interface NoteFigures {
  readonly first: number;
  readonly all: number;
  readonly evaluation: number;
  readonly dials: number;
}
/** Figures of a proof sheet, one thread: all of it, and its pictures painted one by one. */
export interface SheetFigures {
  readonly sheet: number;
  readonly alone: number;
  readonly pictures: number;
}

/** Times the notes and the proof sheet of a group of about sixty nodes and twelve dials. */
export async function measureGroup(): Promise<{ notes: NoteFigures; sheet: SheetFigures }> {
  const group = packed();
  const models = await loadModels();
  const evaluation = timeEvaluation(group, models);
  const path = [group.card];
  const dials = group.document.groups[group.groupId]?.dials ?? [];
  let first = 0;
  const all = timed(() => {
    first = timed(() => {
      listNotes(group.document, group.groupId);
      const [dial] = dials;
      if (dial) measureDial(new GroupTrial({ document: group.document, path, models }), dial.id);
    });
    const trial = new GroupTrial({ document: group.document, path, models });
    for (const { id } of dials.slice(1)) measureDial(trial, id);
    measurePairs(trial);
    measureUnplugging(trial);
    rankInfluence(trial);
  });
  return {
    notes: { first, all, evaluation, dials: dials.length },
    sheet: measureSheet(group, models),
  };
}

function measureSheet({ document, card, groupId }: Packed, models: readonly ProofModel[]) {
  const group = document.groups[groupId];
  if (!group) throw new Error('Invariant broken: the group is gone');
  const painter = new GroupPainter();
  const path = [card];
  const tasks = sheetTasks(beginSheet(group, MODELS, SIZE));
  const paint = (model: number, settings: Parameters<GroupPainter['paintAll']>[1]): void => {
    const painted = models[model];
    if (painted) painter.paintAll({ document, path, model: painted, size: SIZE }, settings);
  };
  models.forEach((_, k) => {
    paint(k, [{}]);
  });
  const cells = planSheet(group).flatMap((row) => row.cells);
  const some = timed(() => {
    models.forEach((_, k) => {
      for (let picture = 0; picture < ALONE; picture++) paint(k, [{}]);
    });
  });
  const alone = (some / ALONE) * cells.length;
  const sheet = timed(() => {
    for (const { model, settings } of tasks) paint(model, settings);
  });
  return { sheet, alone, pictures: cells.length * models.length };
}
