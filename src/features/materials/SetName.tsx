interface Props {
  readonly label: string;
  /** What the button does, in a word. */
  readonly act: string;
  readonly name?: string;
  /** null: nothing was named. */
  readonly onName: (name: string | null) => void;
}

/** A field for the name of a set; Escape leaves it. */
export function SetName({ label, act, name = '', onName }: Props) {
  return (
    <form
      className="flex gap-1 py-1"
      onSubmit={(event) => {
        event.preventDefault();
        const given = new FormData(event.currentTarget).get('name');
        onName(typeof given === 'string' && given.trim() ? given.trim() : null);
      }}
    >
      <input
        autoFocus
        name="name"
        aria-label={label}
        defaultValue={name}
        maxLength={80}
        className="min-w-0 flex-1 border border-line bg-ground px-1.5"
        onKeyDown={(event) => {
          if (event.key === 'Escape') onName(null);
        }}
      />
      <button type="submit" className="border border-line bg-raised px-2">
        {act}
      </button>
    </form>
  );
}
