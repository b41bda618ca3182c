import 'fake-indexeddb/auto';
import { clear } from 'idb-keyval';
import type { NetworkDocument, NodeInstance } from '@/core/graph/document';
import type { JsonPatch } from '@/core/graph/patch';
import { client } from '@/state/client';
import { dropDraft, keepDraft, takeDraft } from '@/state/drafts';
import { makeEditing } from '@/state/editing';
import { queryClient } from '@/state/query-client';
import { openMaterial } from '@/state/open-material';
import { Saver } from '@/state/saving';
import type { Clash, SavingParts } from '@/state/saving';
import { createStores } from '@/state/stores';
import type { SaveState } from '@/state/stores';
import { documentOf, node } from '../support/networks';
import { FakeClock, cutOff, refuses, says, serve, silent, until } from './fakes';
import type { Answering, Asked } from './fakes';

Object.assign(globalThis, {
  // A browser without locks: this tab cannot tell which others are open.
  navigator: {},
  sessionStorage: { getItem: () => 'this tab', setItem: () => undefined },
});

const start = documentOf([node('n', 'patterns.noise', { scale: 5 })]);
const theirs = {
  id: 'm1',
  name: 'Tin',
  projectId: 'p',
  modelId: 'demo-tile',
  revision: 9,
  document: documentOf([node('other', 'patterns.checks')]),
  authorName: 'Ilo',
  savedAt: '2026-01-01T00:00:00.000Z',
};

interface Desk {
  readonly parts: SavingParts & { readonly clock: FakeClock };
  readonly saver: Saver;
  readonly clashes: Clash[];
  readonly asked: Asked[];
  readonly edit: (scale: number) => void;
  readonly state: () => SaveState;
  readonly message: () => string;
  /** Lets time pass until the next save is due, and waits until it has ended. */
  readonly save: () => Promise<void>;
}

let open: Saver | null = null;
function desk(answer: Answering): Desk {
  const asked = serve(answer);
  const stores = createStores();
  const parts = { stores, client, clock: new FakeClock() };
  const clashes: Clash[] = [];
  const { openDocument, commit } = makeEditing(stores);
  openDocument({ document: start, materialId: 'm1', modelId: 'demo-tile', revision: 3 });
  const onClash = (clash: Clash): void => {
    clashes.push(clash);
  };
  const saver = new Saver({ userId: 'u1', onClash }, parts);
  open = saver;
  const state = (): SaveState => stores.saving.getState().saveState;
  return {
    parts,
    saver,
    clashes,
    asked,
    state,
    message: () => stores.saving.getState().saveMessage,
    edit: (scale) => {
      commit('Set scale', (document) => withScale(document, scale));
    },
    save: async () => {
      const due = parts.clock.next;
      if (due === null) throw new Error('nothing is to be saved');
      parts.clock.pass(due);
      await saver.idle;
    },
  };
}
const withScale = (document: NetworkDocument, scale: number): NetworkDocument => ({
  ...document,
  network: { ...document.network, nodes: [node('n', 'patterns.noise', { scale })] },
});
/** The scale that a save brings, whole or as what changed. */
function scaleSent({ body }: Asked): unknown {
  const sent = body as { document?: NetworkDocument; patch?: JsonPatch };
  if (sent.document) return sent.document.network.nodes[0]?.values['scale'];
  const values = (sent.patch ?? []).flatMap((step) => ('value' in step ? [step.value] : []));
  const whole = values.find((value) => typeof value === 'object') as NodeInstance | undefined;
  return whole ? whole.values['scale'] : values[0];
}
const baseSent = ({ body }: Asked): number => (body as { base: number }).base;
const taken: Answering = ({ body }) => says(200, { revision: (body as { base: number }).base + 1 });

beforeEach(async () => {
  await clear();
  queryClient().clear();
});
afterEach(() => {
  open?.close();
  open = null;
});

describe('saving', () => {
  it('sends the newest state a moment after the last edit, and says that it is saved', async () => {
    const { edit, save, state, asked, parts } = desk(taken);
    expect(state()).toBe('saved');
    edit(6);
    edit(7);
    expect(state()).toBe('unsaved');
    await save();
    expect(asked.map((each) => [each.method, each.path, baseSent(each), scaleSent(each)])).toEqual([
      ['PUT', '/api/materials/m1', 3, 7],
    ]);
    expect(state()).toBe('saved');
    expect(parts.stores.document.getState().revision).toBe(4);
    expect(parts.clock.next).toBeNull();
  });

  it('sends only what changed on top of what the server has', async () => {
    const { edit, save, asked } = desk(taken);
    edit(6);
    await save();
    edit(7);
    await save();
    expect(asked[1]).toMatchObject({
      method: 'PATCH',
      body: {
        base: 4,
        modelId: 'demo-tile',
        patch: [{ op: 'replace', path: '/network/nodes/0/values/scale', value: 7 }],
      },
    });
  });

  it('sends the whole document where a change does not fit', async () => {
    const { edit, save, asked, state } = desk((request) =>
      request.method === 'PATCH'
        ? says(422, { code: 'patch.unfit', message: 'It does not fit.', kept: '', action: '' })
        : taken(request),
    );
    edit(6);
    await save();
    edit(7);
    await save();
    expect(asked.map(({ method }) => method)).toEqual(['PUT', 'PATCH', 'PUT']);
    expect(asked.map(scaleSent)).toEqual([6, 7, 7]);
    expect(state()).toBe('saved');
  });

  it('goes on with what was edited while a save was under way', async () => {
    let more = (): void => undefined;
    const { edit, save, state, asked } = desk((request) => {
      more();
      return taken(request);
    });
    more = () => {
      more = () => undefined;
      edit(8);
    };
    edit(6);
    await save();
    expect(state()).toBe('unsaved');
    await save();
    expect(asked.map(scaleSent)).toEqual([6, 8]);
    expect(asked.map(baseSent)).toEqual([3, 4]);
    expect(state()).toBe('saved');
  });

  it.each([
    ['429, too many requests', () => refuses(429)],
    ['503, the server is busy', () => refuses(503)],
    ['500, the server failed', () => refuses(500)],
    ['an answer that is cut off', cutOff],
    ['no answer at all', silent],
  ])('keeps trying after %s, waiting longer each time, and then is saved', async (_, fails) => {
    let left = 3;
    const { edit, save, state, asked, parts, message } = desk((request) =>
      left-- > 0 ? fails() : taken(request),
    );
    edit(6);
    await save();
    expect(state()).toBe('offline');
    expect(message().length).toBeGreaterThan(20);
    const waits: (number | null)[] = [];
    while (state() !== 'saved' && waits.length < 9) {
      waits.push(parts.clock.next);
      await save();
    }
    expect(waits).toEqual([3000, 6000, 12_000]);
    // What was sent without an answer is sent again first; that it was saved is found by then.
    expect(asked.map(scaleSent).slice(0, 4)).toEqual([6, 6, 6, 6]);
  });

  it('gives up on a server that keeps failing, and tries anew with the next edit', async () => {
    let isBroken = true;
    const { edit, save, state } = desk((request) => (isBroken ? refuses(500) : taken(request)));
    edit(6);
    for (let k = 0; k < 4; k++) await save();
    expect(state()).toBe('refused');
    isBroken = false;
    edit(7);
    await save();
    expect(state()).toBe('saved');
  });

  it.each([
    [401, 'signed-out'],
    [413, 'refused'],
    [422, 'refused'],
  ] as const)(
    'on %i says %s, loses nothing, and saves with the next edit',
    async (status, said) => {
      let isRefusing = true;
      const { edit, save, state, message, asked, parts } = desk((request) =>
        isRefusing ? refuses(status) : taken(request),
      );
      edit(6);
      await save();
      expect([state(), parts.clock.next]).toEqual([said, null]);
      expect(message()).toContain(`Refused with ${String(status)}.`);
      isRefusing = false;
      edit(7);
      await save();
      expect([state(), asked.map(scaleSent)]).toEqual(['saved', [6, 7]]);
    },
  );

  it('tells of another version, and goes on with mine on top', async () => {
    let isClashing = true;
    const { edit, save, state, clashes, saver, asked, parts } = desk((request) =>
      isClashing ? refuses(409, theirs) : taken(request),
    );
    edit(6);
    await save();
    expect([state(), clashes.length, clashes[0]?.theirs.authorName]).toEqual(['clash', 1, 'Ilo']);
    edit(7);
    expect(state()).toBe('clash');
    await save();
    expect(asked).toHaveLength(1);
    isClashing = false;
    await saver.keepMine();
    expect([state(), asked.slice(1).map(baseSent), asked.slice(1).map(scaleSent)]).toEqual([
      'saved',
      [9],
      [7],
    ]);
    expect(parts.stores.document.getState().revision).toBe(10);
  });

  it('or with theirs, mine becoming a material of its own first', async () => {
    const { edit, save, saver, state, asked, parts } = desk((request) =>
      request.method === 'POST' ? says(201, { id: 'copy', revision: 1 }) : refuses(409, theirs),
    );
    expect(await saver.takeTheirs()).toBeNull();
    edit(6);
    await save();
    expect(await saver.takeTheirs()).toBe('copy');
    const [, copied] = asked;
    expect(copied && [copied.method, scaleSent(copied)]).toEqual(['POST', 6]);
    expect((copied?.body as { document: NetworkDocument }).document.name).toMatch(/my version/);
    expect(state()).toBe('saved');
    expect(parts.stores.document.getState()).toMatchObject({
      document: theirs.document,
      revision: 9,
      edits: 0,
    });
  });

  it('keeps both when theirs cannot be taken', async () => {
    const { edit, save, saver, state, parts } = desk((request) =>
      request.method === 'POST' ? refuses(503) : refuses(409, theirs),
    );
    edit(6);
    await save();
    await expect(saver.takeTheirs()).rejects.toThrow('Refused with 503.');
    expect([state(), saver.clash?.theirs.revision]).toEqual(['clash', 9]);
    expect(parts.stores.document.getState().document.network.nodes[0]?.values['scale']).toBe(6);
  });

  it('asks before a page is left whose work only this browser has', async () => {
    const listeners = new Map<string, (event: Event) => void>();
    Object.assign(globalThis, {
      window: {
        addEventListener: (type: string, listener: (event: Event) => void) => {
          listeners.set(type, listener);
        },
        removeEventListener: (type: string) => listeners.delete(type),
      },
    });
    try {
      const { edit, save, state, saver, parts } = desk(silent);
      let prevented = 0;
      const leaving = new Event('beforeunload');
      leaving.preventDefault = () => {
        prevented++;
      };
      listeners.get('beforeunload')?.(leaving);
      expect(prevented).toBe(0);
      edit(6);
      await save();
      listeners.get('beforeunload')?.(leaving);
      expect(prevented).toBe(1);
      // The network is there again: it is tried at once.
      serve(taken);
      listeners.get('online')?.(new Event('online'));
      expect(parts.clock.next).toBe(0);
      await save();
      expect(state()).toBe('saved');
      saver.close();
      expect(listeners.size).toBe(0);
    } finally {
      Reflect.deleteProperty(globalThis, 'window');
    }
  });
});

describe('opening a material', () => {
  const opened = { ...theirs, revision: 3, document: start };

  it('shows what the server has', async () => {
    serve(() => says(200, opened));
    const stores = createStores();
    const work = await openMaterial('m1', 'u1', { stores, client });
    expect(work).toMatchObject({ restored: false, more: 0, unanswered: null });
    expect(stores.document.getState()).toMatchObject({ document: start, revision: 3, edits: 0 });
    expect(stores.saving.getState().saveState).toBe('saved');
  });

  it('puts unsaved work of this browser on top, with what was sent without an answer', async () => {
    const draft = withScale(start, 8);
    const sent = { modelId: 'demo-tile', document: withScale(start, 7) };
    const of = { userId: 'u1', materialId: 'm1' };
    await keepDraft(of, { base: 2, modelId: 'demo-tile', document: draft, at: 1, sent });
    serve(() => says(200, opened));
    const stores = createStores();
    const work = await openMaterial('m1', 'u1', { stores, client });
    expect(work).toMatchObject({ restored: true, unanswered: sent });
    expect(stores.document.getState()).toMatchObject({ document: draft, revision: 2 });
    expect(stores.document.getState().past).toHaveLength(1);
    expect(stores.saving.getState().saveState).toBe('unsaved');
    const asked = serve(taken);
    const clock = new FakeClock();
    const given = { userId: 'u1', onClash: () => undefined, unanswered: work.unanswered };
    open = new Saver(given, { stores, client, clock });
    await open.flush();
    expect(asked.map((each) => [baseSent(each), scaleSent(each)])).toEqual([
      [2, 7],
      [3, 8],
    ]);
  });

  it('finds what changed since the draft was kept whole, and nothing of one before', async () => {
    const of = { userId: 'u1', materialId: 'm1' };
    const sent = null;
    const keep = (base: number, at: number, scale: number): Promise<void> =>
      keepDraft(of, { base, at, sent, modelId: 'demo-tile', document: withScale(start, scale) });
    await keep(2, 10, 8);
    await keep(2, 11, 9);
    await keep(2, 12, 10);
    expect((await takeDraft(of)).draft).toMatchObject({ at: 12, document: withScale(start, 10) });
    // Another revision below it: kept whole again, and what was changed before no longer counts.
    await keep(3, 13, 4);
    expect((await takeDraft(of)).draft).toMatchObject({ at: 13, document: withScale(start, 4) });
    await dropDraft(of);
    expect((await takeDraft(of)).draft).toBeNull();
    await keep(3, 14, 5);
    expect((await takeDraft(of)).draft).toMatchObject({ at: 14, document: withScale(start, 5) });
  });

  it('leaves a draft of a newer release where it is', async () => {
    const newer = { ...start, version: 99 } as unknown as NetworkDocument;
    const of = { userId: 'u1', materialId: 'm1' };
    await keepDraft(of, { base: 2, modelId: 'demo-tile', document: newer, at: 1, sent: null });
    serve(() => says(200, opened));
    const stores = createStores();
    expect(await openMaterial('m1', 'u1', { stores, client })).toMatchObject({ restored: false });
    expect(stores.document.getState().document).toEqual(start);
  });

  it('reads again what did not come through, and says what was refused', async () => {
    let left = 1;
    const asked = serve(() => (left-- > 0 ? refuses(503) : says(200, opened)));
    const stores = createStores();
    await openMaterial('m1', 'u1', { stores, client });
    await until(() => asked.length === 2);
    serve(() => refuses(404));
    await expect(openMaterial('m2', 'u1', { stores, client })).rejects.toThrow('Refused with 404.');
  });
});
