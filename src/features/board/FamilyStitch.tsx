/** A small stitched mark per family of nodes: told by its stitches, not by a colour. */
const STITCHES: Record<string, string> = {
  model: 'M1 9L5 1L9 9',
  patterns: 'M1 3H3M5 3H7M2 6H4M6 6H8M1 9H3M5 9H7',
  gradients: 'M1 9V7M4 9V5M7 9V2',
  ranges: 'M1 8H4L6 2H9',
  math: 'M1 5H9M5 1V9',
  masks: 'M1 5C3 1 7 1 9 5C7 9 3 9 1 5',
  colour: 'M1 2L9 8M1 8L9 2',
  surface: 'M1 3H9M1 7H9M3 1V9M7 1V9',
  constants: 'M5 4V6',
  coordinates: 'M2 1V8H9M5 1V3M9 5H7',
  optics: 'M1 2L5 6L9 2M5 6V9',
  group: 'M1 1H4M6 1H9M1 9H4M6 9H9M1 3V7M9 3V7',
};

export function FamilyStitch({ family }: { readonly family: string }) {
  return (
    <svg
      width="10"
      height="10"
      viewBox="0 0 10 10"
      className="shrink-0 text-soft"
      aria-label={family}
    >
      <path
        d={STITCHES[family] ?? ''}
        stroke="currentColor"
        strokeWidth="1.2"
        fill="none"
        strokeLinecap="round"
      />
    </svg>
  );
}
