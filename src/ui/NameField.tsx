interface Props {
  readonly label: string;
  /** What the button does, in a word. */
  readonly act: string;
  readonly name?: string;
  readonly longest: number;
  readonly className?: string;
  /** null: nothing was named. */
  readonly onName: (name: string | null) => void;
}

/** A field for the name of a thing, all of it selected; Escape leaves it. */
export function NameField({ label, act, name = '', longest, className = 'py-1', onName }: Props) {
  return (
    <form
      className={`flex gap-1 ${className}`}
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
        maxLength={longest}
        className="min-w-0 flex-1 border border-line bg-ground px-1.5"
        onFocus={(event) => {
          event.currentTarget.select();
        }}
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
