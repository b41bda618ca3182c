interface Props {
  readonly title: string;
  readonly onExpose: () => void;
}

/** Makes what stands beside it a dial of the open group. */
export function ExposeButton({ title, onExpose }: Props) {
  return (
    <button
      type="button"
      aria-label={`Make ${title} a dial`}
      title="Make it a dial"
      className="press on-row rounded-[2px] border border-seam text-[11px]"
      onClick={onExpose}
    >
      ⊶
    </button>
  );
}
