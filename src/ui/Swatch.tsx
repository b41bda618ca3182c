import Image from 'next/image';

/** A stored picture by its content hash; an empty frame where there is none yet. */
export function Swatch({
  hash,
  label,
  className = 'aspect-square w-full',
}: {
  readonly hash: string | null;
  readonly label: string;
  readonly className?: string;
}) {
  if (!hash)
    return (
      <div className={`${className} grid place-items-center bg-stage text-[11px] text-soft`}>
        no picture yet
      </div>
    );
  // Pictures need the session cookie and are stored at the size they are shown: nothing is left to
  // optimise.
  return (
    <Image
      unoptimized
      src={`/api/blobs/${hash}`}
      alt={label}
      width={192}
      height={192}
      className={`${className} bg-stage object-contain`}
    />
  );
}
