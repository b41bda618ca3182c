'use client';
import { useRef, useState } from 'react';
import { findNodeDefinition } from '@/core/compile/catalogue';
import { setValue } from '@/core/edit/nodes';
import type { ImageValue, NodeInstance } from '@/core/graph/document';
import { bringImage, listStudioImages } from '@/state/bring-image';
import { Button } from '@/ui/Button';
import { Choose } from '@/ui/Choose';
import { tellProblem } from '@/ui/tell-problem';
import { commit } from '@/state/editing';
import { ExposeButton } from './ExposeButton';
import { FlatImage } from './FlatImage';
import { useResults } from '@/state/use-stores';

interface Props {
  readonly node: NodeInstance;
  readonly input: string;
  readonly title: string;
  readonly path: string;
  readonly value: ImageValue;
  /** Makes it a dial of the open group; null where there is none. */
  readonly onExpose: (() => void) | null;
}
const NONE = 'none';

/** An image input: which file, what it holds, how it is read; takes a new one by button or drop. */
export function ImageField({ node, input, title, path, value, onExpose }: Props) {
  const put = (next: ImageValue): void => {
    commit('Chose an image', (document, board) => setValue(document, board, node.id, input, next));
  };
  const { take, isBusy } = useTakenFile(put);
  const inputs = findNodeDefinition(node)?.inputs ?? {};
  // A node that reads rows of a strip has a row in place of coordinates.
  const isStrip = inputs['row'] !== undefined && inputs['value'] !== undefined;
  const vector = Object.keys(inputs).find((id) => inputs[id]?.kind === 'vector');
  const coordinates = isStrip ? 'value' : vector;
  return (
    <div
      className="col-span-full flex flex-wrap items-center gap-2 py-1 text-[12px]"
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
      <FileButton title={title} isBusy={isBusy} onTake={(file) => void take(file)} />
      <StudioImages value={value} onChoose={put} />
      <ImageState path={path} value={value} />
      {onExpose ? <ExposeButton title={title} onExpose={onExpose} /> : null}
      {value.image && coordinates !== undefined ? (
        <FlatImage {...{ node, value, coordinates, isStrip }} />
      ) : null}
    </div>
  );
}

/** An image that is chosen by its file or from those of the studio. */
export function ImageChoice({
  title,
  value,
  onChoose,
}: Pick<Props, 'title' | 'value'> & { readonly onChoose: (image: ImageValue) => void }) {
  const { take, isBusy } = useTakenFile(onChoose);
  return (
    <span className="flex flex-wrap items-center gap-2 text-[12px]">
      <span className="max-w-[180px] truncate font-semibold" title={value.name}>
        {value.image ? value.name : 'none yet'}
      </span>
      <FileButton title={title} isBusy={isBusy} onTake={(file) => void take(file)} />
      <StudioImages value={value} onChoose={onChoose} />
    </span>
  );
}

/** Brings a file into the studio and puts it to use. */
function useTakenFile(put: (image: ImageValue) => void) {
  const [isBusy, setBusy] = useState(false);
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
  return { take, isBusy };
}

function FileButton({
  title,
  isBusy,
  onTake,
}: {
  readonly title: string;
  readonly isBusy: boolean;
  readonly onTake: (file: File | undefined) => void;
}) {
  const picker = useRef<HTMLInputElement>(null);
  return (
    <>
      <Button
        onClick={() => {
          picker.current?.click();
        }}
        disabled={isBusy}
      >
        {isBusy ? 'Reading …' : 'Choose a file'}
      </Button>
      <input
        ref={picker}
        type="file"
        hidden
        aria-label={`File for ${title}`}
        accept=".png,.jpg,.jpeg,.exr,.hdr,image/png,image/jpeg"
        onChange={(event) => {
          onTake(event.target.files?.[0]);
          event.target.value = '';
        }}
      />
    </>
  );
}

/** Images the studio has already; they are asked for when somebody wants to see them. */
function StudioImages({
  value,
  onChoose,
}: {
  readonly value: ImageValue;
  readonly onChoose: (image: ImageValue) => void;
}) {
  const [known, setKnown] = useState<readonly { hash: string; name: string }[] | null>(null);
  if (known === null)
    return (
      <Button
        look="quiet"
        onClick={() => {
          listStudioImages().then(setKnown, tellProblem);
        }}
      >
        From the studio
      </Button>
    );
  return (
    <Choose
      label="Image of the studio"
      value={value.image || NONE}
      onChange={(hash) => {
        const chosen = known.find((each) => each.hash === hash);
        onChoose(chosen ? { image: chosen.hash, name: chosen.name } : { image: '', name: '' });
      }}
      items={[
        { value: NONE, title: 'None' },
        ...known.map((each) => ({ value: each.hash, title: each.name })),
      ]}
    />
  );
}

const sizeText = (width: number, height: number): string => `${String(width)} × ${String(height)}`;
/** What is known of the file, and as what it is read. */
function ImageState({ path, value }: Pick<Props, 'path' | 'value'>) {
  const state = useResults((results) => results.images.get(value.image));
  const reading = useResults((results) => results.readings.get(path));
  const facts = state?.state === 'ready' ? state.facts : null;
  return (
    <>
      {facts ? (
        <span className="figures text-[11px] text-soft">
          {facts.format}, {facts.bits} bit, {sizeText(facts.width, facts.height)}
          {facts.readWidth === facts.width
            ? ''
            : `, read at ${sizeText(facts.readWidth, facts.readHeight)}`}
        </span>
      ) : null}
      {state?.state === 'loading' ? <span className="text-soft">loading …</span> : null}
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
    </>
  );
}
