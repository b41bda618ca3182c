interface Props {
  readonly racks: readonly { readonly id: string; readonly name: string }[];
  /** The id of a rack; the empty text for all. */
  readonly value: string;
  readonly onChange: (rack: string) => void;
}

/** Which rack is looked at, or all of them. */
export function RackChoice({ racks, value, onChange }: Props) {
  return [{ id: '', name: 'All racks' }, ...racks].map((each) => (
    <button
      key={each.id}
      type="button"
      aria-pressed={value === each.id}
      className={
        'min-h-[24px] px-1 ' + (value === each.id ? 'border-b-2 border-weld' : 'text-soft')
      }
      onClick={() => {
        onChange(each.id);
      }}
    >
      {each.name}
    </button>
  ));
}
