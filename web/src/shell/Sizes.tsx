/** The sizes of a part, typed and taken together. */

import { type SubmitEvent, useState } from "react";

import { type Field, typedIn } from "../document/typed";
import { Button, Entries } from "../ui/controls";

export function Sizes<T>(props: {
  label?: string;
  submit?: string;
  fields: Field<T>[];
  part: T;
  onWhy: (why: string | null) => void;
  onTake: (part: T) => Promise<boolean>;
}) {
  const { label = "Sizes", submit: words = "Take these sizes", fields, part, onWhy, onTake } = props;
  const [texts, setTexts] = useState<Record<string, string>>({});
  const submit = async (event: SubmitEvent) => {
    event.preventDefault();
    const next = typedIn(part, fields, texts);
    if (typeof next === "string") onWhy(next);
    else if (await onTake(next)) setTexts({});
  };
  const typed = (field: Field<T>) => ({
    value: texts[field.key] ?? field.text,
    spellCheck: false,
    "data-size": field.key,
    onChange: (event: { target: { value: string } }) => {
      onWhy(null);
      setTexts({ ...texts, [field.key]: event.target.value });
    },
  });
  return (
    <Entries aria-label={label} onSubmit={(event) => void submit(event)}>
      {fields.map((field) => (
        <label key={field.key} style={field.long ? { gridColumn: "1 / -1" } : {}}>
          {field.words}
          {field.long ? <textarea {...typed(field)} /> : <input autoComplete="off" {...typed(field)} />}
        </label>
      ))}
      <Button type="submit" className="main" isDisabled={Object.keys(texts).length === 0}>
        {words}
      </Button>
    </Entries>
  );
}
