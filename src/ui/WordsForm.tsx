'use client';
import { useState } from 'react';
import { Button } from './Button';
import { FIELD, Field } from './Field';

/** What a thing of the library is called and told by. */
interface Words {
  readonly name: string;
  readonly description: string;
  readonly tags: readonly string[];
}
interface Props {
  readonly words: Words;
  readonly onSend: (words: Words, told: string) => void;
}

/** Name, description and tags of a thing of the library. */
export function WordsForm({ words, onSend }: Props) {
  const [name, setName] = useState(words.name);
  const [description, setDescription] = useState(words.description);
  const [tags, setTags] = useState(words.tags.join(', '));
  return (
    <form
      className="flex flex-col gap-2"
      onSubmit={(event) => {
        event.preventDefault();
        const list = tags
          .split(',')
          .map((tag) => tag.trim())
          .filter(Boolean);
        onSend({ name: name.trim(), description, tags: list }, `Changed ${name.trim()}.`);
      }}
    >
      <Field label="Name" fault={undefined}>
        <input
          className={FIELD}
          value={name}
          onChange={(event) => {
            setName(event.target.value);
          }}
        />
      </Field>
      <Field label="Description" fault={undefined}>
        <textarea
          rows={3}
          className={FIELD}
          value={description}
          onChange={(event) => {
            setDescription(event.target.value);
          }}
        />
      </Field>
      <Field label="Tags, with commas between" fault={undefined}>
        <input
          className={FIELD}
          value={tags}
          onChange={(event) => {
            setTags(event.target.value);
          }}
        />
      </Field>
      <Button type="submit" className="self-start">
        Save the words
      </Button>
    </form>
  );
}
