import Image from 'next/image';
import type { BakedFile } from './use-bake';

const sizeText = (bytes: number): string =>
  bytes > 1048576 ? `${(bytes / 1048576).toFixed(1)} MB` : `${String(Math.ceil(bytes / 1024))} kB`;
const endingOf = (name: string): string => name.slice(name.lastIndexOf('.') + 1).toUpperCase();

/** The files of a bake, each to be downloaded; maps of one value in a list of their own. */
export function BakeResults({ results }: { readonly results: readonly BakedFile[] }) {
  const [varied, constant] = [
    results.filter((each) => each.constant === null),
    results.filter((each) => each.constant !== null),
  ];
  return (
    <>
      <ul className="grid grid-cols-3 gap-3">
        {varied.map((result) => (
          <li key={result.file.name}>
            <FilePicture result={result} />
            <FileLink result={result} />
            <span className="figures text-[11px] text-soft">
              {sizeText(result.file.bytes.length)}
            </span>
          </li>
        ))}
      </ul>
      {constant.length > 0 ? (
        <section className="mt-3 border-t border-line pt-2">
          <h3 className="font-semibold">The same everywhere</h3>
          <p className="mb-1 text-soft">One value does for each of these; take them if wished.</p>
          <ul>
            {constant.map((result) => (
              <li key={result.file.name} className="flex items-baseline gap-2">
                <span className="figures w-[42px] shrink-0 text-right">
                  {result.constant?.toFixed(2)}
                </span>
                <FileLink result={result} />
              </li>
            ))}
          </ul>
        </section>
      ) : null}
    </>
  );
}

interface ResultProps {
  readonly result: BakedFile;
}

function FilePicture({ result: { file, url } }: ResultProps) {
  return file.mediaType.startsWith('image/') ? (
    // Object URLs of files made in this page: there is nothing for an image service to improve.
    <Image
      unoptimized
      src={url}
      alt={file.name}
      width={124}
      height={124}
      className="mb-1 h-[124px] w-[124px] border border-line bg-stage"
    />
  ) : (
    <div className="mb-1 grid h-[124px] w-[124px] place-items-center border border-line bg-stage">
      {endingOf(file.name)}
    </div>
  );
}

function FileLink({ result: { file, url } }: ResultProps) {
  return (
    <a href={url} download={file.name} className="block truncate underline" title={file.name}>
      {file.name}
    </a>
  );
}
