/** Rules that bind this truck: a class's book, law, an insurer; each held against every design, or looked at by hand. */

import { type SubmitEvent, useState } from "react";
import styled from "styled-components";

import type { Schemas } from "../../api/client";
import { figureOf, theRegister } from "../../api/register";
import { type Document, mountLabel, spotsOf, words } from "../../document/document";
import { freeId } from "../../document/ids";
import { bandWords, QUANTITIES, readQuantity } from "../../figures/readings";
import { useDraft } from "../../state/drafts";
import { type TruckDocument, useTruck } from "../../state/truck";
import { Button, Choice, Toggle, Trouble } from "../../ui/controls";
import type { Units } from "../../units/tape";
import { Form } from "./ReadingForm";

export type Rule = NonNullable<Schemas["Truck"]["rules"]>[number];
type Kind = Rule["kind"];

const List = styled.ul`
  list-style: none;
  margin: 0 0 0.5rem;
  padding: 0;
  li {
    display: flex;
    gap: 0.5rem;
    align-items: center;
    border-bottom: 1px solid var(--hair);
    padding: 3px 0;
  }
  .what {
    flex: 1;
  }
`;

interface Shown {
  truck: TruckDocument;
  document: Document;
  units: Units;
}

export function Rules({ truck, document, units }: Shown) {
  const edit = useTruck((s) => s.edit);
  const rules = truck.rules;
  const put = (next: Rule[]) => void edit({ ...truck, rules: next });
  return (
    <section aria-label="Rules that bind">
      <h2>Rules that bind</h2>
      <p className="quiet">
        {rules.length === 0
          ? "None are listed: limits of a class’s book, of local law, of an insurer. Each is held against every design of this truck, beside all bands."
          : "Held against every design of this truck; no band softens them."}
      </p>
      <List aria-label="Rules">
        {rules.map((rule) => (
          <li key={rule.id} data-rule={rule.id}>
            <span className="what">
              {rule.words}
              <span className="quiet">, {saidOf(rule, document, units)}</span>
            </span>
            {rule.kind === "hand" && (
              <Toggle
                aria-label={`${rule.checked ? "Checked" : "Not checked"}: ${rule.words}`}
                isSelected={rule.checked}
                onChange={(checked) =>
                  put(rules.map((one) => (one.id === rule.id ? { ...rule, checked } : one)))
                }
              >
                {rule.checked ? "Checked" : "Not checked"}
              </Toggle>
            )}
            <Button
              aria-label={`Delete ${rule.words}`}
              onPress={() => put(rules.filter((one) => one.id !== rule.id))}
            >
              Delete
            </Button>
          </li>
        ))}
      </List>
      <RuleForm {...{ truck, document, units }} />
    </section>
  );
}

/** What it limits and to what, which axle, and where it is written. */
function saidOf(rule: Rule, document: Document, units: Units): string {
  const said: string[] = [];
  const named = (name: string) => {
    const spot = spotsOf(document).find((one) => one.name === name);
    return (spot ? mountLabel(spot) : words(name)).toLowerCase();
  };
  if (rule.kind === "figure") said.push(figureOf(rule.figure)?.name.toLowerCase() ?? rule.figure);
  if (rule.kind === "distance") said.push(`${named(rule.from)} to ${named(rule.to)}`);
  if (rule.kind === "height") said.push(`height of ${named(rule.of)}`);
  if (rule.kind === "hand") said.push("looked at by hand");
  else said.push(bandWords(rule.low ?? null, rule.high ?? null, quantityIn(rule.kind, rule.kind === "figure" ? rule.figure : ""), units)); // prettier-ignore
  if (rule.end) said.push(`${rule.end} axle`);
  if (rule.written) said.push(rule.written);
  return said.join(", ");
}

const quantityIn = (kind: Kind, figure: string) =>
  QUANTITIES[kind === "figure" ? (figureOf(figure)?.unit ?? "mm") : "mm"];

const KINDS: readonly [Kind, string][] = [
  ["figure", "Limits a figure"],
  ["distance", "Limits a distance between mounts"],
  ["height", "Limits a mount’s height"],
  ["hand", "Is looked at by hand"],
];

/** The figures that a design is judged by, with their axle where they are of one alone. */
const figures = (): [string, string][] =>
  theRegister()
    .figures.filter((one) => one.verdict && one.how && !["mount", "pair", "member", "rule"].includes(one.of))
    .map(({ id, name, end }) => [id, end ? `${name}, ${end}` : name]);

const BLANK = { words: "", written: "", low: "", high: "" };
const FIELDS = { words: "What it says", written: "Where it is written", low: "At least", high: "At most" };

function RuleForm({ truck, document, units }: Shown) {
  const edit = useTruck((s) => s.edit);
  const mounts = spotsOf(document).map((spot) => [spot.name, mountLabel(spot)] as const);
  const [texts, setTexts] = useDraft("rule", BLANK);
  const [kind, setKind] = useDraft<Kind>("rule’s kind", "figure");
  const [figure, setFigure] = useDraft("rule’s figure", "anti_squat");
  const [from, setFrom] = useState(mounts[0]?.[0] ?? "");
  const [to, setTo] = useState(mounts[1]?.[0] ?? "");
  const [end, setEnd] = useState<"both" | "front" | "rear">("both");
  const [why, setWhy] = useState<string | null>(null);
  const submit = async (event: SubmitEvent) => {
    event.preventDefault();
    const rule = ruleFrom({ kind, figure, from, to, end, texts, units, taken: truck.rules });
    if (typeof rule === "string") setWhy(rule);
    else if (await edit({ ...truck, rules: [...truck.rules, rule] })) setTexts(BLANK);
  };
  const field = (key: keyof typeof BLANK) => (
    <label key={key}>
      {FIELDS[key]}
      <input
        value={texts[key]}
        autoComplete="off"
        onChange={(event) => {
          setWhy(null);
          setTexts({ ...texts, [key]: event.target.value });
        }}
      />
    </label>
  );
  return (
    <Form onSubmit={(event) => void submit(event)} aria-label="Add a rule">
      {field("words")}
      {field("written")}
      <Choice label="How it is held" value={kind} options={KINDS} onChange={setKind} />
      {kind === "figure" && <Choice label="Figure" value={figure} options={figures()} onChange={setFigure} />}
      {(kind === "distance" || kind === "height") && (
        <Choice label="Mount" value={from} options={mounts} onChange={setFrom} />
      )}
      {kind === "distance" && <Choice label="To mount" value={to} options={mounts} onChange={setTo} />}
      {kind !== "hand" && [field("low"), field("high")]}
      <Choice label="For which axle" value={end} options={AXLES} onChange={setEnd} />
      <Button type="submit">Add the rule</Button>
      {why !== null && <Trouble role="alert">{why}</Trouble>}
    </Form>
  );
}

const AXLES = [
  ["both", "Both axles"],
  ["front", "Front axle"],
  ["rear", "Rear axle"],
] as const;

interface Typed {
  kind: Kind;
  figure: string;
  from: string;
  to: string;
  end: "both" | "front" | "rear";
  texts: typeof BLANK;
  units: Units;
  taken: readonly Rule[];
}

/** The rule that was typed, or what is wrong with it. */
function ruleFrom({ kind, figure, from, to, end, texts, units, taken }: Typed): Rule | string {
  if (texts.words.trim() === "") return "Say what the rule says.";
  const base = {
    id: freeId(taken, "rule-"),
    words: texts.words.trim(),
    written: texts.written.trim(),
    end: end === "both" ? null : end,
  };
  if (kind === "hand") return { ...base, kind, checked: false, by: "" };
  const read = (text: string) =>
    text.trim() === "" ? null : readQuantity(text, quantityIn(kind, figure), units);
  const [low, high] = [read(texts.low), read(texts.high)];
  if (typeof low === "string") return low;
  if (typeof high === "string") return high;
  if (low === null && high === null) return "Give the least or the most that is allowed.";
  if (low !== null && high !== null && low > high) return "The least is more than the most.";
  const limits = { ...base, low, high };
  if (kind === "figure") return { ...limits, kind, figure };
  return kind === "height" ? { ...limits, kind, of: from } : { ...limits, kind, from, to };
}
