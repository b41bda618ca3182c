interface Props {
  /** From 0 to 1. */
  readonly share: number;
  readonly label: string;
  readonly className?: string;
}

/** How far something is, with what is being done. */
export function Progress({ share, label, className = '' }: Props) {
  const percent = Math.round(share * 100);
  return (
    <div className={className}>
      <div className="flex justify-between text-[12px] text-soft">
        <span role="status">{label}</span>
        <span className="figures">{percent} %</span>
      </div>
      <div
        role="progressbar"
        aria-label={label}
        aria-valuemin={0}
        aria-valuemax={100}
        aria-valuenow={percent}
        className="mt-0.5 h-1 bg-line"
      >
        <div className="h-full bg-ink" style={{ width: `${String(percent)}%` }} />
      </div>
    </div>
  );
}
