import { own } from '@/core/base/own';
import type { ReleaseView } from '@/contract/library';
import { SHEET_COLUMNS, placeOnSheet } from '@/core/evaluate/proof-sheet';
import type { ProofSheet } from '@/core/evaluate/proof-sheet';
import { emptyDocument } from '@/core/graph/document';
import { GroupPapers } from '@/ui/papers/GroupPapers';
import { SaveSheet } from './SaveSheet';

/** Side of a picture as it is shown, pixels. */
const SIDE = 88;

/** The papers of a release, with the proof sheet that was kept with it. */
export function ReleasePapers({ release }: { readonly release: ReleaseView }) {
  const { groups, sheet, sheetHash, withdrawnAt } = release;
  const group = own(groups.definitions, groups.root);
  if (!group) return null;
  const document = { ...emptyDocument(group.name), groups: groups.definitions };
  const hash = withdrawnAt === null ? sheetHash : null;
  return (
    <section className="mt-5" data-testid="release-papers">
      <div className="flex flex-wrap items-center gap-3">
        <h2 className="text-[15px] font-semibold">Papers</h2>
        {hash && sheet ? (
          <SaveSheet name={group.name} version={release.version} sheet={sheet} hash={hash} />
        ) : (
          <span className="text-[12px] text-soft">
            {group.dials.length > 0 ? 'The proof sheet is being made; come back in a minute.' : ''}
          </span>
        )}
      </div>
      <GroupPapers
        document={document}
        group={group}
        sheet={hash ? sheet : null}
        draw={(index, label) =>
          hash && sheet ? <Cut hash={hash} sheet={sheet} index={index} label={label} /> : null
        }
      />
    </section>
  );
}

interface CutProps {
  readonly hash: string;
  readonly sheet: ProofSheet;
  readonly index: number;
  readonly label: string;
}

/** One picture, cut out of the one that holds all of a sheet. */
function Cut({ hash, sheet, index, label }: CutProps) {
  const { x, y } = placeOnSheet(index, SIDE);
  const columns = Math.min(sheet.shares.length, SHEET_COLUMNS);
  return (
    <span
      role="img"
      aria-label={label}
      className="block h-full w-full"
      style={{
        backgroundImage: `url(/api/blobs/${hash})`,
        backgroundPosition: `${String(-x)}px ${String(-y)}px`,
        backgroundSize: `${String(columns * SIDE)}px auto`,
      }}
    />
  );
}
