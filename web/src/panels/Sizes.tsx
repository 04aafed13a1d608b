/** The sizes of a part, typed and taken together. */

import type { SubmitEvent } from "react";

import { type Field, typedIn } from "../document/typed";
import { useTexts } from "../state/drafts";
import { Button, Entries } from "../ui/controls";

/** What is typed of a part, each under its name; `texts`: what is typed and not yet taken, by key. */
export function SizeFields(props: {
  fields: readonly { key: string; words: string; text: string; long?: boolean }[];
  texts: Readonly<Record<string, string>>;
  onPut: (key: string, text: string) => void;
}) {
  const typed = ({ key, text }: { key: string; text: string }) => ({
    value: props.texts[key] ?? text,
    spellCheck: false,
    "data-size": key,
    onChange: (event: { target: { value: string } }) => props.onPut(key, event.target.value),
  });
  return props.fields.map((field) => (
    <label key={field.key} style={field.long ? { gridColumn: "1 / -1" } : {}}>
      {field.words}
      {field.long ? <textarea {...typed(field)} /> : <input autoComplete="off" {...typed(field)} />}
    </label>
  ));
}

/** `of`: what they are the sizes of, among all such forms of a design. */
export function Sizes<T>(props: {
  of: string;
  label?: string;
  submit?: string;
  fields: Field<T>[];
  part: T;
  onWhy: (why: string | null) => void;
  onTake: (part: T) => Promise<boolean>;
}) {
  const { of, label = "Sizes", submit: words = "Take these sizes", fields, part, onWhy, onTake } = props;
  const [texts, setTexts] = useTexts(`${label} ${of}`);
  const submit = async (event: SubmitEvent) => {
    event.preventDefault();
    const next = typedIn(part, fields, texts);
    if (typeof next === "string") onWhy(next);
    else if (await onTake(next)) setTexts({});
  };
  const put = (key: string, text: string) => {
    onWhy(null);
    setTexts({ ...texts, [key]: text });
  };
  return (
    <Entries aria-label={label} onSubmit={(event) => void submit(event)}>
      <SizeFields fields={fields} texts={texts} onPut={put} />
      <Button type="submit" className="main" isDisabled={Object.keys(texts).length === 0}>
        {words}
      </Button>
    </Entries>
  );
}
