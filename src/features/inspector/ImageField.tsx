'use client';
import { useRef, useState } from 'react';
import { setValue } from '@/core/edit/nodes';
import type { ImageValue, NodeInstance } from '@/core/graph/document';
import { bringImage, listStudioImages } from '@/state/bring-image';
import { Button } from '@/ui/Button';
import { Choose } from '@/ui/Choose';
import { tellProblem } from '@/ui/tell-problem';
import { commit } from '@/state/editing';
import { useResults } from '@/state/use-stores';

interface Props {
  readonly node: NodeInstance;
  readonly input: string;
  readonly title: string;
  readonly path: string;
  readonly value: ImageValue;
}
const NONE = 'none';

/** An image input: which file, what it holds, how it is read; takes a new one by button or drop. */
export function ImageField({ node, input, title, path, value }: Props) {
  const picker = useRef<HTMLInputElement>(null);
  const [busy, setBusy] = useState(false);
  const [known, setKnown] = useState<readonly { hash: string; name: string }[] | null>(null);
  const state = useResults((editor) => editor.images.get(value.image));
  const reading = useResults((editor) => editor.readings.get(path));
  const put = (next: ImageValue): void => {
    commit('Chose an image', (document, board) => setValue(document, board, node.id, input, next));
  };
  const take = async (file: File | undefined): Promise<void> => {
    if (!file) return;
    setBusy(true);
    try {
      put(await bringImage(file));
    } catch (error) {
      tellProblem(error);
    } finally {
      setBusy(false);
    }
  };
  const facts = state?.state === 'ready' ? state.facts : null;
  const size = (width: number, height: number): string => `${String(width)} × ${String(height)}`;
  return (
    <div
      className="col-span-2 flex flex-wrap items-center gap-2 py-1 text-[12px]"
      data-testid={`image-${input}`}
      onDragOver={(event) => {
        event.preventDefault();
      }}
      onDrop={(event) => {
        event.preventDefault();
        event.stopPropagation();
        void take(event.dataTransfer.files[0]);
      }}
    >
      <span className="w-[92px] text-soft">{title}</span>
      <span className="max-w-[220px] truncate font-semibold" title={value.name}>
        {value.image ? value.name : 'none yet'}
      </span>
      <Button
        onClick={() => {
          picker.current?.click();
        }}
        disabled={busy}
      >
        {busy ? 'Reading …' : 'Choose a file'}
      </Button>
      <input
        ref={picker}
        type="file"
        hidden
        aria-label={`File for ${title}`}
        accept=".png,.jpg,.jpeg,.exr,.hdr,image/png,image/jpeg"
        onChange={(event) => {
          void take(event.target.files?.[0]);
          event.target.value = '';
        }}
      />
      {known === null ? (
        <Button
          look="quiet"
          onClick={() => {
            listStudioImages().then(setKnown, tellProblem);
          }}
        >
          From the studio
        </Button>
      ) : (
        <Choose
          label="Image of the studio"
          value={value.image || NONE}
          onChange={(hash) => {
            const chosen = known.find((each) => each.hash === hash);
            put(chosen ? { image: chosen.hash, name: chosen.name } : { image: '', name: '' });
          }}
          items={[
            { value: NONE, title: 'None' },
            ...known.map((each) => ({ value: each.hash, title: each.name })),
          ]}
        />
      )}
      {facts ? (
        <span className="figures text-[11px] text-soft">
          {facts.format}, {facts.bits} bit, {size(facts.width, facts.height)}
          {facts.readWidth === facts.width
            ? ''
            : `, read at ${size(facts.readWidth, facts.readHeight)}`}
        </span>
      ) : null}
      {state?.state === 'loading' ? <span className="text-soft">coming …</span> : null}
      {state?.state === 'failed' ? (
        <span role="alert" className="text-madder">
          {state.message} Grey stands in for it.
        </span>
      ) : null}
      {value.image && reading ? (
        <span
          className="rounded-[2px] border border-line px-1 text-[11px]"
          title="By what it is wired into, unless you say"
          data-testid="image-reading"
        >
          read as {reading === 'colour' ? 'colour (sRGB)' : 'data'}
        </span>
      ) : null}
    </div>
  );
}
