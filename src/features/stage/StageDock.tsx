import { X } from 'lucide-react';
import { useEffect } from 'react';
import type { ReactNode } from 'react';
import { stores } from '@/state/stores';
import type { ViewState } from '@/state/stores';
import { useView } from '@/state/use-stores';
import { Button } from '@/ui/Button';
import { IconButton } from '@/ui/IconButton';

type Panel = NonNullable<ViewState['stagePanel']>;
const TITLES: Readonly<Record<Panel, string>> = {
  lights: 'Lights',
  companions: 'Models on the stage',
  references: 'References',
};
const openerId = (panel: Panel): string => `stage-opens-${panel}`;

/** A word beside an icon, where the stage is wide enough for it. */
export function Word({ children }: { readonly children: ReactNode }) {
  return <span className="hidden @min-[540px]:inline">{children}</span>;
}

/** Opens a panel below the stage, or closes it. */
export function DockButton({
  panel,
  word,
  icon,
}: {
  readonly panel: Panel;
  /** What stands beside the icon. */
  readonly word: string;
  readonly icon: ReactNode;
}) {
  const isOpen = useView((state) => state.stagePanel === panel);
  return (
    <Button
      id={openerId(panel)}
      look="quiet"
      className={`min-h-[24px] min-w-[24px] !px-1 ${isOpen ? '!text-weld' : ''}`}
      aria-label={TITLES[panel]}
      aria-expanded={isOpen}
      title={TITLES[panel]}
      onClick={() => {
        stores.view.setState({ stagePanel: isOpen ? null : panel });
      }}
    >
      {icon} <Word>{word}</Word>
    </Button>
  );
}

function close(panel: Panel): void {
  stores.view.setState({ stagePanel: null });
  document.getElementById(openerId(panel))?.focus();
}

/** Escape closes the panel from within it, and where nothing else has the focus. */
function useEscape(panel: Panel, isOpen: boolean): void {
  useEffect(() => {
    if (!isOpen) return;
    const onKey = (event: KeyboardEvent): void => {
      if (event.key !== 'Escape' || event.defaultPrevented) return;
      if (event.target === document.body) close(panel);
    };
    document.addEventListener('keydown', onKey);
    return () => {
      document.removeEventListener('keydown', onKey);
    };
  }, [panel, isOpen]);
}

/** A panel below the stage, which stays in sight and at hand while it is open. */
export function StageDock({
  panel,
  children,
}: {
  readonly panel: Panel;
  readonly children: ReactNode;
}) {
  const isOpen = useView((state) => state.stagePanel === panel);
  useEscape(panel, isOpen);
  if (!isOpen) return null;
  return (
    <section
      aria-label={TITLES[panel]}
      className={
        'scaled relative max-h-[45%] shrink-0 overflow-y-auto border-t border-seam bg-panel ' +
        'p-2 text-[12px] text-ink'
      }
      onKeyDown={(event) => {
        if (event.key === 'Escape' && !event.defaultPrevented) close(panel);
        event.stopPropagation();
      }}
    >
      <span className="absolute top-1 right-1">
        <IconButton
          name={`Close ${TITLES[panel]}`}
          onClick={() => {
            close(panel);
          }}
        >
          <X size={12} />
        </IconButton>
      </span>
      {children}
    </section>
  );
}
