import Image from 'next/image';
import type { BakedFile } from './use-bake';

const sizeText = (bytes: number): string =>
  bytes > 1048576 ? `${(bytes / 1048576).toFixed(1)} MB` : `${String(Math.ceil(bytes / 1024))} kB`;
const endingOf = (name: string): string => name.slice(name.lastIndexOf('.') + 1).toUpperCase();

/** The files of a bake, each to be downloaded. */
export function BakeResults({ results }: { readonly results: readonly BakedFile[] }) {
  return (
    <ul className="grid grid-cols-3 gap-3">
      {results.map(({ file, url, constant }) => (
        <li key={file.name}>
          {file.mediaType.startsWith('image/') ? (
            // Object URLs of files made in this page: there is nothing for an image service to
            // improve.
            <Image
              unoptimized
              src={url}
              alt={file.name}
              width={124}
              height={124}
              className="mb-1 h-[124px] w-[124px] border border-line bg-stage"
            />
          ) : (
            <div
              className={
                'mb-1 grid h-[124px] w-[124px] place-items-center border border-line bg-stage'
              }
            >
              {endingOf(file.name)}
            </div>
          )}
          <a href={url} download={file.name} className="block truncate underline" title={file.name}>
            {file.name}
          </a>
          <span className="figures text-[11px] text-soft">
            {sizeText(file.bytes.length)}
            {constant === null ? '' : `, ${constant.toFixed(2)} everywhere`}
          </span>
        </li>
      ))}
    </ul>
  );
}
