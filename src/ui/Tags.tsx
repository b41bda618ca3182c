/** Words a thing of the library is found by. */
export function Tags({ tags }: { readonly tags: readonly string[] }) {
  return (
    <ul className="mt-auto mb-1 flex flex-wrap gap-1 pt-1 text-[11px] text-soft">
      {tags.map((tag) => (
        <li key={tag} className="border border-line px-1">
          {tag}
        </li>
      ))}
    </ul>
  );
}
