import type { NodeId, StrandId } from '../core/base/ids';
import { isMark } from '../core/edit/marks';
import type { Camera } from '../core/evaluate/camera';
import type { BoardPlace, Stores, ViewState } from './stores';

/** How many places can be gone back to. */
const PLACES = 60;
type ViewStore = Pick<Stores, 'view'>;

const hereOf = ({ path, boardView }: ViewState): BoardPlace => ({ path, view: boardView });
/** What is noted when another place is gone to on purpose. */
const leavingOf = (state: ViewState): Partial<ViewState> => ({
  placesBehind: [...state.placesBehind.slice(1 - PLACES), hereOf(state)],
  placesAhead: [],
});

/** Going back to where one was, and forward again. */
function history({ view }: ViewStore) {
  function travel(from: 'placesBehind' | 'placesAhead', to: typeof from): boolean {
    const state = view.getState();
    const place = state[from].at(-1);
    if (!place) return false;
    view.setState({
      [from]: state[from].slice(0, -1),
      [to]: [...state[to], hereOf(state)],
      path: place.path,
      selection: [],
      chosenStrand: null,
      asked: { show: 'view', view: place.view },
    });
    return true;
  }
  return {
    /** @returns whether there was a place to go back to */
    goBack: (): boolean => travel('placesBehind', 'placesAhead'),
    goForward: (): boolean => travel('placesAhead', 'placesBehind'),
  };
}

/** Going from board to board, and from place to place. */
export function travelling({ view }: ViewStore) {
  const leaving = (): Partial<ViewState> => leavingOf(view.getState());
  const open = (path: readonly NodeId[]): void => {
    view.setState({
      ...leaving(),
      path,
      selection: [],
      chosenStrand: null,
      asked: { show: 'all' },
    });
  };
  return {
    enterGroup: (nodeId: NodeId): void => {
      open([...view.getState().path, nodeId]);
    },
    leaveTo: (depth: number): void => {
      open(view.getState().path.slice(0, depth));
    },
    /** Shows a board and brings a card or strand of it into view, chosen. */
    goTo: (
      path: readonly NodeId[],
      { node, strand = null }: { readonly node?: NodeId; readonly strand?: StrandId | null },
    ): void => {
      view.setState({
        ...leaving(),
        path,
        selection: node !== undefined && strand === null ? [node] : [],
        chosenStrand: strand,
        asked: node === undefined ? { show: 'all' } : { show: 'near', ids: [node] },
      });
    },
    /** Shows a part of a board that was kept, with the camera it was kept with. */
    goToView: ({ path, view: asked }: BoardPlace, camera: Camera | null): void => {
      view.setState({
        ...leaving(),
        path,
        selection: [],
        chosenStrand: null,
        asked: { show: 'view', view: asked },
        ...(camera ? { askedCamera: { ...camera } } : {}),
      });
    },
    frameAll: (): void => {
      view.setState({ ...leaving(), asked: { show: 'all' } });
    },
    /** Shows the chosen cards as large as fits; all where none is chosen. */
    frameSelection: (): void => {
      const ids = view.getState().selection.filter((id) => !isMark(id));
      const asked = ids.length > 0 ? ({ show: 'cards', ids } as const) : ({ show: 'all' } as const);
      view.setState({ ...leaving(), asked });
    },
    ...history({ view }),
  };
}
