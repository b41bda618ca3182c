'use client';
import { findNode } from '@/core/compile/uniforms';
import { findGroupDefinition } from '@/core/compile/catalogue';
import { leaveTo } from '@/state/editing';
import { useDocument, useView } from '@/state/use-stores';
import { useSteadySelector } from '@/ui/use-steady';

/** Where the board shown lies: the material, then each opened group. */
export function Trail() {
  const path = useView((state) => state.path);
  const material = useDocument((state) => state.document.name);
  const names = useDocument(
    useSteadySelector(({ document }) =>
      path.map((_, k) => {
        const node = findNode(document, path.slice(0, k + 1));
        return (node && findGroupDefinition(document, node)?.name) ?? 'group';
      }),
    ),
  );
  if (path.length === 0) return null;
  return (
    <nav
      aria-label="Opened groups"
      className="flex items-center gap-2 border-b border-line bg-panel px-2 py-0.5 text-[12px]"
    >
      <button
        type="button"
        className="press underline"
        onClick={() => {
          leaveTo(0);
        }}
      >
        {material}
      </button>
      {names.map((name, k) => (
        <span key={path.slice(0, k + 1).join('/')}>
          ›{' '}
          {k === names.length - 1 ? (
            <strong>{name}</strong>
          ) : (
            <button
              type="button"
              className="press underline"
              onClick={() => {
                leaveTo(k + 1);
              }}
            >
              {name}
            </button>
          )}
        </span>
      ))}
    </nav>
  );
}
