import { SHOWN, showcase } from '../core/releases/showcase';
import type { ReleasedGroups } from '../core/releases/release-groups';
import { makeEditing } from './editing';
import { startEvaluation } from './evaluation';
import type { Evaluation } from './evaluation';
import { stores } from './stores';

/** The card whose dials are turned while a group is shown. */
export const SHOWN_CARD = SHOWN;

/**
 * Shows a group on the stage, to be tried: its card stands alone in a document that is saved
 * nowhere.
 */
export function openShowcase(groups: ReleasedGroups, modelId: string): Evaluation {
  const document = showcase(groups);
  makeEditing(stores).openDocument({ document, materialId: '', modelId, revision: 0 });
  stores.saving.setState({ saveState: 'saved', saveMessage: '' });
  return startEvaluation();
}
