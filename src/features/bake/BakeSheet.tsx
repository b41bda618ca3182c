'use client';
import { useState } from 'react';
import { EXPORT_FORMATS } from '@/core/handoff/formats';
import type { ExportName, HandoffRequest } from '@/core/handoff/formats';
import type { Evaluation } from '@/state/evaluation';
import { Button } from '@/ui/Button';
import { Choose } from '@/ui/Choose';
import { ProblemNote } from '@/ui/ProblemNote';
import { Progress } from '@/ui/Progress';
import { Sheet } from '@/ui/Sheet';
import { Tick } from '@/ui/Tick';
import { BakeResults } from './BakeResults';
import { useBake } from './use-bake';

const SIZES = [512, 1024, 2048];

/** Bakes the material's maps and offers them, and the model with them, for download. */
export function BakeSheet({
  open,
  onClose,
  evaluation,
}: {
  readonly open: boolean;
  readonly onClose: () => void;
  readonly evaluation: Evaluation;
}) {
  const [request, setRequest] = useState<HandoffRequest>({
    size: 1024,
    depth: 8,
    formats: EXPORT_FORMATS.map(([name]) => name),
  });
  const { progress, results, message, problem, run, stop } = useBake(evaluation);
  return (
    <Sheet
      docks
      open={open}
      onClose={onClose}
      title="Bake maps"
      description="The finished surface in files, on the model of this material."
    >
      <BakeRequestFields request={request} onChange={setRequest} />
      <div className="mb-3">
        {progress ? (
          <Button onClick={stop}>Stop</Button>
        ) : (
          <Button
            look="strong"
            disabled={request.formats.length === 0}
            onClick={() => {
              void run(request);
            }}
          >
            Bake
          </Button>
        )}
      </div>
      {problem ? <ProblemNote problem={problem} className="mb-3" /> : null}
      {progress ? <Progress {...progress} /> : null}
      {message ? (
        <p role="status" className="mb-2" data-testid="bake-message">
          {message}
        </p>
      ) : null}
      <BakeResults results={results} />
    </Sheet>
  );
}

function BakeRequestFields({
  request,
  onChange,
}: {
  readonly request: HandoffRequest;
  readonly onChange: (request: HandoffRequest) => void;
}) {
  const { formats } = request;
  const toggle = (name: ExportName, isOn: boolean): void => {
    const chosen = EXPORT_FORMATS.map(([each]) => each).filter((each) =>
      each === name ? isOn : formats.includes(each),
    );
    onChange({ ...request, formats: chosen });
  };
  return (
    <div className="mb-3 flex flex-wrap items-center gap-3">
      <Choose
        label="Size"
        value={String(request.size)}
        onChange={(size) => {
          onChange({ ...request, size: Number(size) });
        }}
        items={SIZES.map((each) => ({
          value: String(each),
          title: `${String(each)} × ${String(each)}`,
        }))}
      />
      <Choose
        label="Depth"
        value={String(request.depth)}
        onChange={(depth) => {
          onChange({ ...request, depth: depth === '16' ? 16 : 8 });
        }}
        items={[
          { value: '8', title: '8 bit' },
          { value: '16', title: '16 bit' },
        ]}
      />
      {EXPORT_FORMATS.map(([name, { title, help }]) => (
        <Tick
          key={name}
          title={title}
          help={help}
          isOn={formats.includes(name)}
          onChange={(isOn) => {
            toggle(name, isOn);
          }}
        />
      ))}
    </div>
  );
}
